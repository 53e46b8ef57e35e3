/**
 * Repairs carried out: what a check offers becomes one patch of the document and the new files that the patch
 * names. Nothing that is there is overwritten, so that undo leads back to a shot that still has its files.
 *
 * @example
 * const { patch, files } = await carryOut(document, check.repair, read);
 * const mended = applyPatch(document, patch);
 */
import type { PreflightRepair, RepairWork } from '../../contracts/intake.ts';
import type { JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';
import type { ReadFile } from '../../render/compile/load-assets.ts';
import { bakeMaps } from './bake-maps.ts';
import { carryTransforms } from './carry-transforms.ts';
import { centrePivots } from './centre-pivots.ts';
import { endFloors } from './end-floors.ts';
import { evenPoles } from './even-poles.ts';
import { mendAlphas } from './mend-alphas.ts';
import { mendMeshes } from './mend-meshes.ts';
import { mendSeams } from './mend-seams.ts';
import { NewFiles } from './new-files.ts';
import { shrinkTextures } from './shrink-textures.ts';
import { undoCurves } from './undo-curves.ts';

export interface CarriedOut {
  patch: JsonPatch;
  /** New files by path. */
  files: Map<string, Uint8Array>;
}

/** @throws RangeError when a file the work needs is not there or cannot be read */
export async function carryOut(
  document: ShotDocument,
  { patch, work }: Pick<PreflightRepair, 'patch' | 'work'>,
  read: ReadFile,
): Promise<CarriedOut> {
  const files = new NewFiles(document, read);
  const made = work ? await workOn(document, work, files) : [];
  return { patch: [...patch, ...made], files: files.made };
}

function workOn(document: ShotDocument, work: RepairWork, files: NewFiles): Promise<JsonPatch> {
  switch (work.kind) {
    case 'mend meshes':
      return mendMeshes(document, work, files);
    case 'carry transforms':
      return carryTransforms(document, work, files);
    case 'centre pivots':
      return centrePivots(document, work, files);
    case 'bake maps':
      return bakeMaps(document, work, files);
    case 'mend seams':
      return mendSeams(document, work, files);
    case 'mend alpha':
      return mendAlphas(document, work, files);
    case 'shrink textures':
      return shrinkTextures(document, work, files);
    case 'even poles':
      return evenPoles(document, work, files);
    case 'undo curve':
      return undoCurves(document, work, files);
    case 'end floors':
      return endFloors(document, work, files);
  }
}
