import { item, type Limit } from '../limit.ts';
import { metres } from '../../preflight/tell.ts';

/** Share of a pixel from which on a step of positions shows. */
const SHOWS = 0.25;

export const precision: Limit = {
  id: 'precision',
  title: 'Precision of positions',
  run({ document, scene, target }) {
    if (target.precision === 'double') return null;
    const camera = document.cameras[document.camera];
    const eye = camera.transform.slice(12, 15);
    const pixel = (2 * Math.tan((camera.fieldOfView * Math.PI) / 360)) / document.sheets.final.height;
    const items = scene.objects.flatMap((object) => {
      const { min, max } = scene.worldBounds(object);
      if (!min.every(Number.isFinite)) return [];
      const away = Math.max(...min.map((v, a) => Math.max(Math.abs(v), Math.abs(max[a]))));
      // Distance to the nearest point of its bounds: there a step is largest in the picture.
      const near = Math.max(0.01, Math.hypot(...eye.map((v, a) => Math.max(min[a] - v, 0, v - max[a]))));
      const step = 2 ** (Math.floor(Math.log2(away)) - 23);
      const share = step / (near * pixel);
      return share >= SHOWS
        ? [item(object.node.path, `steps of ${metres(step)}, ${share.toPrecision(2)} pixels of the final`)]
        : [];
    });
    return items.length
      ? {
          fate: 'limited',
          items,
          looks: 'Edges jitter from frame to frame, shadows break up.',
          values: { '/precision': 'single' },
        }
      : null;
  },
};
