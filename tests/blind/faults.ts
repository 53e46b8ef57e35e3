/** Faults that are planted, one a case; what the cause is called by `core/diagnose/catalogue.ts`. */
import { lookAt, multiply, scaling, translation } from '../../core/data/transform.ts';
import { defaultFog, defaultMap, evenEnvironment } from '../../core/document/defaults.ts';
import type { CauseId } from '../../core/diagnose/catalogue.ts';
import { box } from '../../demo/shapes.ts';
import { sphere, square } from '../unit/helpers.ts';
import type { Draft } from './shots.ts';

export interface Fault {
  cause: CauseId;
  /** Causes that are as true a name for it. */
  also?: CauseId[];
  /** It lies upstream of noise: noise must not come first. */
  isUpstream?: boolean;
  /** The dial whose samples must be the cheapest cure, measured, before the case is one. */
  dial?: 'light' | 'diffuse' | 'specular' | 'transmission' | 'volume' | 'samples';
  plant(draft: Draft): void;
}

const clearGlass = { baseColour: [1, 1, 1], transmission: 1, roughness: 0, ior: 1.5 };
/** Share of what the shot has in samples per pixel. */
const fewer = ({ sheet }: Draft, samples: number) => (sheet.samples = samples);

/** A sky of bright and dark squares beyond everything, hidden from the camera; what stands before it shines evenly by itself. */
function surroundWithSquares(draft: Draft): void {
  const { document } = draft;
  document.lights = {};
  document.environment = evenEnvironment([0, 0, 0]);
  document.maps.squares = { ...defaultMap('checker'), colours: [[0.03, 0.03, 0.03], [0.2, 0.2, 0.2]], scale: [8, 8] }; // prettier-ignore
  for (const id of ['floor', 'back', 'left', 'right'])
    if (document.materials[id]) Object.assign(document.materials[id], { baseColour: [0, 0, 0], specular: 0, emission: [0.06, 0.06, 0.06], sampledAsLight: false }); // prettier-ignore
  draft.put('sky', box([-12, -12, -12], [12, 12, 12]), { emission: [1, 1, 1], emissionMap: 'squares', baseColour: [0, 0, 0], specular: 0, sampledAsLight: false }, { visibility: { camera: false, shadow: true, diffuse: false, specular: true, transmission: true, occlusion: true } }); // prettier-ignore
}

/**
 * Not among them: too few transmission samples. Frosted balls and panes were tried before patterned skies; what a split costs
 * behind the first face was more than it saved, so that samples per pixel were the cheaper cure in each.
 */
