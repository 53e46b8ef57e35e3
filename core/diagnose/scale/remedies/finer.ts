/** The whole shot moved to the origin, where positions are finest; or positions of 64 bits, where the renderer has them. */
import { recentred } from '../../../document/recentre.ts';
import { metres } from '../../../intake/preflight/tell.ts';
import type { Proposal, Propose } from '../../family.ts';
import type { ScaleCase } from '../case.ts';

/** Items beyond which a move is too long a change to hand about: it belongs into the scene. */
const MOST = 3000;

export const finer: Propose<ScaleCase> = (of) => {
  if (of.kind !== 'coarse') return null;
  const { document, middle, offset } = of;
  const values = recentred(document, middle);
  const move: Proposal = {
    id: 'to-origin',
    title: `Move the whole shot to the origin: ${middle.map((v) => (v > 0 ? '−' : '') + metres(Math.abs(v))).join(', ')}`,
    change: { kind: 'values', values },
    note:
      offset.vertices >= offset.transforms
        ? 'The distance is in the vertices, which stay as coarse as they are: preflight has a repair that centres their pivots, or export the mesh around its own origin.'
        : 'Objects, their animation, lights, cameras and volumes in one change: nothing else changes.',
  };
  const double: Proposal = {
    id: 'double',
    title: 'Positions of 64 bits',
    change: { kind: 'values', values: { '/precision': 'double' } },
    note: 'Not every renderer has them: the shot is still far from the origin.',
  };
  return Object.keys(values).length <= MOST ? [move, double] : [double];
};
