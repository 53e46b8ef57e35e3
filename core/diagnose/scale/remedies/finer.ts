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
        ? 'Vertices hold the distance, and stay as coarse as they came: preflight has a repair that puts their pivots amid them, or bring the mesh in about its own origin.'
        : 'Objects, what moves them, lights, cameras and fog, as one change: nothing else changes.',
  };
  const double: Proposal = {
    id: 'double',
    title: 'Positions of 64 bits',
    change: { kind: 'values', values: { '/precision': 'double' } },
    note: 'Not every renderer has them: the shot still stands out there.',
  };
  return Object.keys(values).length <= MOST ? [move, double] : [double];
};
