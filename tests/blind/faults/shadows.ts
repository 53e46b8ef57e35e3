/** Shadows that a setting keeps away. */
import { lookAt, multiply, scaling, translation } from '../../../core/data/transform.ts';
import { defaultPreviewShadows, evenEnvironment } from '../../../core/document/defaults.ts';
import type { PreviewShadowsSpec } from '../../../core/document/schema.ts';
import { box } from '../../../demo/shapes.ts';
import { sphere } from '../../unit/helpers.ts';
import type { Draft } from '../shots.ts';
import { type Fault } from './fault.ts';

/** A sun from the side in place of all lights, in little light from all around. */
function sun(draft: Draft, angle: number): void {
  const { document, draw } = draft;
  document.lights = {};
  draft.light('sun', { kind: 'distant', transform: lookAt([draw.one([-1, 1]) * draw.within(1.5, 3), draw.within(1.2, 2), draw.within(0.2, 1)], [0, 0, 0]), angle, intensity: draw.within(2, 3), samples: 4 }); // prettier-ignore
  document.environment = evenEnvironment(draw.colour(0.1, 0.2));
}

/** Depth maps as they would be set up with care, but for what is wrong with them. */
function maps({ document }: Draft, wrong: Partial<PreviewShadowsSpec>): void {
  document.previewShadows = { ...defaultPreviewShadows(), resolution: 4096, mapDistance: 40, lightDistance: 40, near: 0.02, cascades: 3, splitBlend: 0.8, bias: 0.003, slopeBias: 3, ...wrong }; // prettier-ignore
}

export const shadowsFaults: Fault[] = [
  {
    cause: 'shadows.map-distance',
    plant(draft) {
      maps(draft, draft.draw.one<Partial<PreviewShadowsSpec>>([{ mapDistance: draft.draw.within(1, 3) }, { lightDistance: draft.draw.within(0.3, 1.2) }])); // prettier-ignore
    },
  },
  {
    cause: 'shadows.map-resolution',
    plant(draft) {
      maps(draft, { resolution: draft.draw.whole(16, 40), cascades: 1, softness: 0 });
    },
  },
  {
    cause: 'shadows.map-bias',
    plant(draft) {
      maps(draft, draft.draw.one([{ bias: draft.draw.within(1, 2) }, { bias: 0, slopeBias: 0, filter: 'single' as const, resolution: 512 }])); // prettier-ignore
    },
  },
  {
    cause: 'shadows.map-leak',
    plant(draft) {
      maps(draft, { filter: 'exponential', exponent: draft.draw.within(1, 6) });
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
      draft.light('sun', { kind: 'distant', transform: lookAt([draw.one([-1, 1]) * draw.within(1.5, 3), draw.within(1, 2), draw.within(-0.5, 1)], [0, 0, 0]), angle: 0.53, intensity: draw.within(0.18, 0.36) }); // prettier-ignore
      // Below white, so that the sky is not blown out as well.
      document.environment = evenEnvironment(draw.colour(0.55, 0.85));
    },
  },
  {
    cause: 'shadows.light-too-wide',
    isUpstream: true,
    plant(draft) {
      sun(draft, draft.draw.within(50, 120));
    },
  },
  {
    cause: 'shadows.jagged',
    plant(draft) {
      const { document, draw } = draft;
      sun(draft, 0.53);
      // One large ball of few faces, shaded smooth.
      const [id, ...others] = draft.things;
      for (const other of others) delete document.objects[other];
      draft.meshes.set(id, sphere(1, draw.whole(6, 9) * 2));
      document.objects[id].transform = multiply(translation(0, 0.9, 0), scaling(0.9, 0.9, 0.9));
      Object.assign(document.materials[id], { metallic: 0, roughness: 1, specular: 0 });
    },
  },
  {
    cause: 'shadows.blocked-elsewhere',
    plant(draft) {
      const { document } = draft;
      const [x, y, z] = document.lights.key.transform.slice(12, 15);
      // A board under the lamp, out of the picture.
      draft.put('board', box([x - 3, y - 0.35, z - 2], [x + 3, y - 0.3, z + 3]), { baseColour: [0.3, 0.3, 0.3] }, { visibility: { camera: false, shadow: true, diffuse: true, specular: true, transmission: true, occlusion: true } }); // prettier-ignore
      document.lights.key.transform = lookAt([x, y, z], [x, y - 1, z + 0.01]);
    },
  },
];

/** Maps that reach many times as far as what is seen: a sun's, for a lamp's have the texels of their angle. */
export const coarseFaults: Fault[] = [
  {
    cause: 'shadows.distance-too-coarse',
    plant(draft) {
      sun(draft, draft.draw.within(0.5, 2));
      const mapDistance = draft.draw.within(300, 3000);
      maps(draft, { mapDistance, lightDistance: 2 * mapDistance, cascades: 1, resolution: 2048 });
    },
  },
];
