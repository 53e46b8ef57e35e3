/** How large a target bakes a map: the sheet's size, the map's own, or the smaller of both. */
import type { SheetName } from '../../document/schema.ts';
import type { Target } from './target.ts';

/** @example bakeSize(target, 'final', 'ripples'); // { texels: 2048, from: 'the default of the final' } */
export function bakeSize({ bake }: Target, sheet: SheetName, map: string): { texels: number; from: string } {
  const standard = { texels: Math.min(bake[sheet], bake.most), from: `the default of the ${sheet}` };
  const own = Object.hasOwn(bake.own, map)
    ? { texels: Math.min(bake.own[map], bake.most), from: 'the map’s own' }
    : null;
  if (!own || bake.wins === 'sheet') return standard;
  return bake.wins === 'own' || own.texels < standard.texels ? own : standard;
}
