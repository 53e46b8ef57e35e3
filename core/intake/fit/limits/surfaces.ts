import type { MaterialSpec } from '../../../document/schema.ts';
import { item, type Limit } from '../limit.ts';
import type { SurfacePart } from '../target.ts';

/** Whether a material has a part, the values that are left when it has not, and what that looks like. */
const PARTS: Record<
  SurfacePart,
  { has: (material: MaterialSpec) => boolean; left: Partial<MaterialSpec>; looks: string }
> = {
  transmission: { has: (m) => m.transmission > 0, left: { transmission: 0 }, looks: 'glass is opaque' },
  attenuation: {
    has: (m) => m.transmission > 0 && m.attenuationDistance !== null && m.attenuationColour.some((c) => c < 1),
    left: { attenuationDistance: null },
    looks: 'what was tinted by its depth is clear',
  },
  coat: { has: (m) => m.coat !== null, left: { coat: null }, looks: 'the gloss of coats is gone' },
  bump: { has: (m) => m.bumpMap !== null && m.bumpDepth !== 0, left: { bumpMap: null }, looks: 'relief is flat' },
  displacement: {
    has: (m) => m.displacementMap !== null && m.displacementScale !== 0,
    left: { displacementMap: null },
    looks: 'what was displaced is smooth, its outline too',
  },
  'normal map': { has: (m) => m.normalMap !== null, left: { normalMap: null }, looks: 'fine relief is flat' },
  'cut-out': { has: (m) => m.alphaMode === 'mask', left: { alphaMode: 'opaque' }, looks: 'cut-outs are whole sheets' },
  'see-through': {
    has: (m) => m.alphaMode === 'blend',
    left: { alphaMode: 'opaque' },
    looks: 'what let through is solid',
  },
  emission: {
    has: (m) => m.emissionStrength > 0 && m.emission.some((c) => c > 0),
    left: { emissionStrength: 0 },
    looks: 'what glows is dark, and its light is missing',
  },
};

export const surfaces: Limit = {
  id: 'surfaces',
  title: 'Material features',
  run({ document, target }) {
    const items = [];
    const looks = new Set<string>();
    const values: Record<string, unknown> = {};
    for (const [id, material] of Object.entries(document.materials))
      for (const part of target.surfaces.without) {
        if (!PARTS[part].has(material)) continue;
        items.push(item(`/materials/${id}`, `"${material.name || id}" loses its ${part}`));
        looks.add(PARTS[part].looks);
        for (const [key, value] of Object.entries(PARTS[part].left)) values[`/materials/${id}/${key}`] = value;
      }
    const told = [...looks].join('; ');
    return items.length ? { fate: 'dropped', items, looks: `${told[0].toUpperCase()}${told.slice(1)}.`, values } : null;
  },
};
