/** One thing that can be wrong with a texture: a file each in `faults`, and a line in `case.ts`. */
import type { Evidence, Severity } from '../../contracts/finding.ts';
import type { CauseId } from '../catalogue.ts';
import type { Proposal, RenderInput, Words } from '../family.ts';
import type { MapUse } from './uses.ts';

export interface Told {
  /** A part of the key: what it is about. */
  about: string;
  severity?: Severity;
  /** Names of objects, and pixels of the full frame. */
  objects: string[];
  pixels: number[];
  passes?: string[];
  words: Words;
  proposals: Proposal[];
  evidence?: Evidence[];
  measured?: Record<string, number>;
}

export interface TextureFault {
  cause: CauseId;
  /** @param uses every image map that is seen */
  find(uses: MapUse[], input: RenderInput): Told[];
}
