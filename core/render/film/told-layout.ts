/** Where each number of a pixel stands in a film: the debug view of `passes.ts`. */
import { CUTS, groupWidth, LIGHT_PASSES, MEAN_ALBEDO, MEAN_CLAMPED, MEAN_COVERAGE, MEAN_CUT, MEAN_DEPTH, MEAN_MATERIAL, MEAN_MOTION, MEAN_NORMAL, MEAN_OBJECT, MEAN_POSITION, MEAN_RAYS, MEAN_UV, MEANS, meansOf, occlusionAt, shadowsAt, type FilmLayout } from './passes.ts'; // prettier-ignore

export interface LayoutRow {
  /** Of the pixel's means, in 32-bit floats. */
  at: number;
  floats: number;
  name: string;
}

/** @returns rows without a gap from 0 to `meansOf(layout)` */
export function layoutRows(layout: FilmLayout): LayoutRow[] {
  const rows: LayoutRow[] = [];
  const put = (at: number, floats: number, name: string) => rows.push({ at, floats, name });
  LIGHT_PASSES.forEach((pass, k) => put(k * 3, 3, pass));
  CUTS.forEach((cut, k) => put(MEAN_CUT + k, 1, `cut.${cut}`));
  put(MEAN_RAYS, 1, 'cost');
  put(MEAN_CLAMPED, 1, 'clamped');
  put(MEAN_COVERAGE, 1, 'coverage');
  put(MEAN_DEPTH, 1, 'depth');
  put(MEAN_POSITION, 3, 'position');
  put(MEAN_NORMAL, 3, 'normal');
  put(MEAN_UV, 2, 'uv');
  put(MEAN_ALBEDO, 3, 'albedo');
  put(MEAN_MOTION, 2, 'motion');
  put(MEAN_OBJECT, 1, 'object.coverage');
  put(MEAN_MATERIAL, 1, 'material.coverage');
  const width = groupWidth(layout);
  layout.groups.forEach((group, k) => put(MEANS + k * width * 3, width * 3, `group.${group}`));
  layout.shadows.forEach((light, k) => put(shadowsAt(layout) + k, 1, `shadow.${light}`));
  if (layout.occlusion) put(occlusionAt(layout), 1, 'occlusion');
  const end = rows.reduce((sum, { floats }) => sum + floats, 0);
  if (end !== meansOf(layout)) throw new RangeError(`rows of ${end} floats do not fill a film of ${meansOf(layout)}`);
  return rows;
}
