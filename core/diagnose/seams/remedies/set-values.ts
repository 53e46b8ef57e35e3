/** The values that leave a reason out: a rule for UVs, a filter, a wrap, one scale. */
import type { Proposal, Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { SeamCase } from '../case.ts';
import type { Way } from '../way.ts';
import { filterAcross } from '../ways/filter-across.ts';
import { scaleDiffers } from '../ways/scale-differs.ts';
import { tileEdge } from '../ways/tile-edge.ts';
import { uvRule } from '../ways/uv-rule.ts';

/** Less of the gaps is not worth a setting. */
const LEAST = 0.05;

const SETTINGS: { way: Way; id: string; title: (of: SeamCase) => string; note?: string }[] = [
  { way: uvRule, id: 'uv-rule', title: ({ objects }) => `Hold the whole border of every UV island of ${listed(objects)}`, note: 'As maps are baked. Inside islands UVs are smoothed as before.' },
  { way: scaleDiffers, id: 'one-scale', title: ({ objects }) => `Give ${listed(objects)} one displacement scale and rest level`, note: 'The larger scale of the two.' },
  { way: tileEdge, id: 'clamp', title: () => 'Clamp the map at its edge', note: 'Outside 0 to 1 it no longer repeats.' },
  { way: filterAcross, id: 'bilinear', title: () => 'Filter the map over one texel', note: 'Detail finer than the mesh is no longer filtered: it may need one more level.' },
]; // prettier-ignore

export const setValues: Propose<SeamCase> = (of) =>
  SETTINGS.flatMap(({ way, id, title, note }): Proposal[] => {
    const values = (of.shares.get(way.cause) ?? 0) >= LEAST ? way.values!(of.input) : null;
    return values ? [{ id, title: title(of), change: { kind: 'values', values }, note }] : [];
  });
