import { item, type Limit } from '../limit.ts';
import { bytes } from '../../preflight/tell.ts';
import { weightOf } from '../weight.ts';

export const memory: Limit = {
  id: 'memory',
  title: 'Memory',
  run({ scene, target }) {
    const { bytes: most, perTriangle, perTexel } = target.memory;
    if (most === null) return null;
    const { triangles, texels } = weightOf(scene);
    const needed = triangles * perTriangle + texels * perTexel;
    if (needed <= most) return null;
    return {
      fate: 'limited',
      items: [
        item('geometry', `${triangles.toLocaleString('en')} triangles, ${bytes(triangles * perTriangle)}`),
        item('textures', `${(texels / 1e6).toFixed(1)} M texels, ${bytes(texels * perTexel)}`),
      ],
      looks: `It needs ${bytes(needed)} of ${bytes(most)}: the render is killed, or crawls.`,
    };
  },
};
