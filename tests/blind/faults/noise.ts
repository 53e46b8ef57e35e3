/** Noise of every kind of sample. */
import { lookAt } from '../../../core/data/transform.ts';
import { defaultFog, defaultMap, evenEnvironment } from '../../../core/document/defaults.ts';
import { box } from '../../../demo/shapes.ts';
import type { Draft } from '../shots.ts';
import { fewer, type Fault } from './fault.ts';

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
export const noiseFaults: Fault[] = [
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
];
