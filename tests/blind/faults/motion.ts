/** Things that move by their keys, and not in the picture, or not on their way. */
import type { Mesh } from '../../../core/data/mesh.ts';
import { defaultMap } from '../../../core/document/defaults.ts';
import { multiply, rotationZ, scaling, translation } from '../../../core/data/transform.ts';
import { box } from '../../../demo/shapes.ts';
import { sphere } from '../../unit/helpers.ts';
import type { Draft } from '../shots.ts';
import type { Fault } from './fault.ts';

/** The first of the things runs across the picture, `reach` metres a frame. */
function running({ document, things }: Draft, reach: number): string {
  const [id] = things;
  const object = document.objects[id];
  object.keys = [0, 1, 2].map((frame) => ({ frame, transform: multiply(translation((frame - 1) * reach, 0, 0), object.transform), mesh: null })); // prettier-ignore
  return id;
}

export const motionFaults: Fault[] = [
  {
    cause: 'motion.static-flag',
    plant(draft) {
      running(draft, draft.draw.within(0.1, 0.5));
    },
  },
  {
    cause: 'motion.no-blur',
    plant(draft) {
      const { draw, document, sheet } = draft;
      document.objects[running(draft, draw.within(0.2, 0.5))].motion = 'transform';
      sheet.motion = draw.one([{ samples: 2, shutter: 0 }, { samples: 1, shutter: 0.5 }]); // prettier-ignore
    },
  },
  {
    cause: 'motion.too-few-samples',
    plant(draft) {
      const { draw, document } = draft;
      const place = translation(draw.within(-0.5, 0.5), 1.3, 0.6);
      const turn = draw.within(100, 160);
      draft.put('blade', box([-0.9, -0.06, -0.02], [0.9, 0.06, 0.02]), { baseColour: [0.6, 0.6, 0.6], roughness: 0.8 }, { transform: place, motion: 'transform' }); // prettier-ignore
      document.objects.blade.keys = [0, 1, 2, 3, 4].map((k) => ({ frame: 1 + k / 2, transform: multiply(place, rotationZ(turn * k)), mesh: null })); // prettier-ignore
      draft.sheet.motion = { samples: 2, shutter: 0.5 };
    },
  },
  {
    cause: 'motion.samples-without-motion',
    plant({ sheet, draw }) {
      sheet.motion = { samples: draw.whole(4, 12), shutter: 0.5 };
    },
  },
];

/** In place of the things three balls of one material, with a pattern in their own space and their size in their transform. */
function balls(draft: Draft): string[] {
  const { document, draw } = draft;
  for (const id of draft.things) delete document.objects[id];
  document.maps.grain = { ...defaultMap('noise-object'), name: 'grain', size: draw.within(0.25, 0.4), octaves: 2, seed: draw.whole(1, 99), stops: [{ at: 0.3, colour: [0.1, 0.08, 0.06] }, { at: 0.7, colour: [0.7, 0.6, 0.5] }] as never }; // prettier-ignore
  const ids = ['ball0', 'ball1', 'ball2'];
  for (const [k, id] of ids.entries()) {
    const size = draw.within(0.36, 0.5);
    draft.put(id, sphere(1, 48), { baseColour: [1, 1, 1], roughness: 1, specular: 0, baseColourMap: 'grain' }, { transform: multiply(translation(1.1 * (k - 1), size, 0), scaling(size, size, size)) }); // prettier-ignore
    document.objects[id].material = ids[0];
  }
  return ids;
}

export const bakedFaults: Fault[] = [
  {
    cause: 'motion.half-baked-transform',
    plant(draft) {
      const id = draft.draw.one(balls(draft));
      const object = draft.document.objects[id];
      const [size] = object.transform;
      draft.meshes.set(id, grown(draft.meshes.get(id)!, size));
      object.transform = multiply(object.transform, scaling(1 / size, 1 / size, 1 / size));
    },
  },
  {
    cause: 'motion.stale-cache',
    plant(draft) {
      const { document, draw, things } = draft;
      const [id] = things;
      const object = document.objects[id];
      const stale = draw.one([2, 3, -1]);
      object.motion = 'deforming';
      object.keys = [0, 1, 2, 3, 4, 5].map((k) => {
        const key = `${id}-${k}`;
        const of = stale < 0 ? 0 : k === stale ? k - 1 : k;
        draft.meshes.set(key, grown(draft.meshes.get(id)!, 1 + 0.04 * of));
        document.meshes[key] = { file: 'cache.glb', mesh: k, primitive: 0 };
        return { frame: k - 2, transform: object.transform, mesh: key };
      });
    },
  },
];

const grown = (mesh: Mesh, times: number): Mesh => ({ ...mesh, positions: mesh.positions.map((v) => v * times) });
