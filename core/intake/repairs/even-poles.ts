/** Environment images whose poles are of one colour. */
import type { RepairWork } from '../../contracts/intake.ts';
import type { JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { withEvenPoles } from '../../textures/poles.ts';
import type { NewFiles } from './new-files.ts';
import { renewTextures } from './renew-textures.ts';

/** @throws RangeError when an image is not there or cannot be read */
export const evenPoles = (document: ShotDocument, { textures }: Extract<RepairWork, { kind: 'even poles' }>, files: NewFiles): Promise<JsonPatch> =>
  renewTextures(document, Object.entries(textures).map(([id, rows]) => ({ id, suffix: 'even-poles', make: (texture) => withEvenPoles(texture, rows) })), files); // prettier-ignore
