/** Colour images with their edges put right. */
import type { RepairWork } from '../../contracts/intake.ts';
import type { JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { mendAlpha } from '../../textures/mend-alpha.ts';
import type { NewFiles } from './new-files.ts';
import { renewTextures } from './renew-textures.ts';

const SUFFIX = { divide: 'straight', bleed: 'bled' };

/** @throws RangeError when an image is not there or cannot be read */
export const mendAlphas = (document: ShotDocument, { how, textures }: Extract<RepairWork, { kind: 'mend alpha' }>, files: NewFiles): Promise<JsonPatch> =>
  renewTextures(document, textures.map((id) => ({ id, suffix: SUFFIX[how], make: (texture) => mendAlpha(how, texture) })), files); // prettier-ignore
