import type { LightSpec } from '../../../document/schema.ts';
import { item, type Limit } from '../limit.ts';

export const lights: Limit = {
  id: 'lights',
  title: 'Light types',
  run({ document, target }) {
    const without = target.lights.without as string[];
    const values: Record<string, unknown> = {};
    const items = Object.entries(document.lights).flatMap(([id, light]) => {
      if (light.hidden || !without.includes(light.kind)) return [];
      values[`/lights/${id}/hidden`] = true;
      return [
        item(light.name || id, `a ${light.kind} light${without.includes('rectangle') ? '' : asRectangle(light)}`),
      ];
    });
    const { environment } = document;
    if (!target.lights.environmentImages && environment.kind === 'image' && environment.intensity > 0) {
      values['/environment/intensity'] = 0;
      items.push(item('environment', 'an image around the scene'));
    }
    return items.length ? { fate: 'dropped', items, looks: 'Their light is missing from the picture.', values } : null;
  },
};

/** The rectangle that gives the same power: equal area at equal radiance. */
const asRectangle = (light: LightSpec): string => {
  if (light.kind !== 'disc') return '';
  const side = light.radius * Math.sqrt(Math.PI);
  return `; a rectangle of ${side.toPrecision(3)} × ${side.toPrecision(3)} m at the same intensity gives the same light`;
};
