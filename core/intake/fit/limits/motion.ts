import { item, type Limit } from '../limit.ts';

const ORDER = ['static', 'transform', 'deforming'];

export const motion: Limit = {
  id: 'motion',
  title: 'Motion',
  run({ document, target }) {
    const most = target.motion === 'none' ? 0 : ORDER.indexOf(target.motion);
    const values: Record<string, unknown> = {};
    const items = Object.entries(document.objects).flatMap(([id, object]) => {
      if (object.hidden || ORDER.indexOf(object.motion) <= most) return [];
      values[`/objects/${id}/motion`] = ORDER[most];
      return [item(`/${id}`, object.motion === 'deforming' ? 'changes its shape' : 'moves')];
    });
    return items.length
      ? { fate: 'dropped', items, looks: 'They stand still, without motion blur, for the whole sequence.', values }
      : null;
  },
};
