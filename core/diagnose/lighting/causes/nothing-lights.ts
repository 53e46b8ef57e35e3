/** There is no light, or none of it gets to what the camera sees. */
import type { Cause } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const nothingLights: Cause<LightingCase> = {
  id: 'lighting.nothing-lights',
  share(of) {
    if (of.kind !== 'dark' || of.isEmpty) return null;
    const all = of.off.length + of.on.length;
    return all === 0 ? 1 : of.on.length / all || null;
  },
};
