/** Occlusion over the frame at every distance, for a page that draws it. */
import type { ToldOcclusion } from '../contracts/occlusion.ts';
import type { Sheet } from '../document/schema.ts';
import { placesOver } from '../place/grid.ts';
import type { CompiledScene } from '../render/scene/scene.ts';
import { occlusionCurve } from './curve.ts';
import { OcclusionWalk, traceDistances } from './distances.ts';

/** Blocks over the frame, about. */
const BLOCKS = 6000;

export function tellOcclusion(scene: CompiledScene, sheet: Sheet): ToldOcclusion {
  const { occlusion } = sheet;
  const walk = new OcclusionWalk(scene, sheet);
  const { step, places } = placesOver(walk, sheet, BLOCKS, !occlusion.seeThrough);
  const across = (pixels: number) => Math.max(0, Math.ceil((pixels - (step >> 1)) / step));
  const [width, height] = [across(sheet.width), across(sheet.height)];
  const traced = traceDistances(walk, occlusion, places);
  const cells = Int32Array.from(places, ({ x, y }) => Math.floor(y / step) * width + Math.floor(x / step));
  const { rays, first, solid, left } = traced;
  return { width, height, cells, rays, first, solid, left, seeThrough: occlusion.seeThrough, distance: occlusion.distance, curve: occlusionCurve(traced, occlusion.seeThrough) }; // prettier-ignore
}
