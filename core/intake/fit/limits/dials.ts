import { dialAt } from '../../../document/dials.ts';
import { valueAt } from '../../../document/patch.ts';
import { defaultSheet } from '../../../document/defaults.ts';
import { item, type Limit } from '../limit.ts';

/** Dials that decide noise and look, which a target may not have. */
const MATTER = ['/extraSamples/light', '/extraSamples/diffuse', '/extraSamples/specular', '/extraSamples/transmission', '/extraSamples/volume', '/adaptive/on', '/clamps/direct', '/clamps/indirect', '/clamps/bounced', '/roughnessFloor', '/rayDistance']; // prettier-ignore

export const dials: Limit = {
  id: 'dials',
  title: 'Controls the target lacks',
  run({ document, target }) {
    if (target.dials === null) return null;
    const has = new Set(target.dials.flatMap(({ ours }) => ours));
    const { final } = document.sheets;
    const plain = defaultSheet();
    const values: Record<string, unknown> = {};
    const items = MATTER.flatMap((pointer) => {
      const [own, without] = [valueAt(final, pointer), valueAt(plain, pointer)];
      if (has.has(pointer) || own === without) return [];
      values[pointer] = without;
      return [item(`final sheet ${pointer}`, `${dialAt(pointer).label.toLowerCase()} ${JSON.stringify(own)}`)];
    });
    return items.length
      ? {
          fate: 'dropped',
          items,
          looks: 'Noise is distributed differently, and what was clamped comes back as fireflies.',
          values,
        }
      : null;
  },
};
