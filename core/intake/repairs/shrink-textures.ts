/** Images with fewer texels. */
import type { RepairWork } from '../../contracts/intake.ts';
import type { JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { shrunk } from '../../textures/shrink.ts';
import type { NewFiles } from './new-files.ts';
import { renewTextures } from './renew-textures.ts';

/** @throws RangeError when an image is not there or cannot be read */
export const shrinkTextures = (document: ShotDocument, { textures }: Extract<RepairWork, { kind: 'shrink textures' }>, files: NewFiles): Promise<JsonPatch> =>
  renewTextures(document, Object.entries(textures).map(([id, times]) => ({ id, suffix: `by-${2 ** times}`, make: (texture) => shrunk(texture, times) })), files); // prettier-ignore
