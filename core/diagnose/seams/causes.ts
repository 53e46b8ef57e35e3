/** What each reason explains of the gaps: what it closes when it is left out, see `case.ts`. */
import type { CauseId } from '../catalogue.ts';
import type { Cause } from '../family.ts';
import type { SeamCase } from './case.ts';

const IDS: CauseId[] = ['seams.tile-missing', 'seams.scale-differs', 'seams.split-normals', 'seams.uv-rule', 'seams.tile-edge', 'seams.filter-across', 'seams.no-padding', 'seams.sides-differ']; // prettier-ignore
/** Parts of the gaps that are worth a word. */
const TOLD = 0.03;

export const causes: Cause<SeamCase>[] = IDS.map((id) => ({
  id,
  isIndependent: true,
  share({ shares }) {
    const share = shares.get(id) ?? 0;
    return share >= TOLD ? share : null;
  },
}));
