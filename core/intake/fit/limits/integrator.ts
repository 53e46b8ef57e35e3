import { item, type Limit } from '../limit.ts';

export const integrator: Limit = {
  id: 'integrator',
  title: 'Indirect light',
  run({ document, target }) {
    const { limits } = document.sheets.final;
    if (target.integrator === 'all bounces' || limits.diffuse <= 1) return null;
    return {
      fate: 'dropped',
      items: [item('final sheet /limits/diffuse', `${limits.diffuse} here; direct light only there`)],
      looks: 'Anything without direct light is black; rooms are darker and harsher.',
      values: { '/limits/diffuse': 1 },
    };
  },
};
