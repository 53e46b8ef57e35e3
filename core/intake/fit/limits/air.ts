import { item, type Limit } from '../limit.ts';

export const air: Limit = {
  id: 'air',
  title: 'Fog and background',
  run({ document, target }) {
    const values: Record<string, unknown> = {};
    const items = [];
    if (document.fog && document.fog.density > 0 && !target.fog) {
      values['/fog/density'] = 0;
      items.push(item('fog', `of ${document.fog.density} per metre`));
    }
    if (document.background && !target.background) {
      values['/background'] = null;
      items.push(item('background', 'the camera sees what lights the scene instead'));
    }
    return items.length
      ? { fate: 'dropped', items, looks: 'The volume is clear and the background differs.', values }
      : null;
  },
};
