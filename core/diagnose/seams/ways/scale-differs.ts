/** Objects that meet are moved by different amounts: their materials have scales or rest levels of their own. */
import type { Way } from '../way.ts';

export const scaleDiffers: Way = {
  cause: 'seams.scale-differs',
  values({ state: { document }, ids }) {
    const materials = [...new Set(ids.map((id) => document.objects[id].material))];
    const [first] = materials.sort((a, b) => Math.abs(document.materials[b].displacementScale) - Math.abs(document.materials[a].displacementScale) || (a < b ? -1 : 1)); // prettier-ignore
    const { displacementScale, displacementRest } = document.materials[first];
    const others = materials.filter((id) => document.materials[id].displacementScale !== displacementScale || document.materials[id].displacementRest !== displacementRest); // prettier-ignore
    if (others.length === 0) return null;
    return Object.fromEntries(
      others.flatMap((id) => [
        [`/materials/${id}/displacementScale`, displacementScale],
        [`/materials/${id}/displacementRest`, displacementRest],
      ]),
    );
  },
};
