/** A cause of noise that more samples only hide: proved by taking it away. A new one is a file and a line in `registry.ts`. */
import type { ControlValues } from '../../../document/set-values.ts';
import type { DiagnosisInput } from '../../diagnosis.ts';

export interface Suspect {
  id: string;
  /** "texture finer than pixels", for the headline where most of the noise goes with it. */
  told: string;
  /** What takes it away. */
  values: ControlValues;
  /** As a remedy; null where taking it away would take what is wanted. */
  remedy: { title: string; note: string } | null;
}

/** @returns null where there is nothing of the kind */
export type Suspicion = (input: DiagnosisInput) => Suspect | null;
