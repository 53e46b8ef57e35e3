/** Images of floats whose display curve is undone. */
import type { RepairWork } from '../../contracts/intake.ts';
import type { JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { withoutCurve } from '../../textures/read-as.ts';
import type { NewFiles } from './new-files.ts';
import { renewTextures } from './renew-textures.ts';

/** @throws RangeError when an image is not there or cannot be read */
export const undoCurves = (document: ShotDocument, { textures }: Extract<RepairWork, { kind: 'undo curve' }>, files: NewFiles): Promise<JsonPatch> =>
  renewTextures(document, textures.map((id) => ({ id, suffix: 'linear', make: withoutCurve })), files); // prettier-ignore
