import { item, type Limit } from '../limit.ts';
import { depthIn } from '../depth-in.ts';

export const depth: Limit = {
  id: 'depth',
  title: 'Depth limits',
  run({ document, target }) {
    const { limits } = document.sheets.final;
    const values: Record<string, unknown> = {};
    const items = depthIn(target, limits).flatMap(({ name, ours, value, cutTo }) => {
      if (cutTo === null) return [];
      for (const [kind, n] of Object.entries(cutTo)) values[`/limits/${kind}`] = n;
      return [item(`final sheet /limits/${ours[0]}`, `${value} wanted as "${name}"; the target goes to ${target.depth.most}`)]; // prettier-ignore
    });
    return items.length
      ? { fate: 'limited', items, looks: 'Paths end earlier: dark glass, dark corners.', values }
      : null;
  },
};