export const FAULTS: Fault[] = [
  {
    cause: 'noise.light-samples',
    dial: 'light',
    plant(draft) {
      const { draw, document } = draft;
      const size = draw.within(1.8, 3);
      delete document.lights.fill;
      document.environment = evenEnvironment([0.02, 0.02, 0.02]);
      for (const material of Object.values(document.materials)) Object.assign(material, { baseColour: draw.colour(0.08, 0.16), metallic: 0, specular: 0, roughness: 1 }); // prettier-ignore
      draft.light('key', { kind: 'rectangle', visibility: { camera: false, diffuse: true, specular: true, transmission: true }, transform: lookAt([draw.within(-1.5, 1.5), 2.2, 0.6], [0, 0, 0]), width: size, height: size, intensity: 8 / size ** 2, samples: 1 }); // prettier-ignore
      fewer(draft, 16);
    },
  },
  {
    cause: 'noise.diffuse-samples',
    dial: 'diffuse',
    plant(draft) {
      const { draw, document } = draft;
      // Lit by what bounces alone: the lamp stands behind a screen and shines at the ceiling.
      document.lights = {};
      document.environment = evenEnvironment([0, 0, 0]);
      const wall = { baseColour: [0.75, 0.75, 0.75], roughness: 1, specular: 0 };
      for (const [id, mesh] of Object.entries({
        roof: box([-4, 3, -4], [4, 3.1, 8]),
        rear: box([-4, 0, 7], [4, 3, 7.1]),
        west: box([-4.1, 0, -4], [-4, 3, 8]),
        east: box([4, 0, -4], [4.1, 3, 8]),
        far: box([-4, 0, -4.1], [4, 3, -4]),
      }))
        draft.put(id, mesh, wall);
      for (const id of draft.things) Object.assign(document.materials[id], { metallic: 0, specular: 0, roughness: 1 });
      // In a bright closed room a sixth event still brings much: nothing but samples may be missing.
      Object.assign(draft.sheet.limits, { diffuse: 24, overall: 40 });
      draft.light('up', { kind: 'spot', transform: lookAt([draw.within(-1, 1), 1.6, -1.8], [draw.within(-1, 1), 3, -2]), cone: 60, intensity: 14, samples: 4 }); // prettier-ignore
      fewer(draft, 32);
    },
  },
  {
    cause: 'noise.specular-samples',
    dial: 'specular',
    plant(draft) {
      // Blurred reflections of bright and dark squares, which the camera does not see and no light sample finds.
      surroundWithSquares(draft);
      for (const id of draft.things) Object.assign(draft.document.materials[id], { metallic: 1, baseColour: [0.95, 0.95, 0.95], roughness: draft.draw.within(0.3, 0.42) }); // prettier-ignore
      fewer(draft, 16);
    },
  },
  {
    cause: 'noise.volume-samples',
    dial: 'volume',
    plant(draft) {
      const { draw, document } = draft;
      // A beam across fog before dark things: chance decides whether a path ends in it, and where.
      document.environment = evenEnvironment([0, 0, 0]);
      document.lights = {};
      for (const material of Object.keys(document.materials)) Object.assign(document.materials[material], { baseColour: [0.02, 0.02, 0.02], specular: 0, metallic: 0, roughness: 1 }); // prettier-ignore
      document.fog = { ...defaultFog(), density: draw.within(0.1, 0.2), albedo: [0.6, 0.6, 0.6], box: { min: [-6, 0, -6], max: [6, 4, 8] } }; // prettier-ignore
      Object.assign(draft.sheet.limits, { volume: 24, overall: 40 });
      draft.light('beam', { kind: 'spot', transform: lookAt([draw.within(-3, -2), 3, 0.5], [draw.within(1, 2), 0.2, 0.5]), cone: draw.within(36, 50), intensity: 30 }); // prettier-ignore
      fewer(draft, 16);
    },
  },
  {
    cause: 'noise.pixel-samples',
    dial: 'samples',
    plant(draft) {
      const { draw, document } = draft;
      // A mat of thin bars, each narrower than a pixel, in even light.
      delete document.lights.key;
      delete document.lights.fill;
      document.environment = evenEnvironment([0.7, 0.7, 0.7]);
      const glow = { emission: [0.12, 0.12, 0.12], baseColour: [0, 0, 0], specular: 0, sampledAsLight: false };
      const count = draw.whole(120, 180);
      for (let k = 0; k < count; k++)
        draft.put(
          `bar${k}`,
          box([-1.8 + (3.6 * k) / count, 0.3, 1.2], [-1.8 + (3.6 * (k + 0.4)) / count, 1.4, 1.201]),
          glow,
        );
      fewer(draft, 8);
    },
  },
  {
    cause: 'noise.sharp-filter',
    also: ['noise.pixel-samples', 'noise.light-samples'],
    plant(draft) {
      draft.sheet.filter = { kind: 'lanczos', width: 6 };
      fewer(draft, 16);
    },
  },
  {
    cause: 'noise.motion-blur',
    plant(draft) {
      const { draw, document } = draft;
      const [id, ...others] = draft.things;
      for (const other of others) delete document.objects[other];
      // A dark thing before a board that shines by itself: nothing else is noisy.
      document.lights = {};
      document.environment = evenEnvironment([0, 0, 0]);
      draft.put('board', box([-6, -1, -2.6], [6, 5, -2.5]), { emission: [0.15, 0.15, 0.15], baseColour: [0, 0, 0], specular: 0, sampledAsLight: false }); // prettier-ignore
      for (const material of Object.keys(document.materials)) Object.assign(document.materials[material], { baseColour: [0, 0, 0], specular: 0, metallic: 0, roughness: 1 }); // prettier-ignore
      const object = document.objects[id];
      const reach = draw.within(0.6, 1);
      object.motion = 'transform';
      object.keys = [0, 1, 2].map((frame) => ({ frame, transform: object.transform.map((v, i) => (i === 12 ? (frame - 1) * reach : v)), mesh: null })); // prettier-ignore
      draft.sheet.motion = { samples: 5, shutter: 1 };
      fewer(draft, 16);
    },
  },
  {
    cause: 'fireflies.small-emitter',
    plant(draft) {
      const { draw } = draft;
      draft.document.environment = evenEnvironment([0.15, 0.15, 0.15]);
      draft.put('ember', sphere(draw.within(0.005, 0.012), 16), { emission: [1, 0.7, 0.4], emissionStrength: draw.within(2, 5) * 1e4, baseColour: [0, 0, 0], sampledAsLight: false }, { transform: translation(draw.within(-0.6, 0.6), draw.within(1, 1.4), draw.within(0.3, 0.8)) }); // prettier-ignore
    },
  },
  {
    cause: 'fireflies.emitter-in-shell',
    plant(draft) {
      const { draw } = draft;
      const at = translation(draw.within(-0.6, 0.6), 1.15, draw.within(0.3, 0.8));
      draft.document.environment = evenEnvironment([0.15, 0.15, 0.15]);
      draft.put('flame', sphere(draw.within(0.008, 0.015), 16), { emission: [1, 0.7, 0.4], emissionStrength: draw.within(1, 3) * 1e4, baseColour: [0, 0, 0] }, { transform: at }); // prettier-ignore
      draft.put('globe', sphere(0.09, 48), clearGlass, { transform: at });
      draft.put('hollow', sphere(0.085, 48), { ...clearGlass, ior: 1 }, { transform: at, priority: 1 });
    },
  },
  {
    cause: 'fireflies.glass-caustic',
    // Glass mirrors light as well as it bends it.
    also: ['fireflies.mirror-caustic'],
    plant(draft) {
      const { draw, document } = draft;
      document.environment = evenEnvironment([0.1, 0.1, 0.1]);
      for (const id of draft.things) Object.assign(document.materials[id], { ...clearGlass, metallic: 0 });
      draft.light('lamp', { kind: 'point', transform: translation(draw.within(-1.5, 1.5), 2.6, -1.2), radius: draw.within(0.015, 0.03), intensity: draw.within(60, 120) }); // prettier-ignore
    },
  },
  {
    cause: 'fireflies.mirror-caustic',
    plant(draft) {
      const { draw, document } = draft;
      document.environment = evenEnvironment([0.1, 0.1, 0.1]);
      for (const id of draft.things) Object.assign(document.materials[id], { metallic: 1, roughness: 0, baseColour: [0.95, 0.95, 0.95] }); // prettier-ignore
      draft.light('lamp', { kind: 'point', transform: translation(draw.within(-1.5, 1.5), 2.4, 1.2), radius: draw.within(0.02, 0.04), intensity: draw.within(60, 120) }); // prettier-ignore
    },
  },
  ...(['transmission', 'specular', 'diffuse'] as const).map((kind): Fault => ({
    cause: `limits.${kind}`,
    isUpstream: true,
    plant(draft) {
      const { draw, document } = draft;
      if (kind === 'transmission') {
        document.environment = evenEnvironment([0.6, 0.6, 0.6]);
        for (let k = 0; k < 5; k++) draft.put(`pane${k}`, box([-1.2, 0.2, 1 - 0.3 * k], [1.2, 1.5, 1.02 - 0.3 * k]), { ...clearGlass, specular: 1 }); // prettier-ignore
        draft.sheet.limits.transmission = draw.whole(2, 6);
      } else if (kind === 'specular') {
        document.environment = evenEnvironment([0.6, 0.6, 0.6]);
        for (const id of draft.things) Object.assign(document.materials[id], { metallic: 1, roughness: 0.02, baseColour: [0.95, 0.95, 0.95] }); // prettier-ignore
        const mirror = { metallic: 1, roughness: 0.02, baseColour: [0.95, 0.95, 0.95] };
        draft.put('plate', box([-2.5, 0, -2], [2.5, 0.02, 2.5]), mirror);
        draft.sheet.limits.specular = 1;
      } else {
        document.environment = evenEnvironment([0.02, 0.02, 0.02]);
        for (const id of Object.keys(document.materials)) Object.assign(document.materials[id], { baseColour: [0.85, 0.85, 0.85], metallic: 0, specular: 0, roughness: 1 }); // prettier-ignore
        draft.put('roof', box([-4, 3, -4], [4, 3.1, 8]), { ...document.materials.floor });
        draft.put('west', box([-4.1, 0, -4], [-4, 3, 8]), { ...document.materials.floor });
        draft.put('east', box([4, 0, -4], [4.1, 3, 8]), { ...document.materials.floor });
        draft.put('rear', box([-4, 0, 7], [4, 3, 7.1]), { ...document.materials.floor });
        draft.put('far', box([-4, 0, -4.1], [4, 3, -4]), { ...document.materials.floor });
        draft.sheet.limits.diffuse = draw.whole(0, 1);
      }
    },
  })),
  {
    cause: 'limits.overall-hides-other',
    also: ['limits.transmission'],
    isUpstream: true,
    plant(draft) {
      const { draw, document } = draft;
      document.environment = evenEnvironment([0.6, 0.6, 0.6]);
      for (let k = 0; k < 5; k++) draft.put(`pane${k}`, box([-1.2, 0.2, 1 - 0.3 * k], [1.2, 1.5, 1.02 - 0.3 * k]), clearGlass); // prettier-ignore
      draft.sheet.limits.transmission = 16;
      draft.sheet.limits.overall = draw.whole(3, 6);
    },
  },
  {
    cause: 'limits.alpha',
    isUpstream: true,
    plant(draft) {
      const { draw, document } = draft;
      document.environment = evenEnvironment([0.5, 0.5, 0.5]);
      const count = draw.whole(4, 6);
      for (let k = 0; k < count; k++) draft.put(`leaf${k}`, square(1.3, 0), { baseColour: [0.3, 0.5, 0.2], specular: 0, roughness: 1, alphaMode: 'blend', alpha: 0.3 }, { transform: translation(0, 0.9, 1.6 - 0.2 * k) }); // prettier-ignore
      draft.sheet.limits.alpha = draw.whole(0, 1);
    },
  },
  {
    cause: 'limits.volume',
    isUpstream: true,
    plant(draft) {
      const { document } = draft;
      document.fog = {
        ...defaultFog(),
        density: 0.25,
        albedo: [0.95, 0.95, 0.95],
        box: { min: [-6, 0, -6], max: [6, 4, 8] },
      };
      draft.sheet.limits.volume = 0;
    },
  },
  {
    cause: 'glass.black-filter',
    isUpstream: true,
    plant(draft) {
      const { document } = draft;
      document.environment = evenEnvironment([0.5, 0.5, 0.5]);
      for (const id of draft.things) Object.assign(document.materials[id], { ...clearGlass, metallic: 0, baseColour: [0, 0, 0] }); // prettier-ignore
    },
  },
  {
    cause: 'normals.faceted',
    plant(draft) {
      const { document, draw } = draft;
      document.environment = evenEnvironment([0.5, 0.5, 0.5]);
      // One ball that is large enough for its facets to be several pixels wide.
      const [id, ...others] = draft.things;
      for (const other of others) delete document.objects[other];
      draft.meshes.set(id, sphere(1, draw.whole(9, 12) * 2, true));
      document.objects[id].transform = multiply(translation(0, 0.9, 0), scaling(0.9, 0.9, 0.9));
      Object.assign(document.materials[id], { metallic: 1, roughness: 0, baseColour: [0.95, 0.95, 0.95] });
    },
  },
  {
    cause: 'lighting.nothing-lights',
    isUpstream: true,
    plant({ document }) {
      document.lights = {};
      document.environment = evenEnvironment([0, 0, 0]);
    },
  },
  {
    cause: 'lighting.light-at-zero',
    isUpstream: true,
    plant({ document }) {
      document.environment = evenEnvironment([0, 0, 0]);
      for (const light of Object.values(document.lights)) light.intensity = 0;
    },
  },
  {
    cause: 'lighting.light-hidden',
    isUpstream: true,
    plant({ document }) {
      document.environment = evenEnvironment([0, 0, 0]);
      for (const light of Object.values(document.lights)) light.hidden = true;
    },
  },
  {
    cause: 'lighting.linked-away',
    isUpstream: true,
    plant({ document }) {
      document.environment = evenEnvironment([0, 0, 0]);
      for (const light of Object.values(document.lights)) light.lights = { mode: 'only', objects: [] };
    },
  },
  {
    cause: 'shadows.light-casts-none',
    isUpstream: true,
    plant({ document }) {
      document.lights.key.castsShadows = false;
    },
  },
  {
    cause: 'shadows.object-casts-none',
    isUpstream: true,
    plant({ document, things, draw }) {
      document.objects[draw.one(things)].visibility.shadow = false;
    },
  },
  {
    cause: 'shadows.receiver-takes-none',
    isUpstream: true,
    plant({ document }) {
      document.objects.floor.receivesShadows = false;
    },
  },
  {
    cause: 'shadows.not-linked',
    isUpstream: true,
    plant({ document, things, draw }) {
      document.lights.key.shadowsOf = { mode: 'except', objects: [draw.one(things)] };
    },
  },
  {
    cause: 'shadows.distance-too-short',
    isUpstream: true,
    plant({ document, draw }) {
      document.lights.key.shadowDistance = draw.within(0.02, 0.12);
    },
  },
  {
    cause: 'shadows.colour-too-light',
    isUpstream: true,
    plant({ document, draw }) {
      document.lights.key.shadowColour = draw.colour(0.6, 0.9);
    },
  },
  {
    cause: 'shadows.drowned-by-fill',
    isUpstream: true,
    plant(draft) {
      const { document, draw } = draft;
      document.lights = {};
      draft.light('sun', { kind: 'distant', transform: lookAt([draw.one([-1, 1]) * draw.within(1.5, 3), draw.within(1, 2), draw.within(-0.5, 1)], [0, 0, 0]), angle: 0.53, intensity: draw.within(0.3, 0.6) }); // prettier-ignore
      document.environment = evenEnvironment(draw.colour(0.9, 1.4));
    },
  },
  {
    cause: 'lighting.light-turned-away',
    isUpstream: true,
    plant({ document }) {
      const { key } = document.lights;
      const [x, y, z] = key.transform.slice(12, 15);
      key.transform = lookAt([x, y, z], [2 * x, 2 * y - 0.3, 2 * z]);
    },
  },
  {
    cause: 'lighting.light-out-of-reach',
    isUpstream: true,
    plant({ document, draw }) {
      document.lights.key.reach = { distance: draw.within(0.3, 0.8), bounces: null };
    },
  },
  {
    cause: 'lighting.light-inside-object',
    isUpstream: true,
    plant(draft) {
      const { document } = draft;
      const [x, y, z] = document.lights.key.transform.slice(12, 15);
      draft.put('housing', box([x - 0.8, y - 0.8, z - 0.8], [x + 0.8, y + 0.8, z + 0.8]), { baseColour: [0.3, 0.3, 0.3] }, { visibility: { camera: false, shadow: true, diffuse: true, specular: true, transmission: true, occlusion: true } }); // prettier-ignore
    },
  },
  {
    cause: 'lighting.linked-away',
    isUpstream: true,
    plant({ document }) {
      document.lights.key.lights = { mode: 'only', objects: [] };
    },
  },
  {
    cause: 'lighting.background-tied',
    plant({ document, draw }) {
      // No walls: the sky is seen.
      for (const id of ['back', 'left', 'right']) delete document.objects[id];
      document.environment = evenEnvironment(draw.colour(1.1, 1.3));
      for (const { baseColour } of Object.values(document.materials))
        baseColour.forEach((c, a) => (baseColour[a] = c / 2));
    },
  },
  {
    cause: 'lighting.overexposed',
    isUpstream: true,
    plant({ document, draw }) {
      document.lights.key.intensity *= draw.within(15, 40);
    },
  },
  {
    cause: 'scale.ray-distance',
    isUpstream: true,
    plant({ sheet, draw }) {
      sheet.rayDistance = draw.within(4.5, 5.5);
    },
  },
  {
    cause: 'scale.single-precision',
    plant({ document, sheet, draw }) {
      const [x, z] = [draw.whole(60_000, 90_000), draw.whole(-50_000, 50_000)];
      sheet.precision = 'single';
      for (const item of [
        ...Object.values(document.objects),
        ...Object.values(document.lights),
        ...Object.values(document.cameras),
      ])
        item.transform = multiply(translation(x, 0, z), item.transform);
    },
  },
];
