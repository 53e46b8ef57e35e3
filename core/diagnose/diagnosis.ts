/** What a family of problems needs and gives. A new family is a new folder and one line in `registry.ts`. */
import type { FindingWithMask } from '../contracts/finding.ts';
import type { Picture } from '../data/picture.ts';
import type { ControlValues } from '../document/set-values.ts';
import type { Sheet, ShotDocument } from '../document/schema.ts';
import type { ChangeSide } from '../predict/small-render.ts';
import type { CompiledScene } from '../render/scene/scene.ts';

export interface DiagnosisInput {
  document: ShotDocument;
  /** The sheet the render was made with. */
  sheet: Sheet;
  scene: CompiledScene;
  /** The passes that the family needs, over the full frame. */
  picture: Picture;
  /** The scene and the sheet with some controls set otherwise; the samples stay as rendered unless they are set. */
  vary(values: ControlValues): ChangeSide;
  /** For pilots; never a seed that a render or trial of this shot uses. */
  pilotSeed: number;
}

export interface Diagnosis {
  id: string;
  title: string;
  /** Passes it looks at. */
  needs: readonly string[];
  /** Finds, explains and computes remedies. Empty when nothing is wrong. */
  examine(input: DiagnosisInput): FindingWithMask[];
}
