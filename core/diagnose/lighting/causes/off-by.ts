import type { CauseId } from '../../catalogue.ts';
import type { Cause } from '../../family.ts';
import type { Off } from '../dark.ts';
import type { LightingCase } from '../definition.ts';

/** Lights that give nothing for one reason: its share of those that give nothing, where none shines. */
export const offBy = (id: CauseId, why: Off): Cause<LightingCase> => ({
  id,
  share(of) {
    if (of.kind === 'dead') return of.why === 'linked-away' && why === 'linked away' ? 1 : null;
    if (of.kind !== 'dark' || of.isEmpty) return null;
    const own = of.off.filter((one) => one.why === why).length;
    return own > 0 ? own / (of.off.length + of.on.length) : null;
  },
});
