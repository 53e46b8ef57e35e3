/** Occlusion over the frame at every distance, for a page that draws it. */
import type { ToldOcclusion } from '../contracts/occlusion.ts';
import type { Sheet } from '../document/schema.ts';
import { cellsOf, placesOver } from '../place/grid.ts';
import type { CompiledScene } from '../render/scene/scene.ts';
import { occlusionCurve } from './curve.ts';
import { OcclusionWalk, traceDistances } from './distances.ts';

/** Blocks over the frame, about. */
const BLOCKS = 6000;

export function tellOcclusion(scene: CompiledScene, sheet: Sheet): ToldOcclusion {
  const { occlusion } = sheet;
  const walk = new OcclusionWalk(scene, sheet);
  const { step, places } = placesOver(walk, sheet, BLOCKS, !occlusion.seeThrough);
  const traced = traceDistances(walk, occlusion, places);
  const grid = cellsOf(sheet, step, places);
  const { rays, first, solid, left, layers } = traced;
  return { ...grid, rays, first, solid, left, layers, seeThrough: occlusion.seeThrough, falloff: occlusion.falloff, distance: occlusion.distance, curve: occlusionCurve(traced, occlusion) }; // prettier-ignore
}
