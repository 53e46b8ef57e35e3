/** A fault that is planted in a healthy shot, one a case. */
import type { CauseId } from '../../../core/diagnose/catalogue.ts';
import type { Draft } from '../shots.ts';

export interface Fault {
  cause: CauseId;
  /** Causes that are as true a name for it. */
  also?: CauseId[];
  /** It lies upstream of noise: noise must not come first. */
  isUpstream?: boolean;
  /** The dial whose samples must be the cheapest cure, measured, before the case is one. */
  dial?: 'light' | 'diffuse' | 'specular' | 'transmission' | 'volume' | 'samples';
  plant(draft: Draft): void;
}

export const clearGlass = { baseColour: [1, 1, 1], transmission: 1, roughness: 0, ior: 1.5 };
/** Samples per pixel, in place of what the shot has. */
export const fewer = ({ sheet }: Draft, samples: number) => (sheet.samples = samples);
