import { invert } from '../../../data/transform.ts';
import { item, type Limit } from '../limit.ts';

/** A floor of geometry ends where less than half a pixel is left up to the horizon. */
export const floors: Limit = {
  id: 'floors',
  title: 'Endless floors',
  run({ document, target }) {
    if (target.floors) return null;
    const camera = document.cameras[document.camera];
    const pixel = (camera.fieldOfView * Math.PI) / 180 / document.sheets.final.height;
    const sides: Record<string, number> = {};
    const values: Record<string, unknown> = {};
    const items = Object.entries(document.objects).flatMap(([id, { shape, hidden, transform }]) => {
      if (shape !== 'floor' || hidden) return [];
      const local = invert(transform);
      const [x, y, z] = [0, 1, 2].map(
        (r) =>
          local[r] * camera.transform[12] +
          local[4 + r] * camera.transform[13] +
          local[8 + r] * camera.transform[14] +
          local[12 + r],
      );
      // The square lies around the floor's own origin; what lies below the horizon by half a pixel is h / (pixel / 2) away.
      const reach = Math.abs(y) / (pixel / 2) + Math.hypot(x, z);
      sides[id] = Math.min(1e6, Math.max(10, +(2 * reach).toPrecision(2)));
      values[`/objects/${id}/hidden`] = true;
      return [item(`/${id}`, `an endless floor; ${sides[id].toLocaleString('en')} m across reach to half a pixel from the horizon`)]; // prettier-ignore
    });
    return items.length
      ? {
          fate: 'dropped',
          items,
          looks: 'The floor is missing: objects float and cast no shadow on it.',
          values,
          repair: { label: 'Replace them with square meshes', patch: [], work: { kind: 'end floors', sides } },
        }
      : null;
  },
};
