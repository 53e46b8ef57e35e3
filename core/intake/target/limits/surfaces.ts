import { MAP_SLOTS } from '../../../document/check-references.ts';
import type { MaterialSpec } from '../../../document/schema.ts';
import { item, type Limit } from '../limit.ts';
import type { SurfacePart } from '../target.ts';

/** Whether a material has a part, and the values that are left when it has not. */
const PARTS: Record<SurfacePart, { has: (material: MaterialSpec) => boolean; left: Partial<MaterialSpec> }> = {
  transmission: { has: (m) => m.transmission > 0, left: { transmission: 0 } },
  attenuation: {
    has: (m) => m.transmission > 0 && m.attenuationDistance !== null && m.attenuationColour.some((c) => c < 1),
    left: { attenuationDistance: null },
  },
  coat: { has: (m) => m.coat !== null, left: { coat: null } },
  bump: { has: (m) => m.bumpMap !== null && m.bumpDepth !== 0, left: { bumpMap: null } },
  'normal map': { has: (m) => m.normalMap !== null, left: { normalMap: null } },
  'cut-out': { has: (m) => m.alphaMode === 'mask', left: { alphaMode: 'opaque' } },
  'see-through': { has: (m) => m.alphaMode === 'blend', left: { alphaMode: 'opaque' } },
  emission: { has: (m) => m.emissionStrength > 0 && m.emission.some((c) => c > 0), left: { emissionStrength: 0 } },
};

export const surfaces: Limit = {
  id: 'surfaces',
  title: 'Parts of surfaces',
  run({ document, target }) {
    const items = [];
    const values: Record<string, unknown> = {};
    for (const [id, material] of Object.entries(document.materials))
      for (const part of target.surfaces.without) {
        const { has, left } = PARTS[part];
        if (!has(material)) continue;
        items.push(item(`/materials/${id}`, `"${material.name || id}" loses its ${part}`));
        for (const [key, value] of Object.entries(left)) values[`/materials/${id}/${key}`] = value;
      }
    const worn = MAP_SLOTS.some((slot) => Object.keys(values).some((path) => path.endsWith(slot)));
    return items.length
      ? {
          fate: 'dropped',
          items,
          looks: `Those surfaces come out plainer${worn ? ' and flatter' : ''}: what is behind glass is hidden, tints and gloss are gone.`,
          values,
        }
      : null;
  },
};
