/** Occlusion passes that are black, blank, blotchy, or of the wrong thing. */
import type { Mesh } from '../../../core/data/mesh.ts';
import { multiply, scaling, translation } from '../../../core/data/transform.ts';
import { box } from '../../../demo/shapes.ts';
import { sphere } from '../../unit/helpers.ts';
import type { Draft } from '../shots.ts';
import { clearGlass, type Fault } from './fault.ts';

/** A pass as it would be set up with care: a metre, in a scene of a few. */
function pass({ sheet }: Draft, occlusion: Partial<Draft['sheet']['occlusion']> = {}): void {
  sheet.passes.occlusion = true;
  sheet.extraSamples.occlusion = 8;
  sheet.occlusion = { ...sheet.occlusion, distance: 1.2, ...occlusion };
}

/** Walls, floor and ceiling around everything, the camera too: there for occlusion alone, so that light is as it was. */
function shutIn(draft: Draft): void {
  const visibility = { camera: false, shadow: false, diffuse: false, specular: false, transmission: false, occlusion: true }; // prettier-ignore
  draft.put('closed', box([-7, -1.5, -6], [7, 6, 9]), {}, { visibility });
}

function outlined(radius: number, hull: number): Mesh {
  const [own, outer] = [sphere(radius, 32, true), sphere(hull, 32, true)];
  const offset = own.positions.length / 3;
  return {
    ...own,
    positions: Float32Array.from([...own.positions, ...outer.positions]),
    indices: Uint32Array.from([...own.indices, ...Array.from(outer.indices, (i) => i + offset).reverse()]),
  };
}

export const occlusionFaults: Fault[] = [
  {
    cause: 'occlusion.closed-room',
    plant(draft) {
      shutIn(draft);
      pass(draft, { distance: null });
    },
  },
  {
    cause: 'occlusion.distance-too-long',
    plant(draft) {
      shutIn(draft);
      pass(draft, { distance: draft.draw.within(30, 200) });
    },
  },
  {
    cause: 'occlusion.distance-too-short',
    plant(draft) {
      pass(draft, { distance: draft.draw.within(0.005, 0.03) });
    },
  },
  {
    cause: 'occlusion.inward-outward',
    plant(draft) {
      pass(draft, { direction: 'inward', distance: draft.draw.one([null, draft.draw.within(0.5, 2)]) });
    },
  },
  {
    cause: 'occlusion.too-few-samples',
    plant(draft) {
      pass(draft);
      draft.sheet.extraSamples.occlusion = 1;
    },
  },
  {
    cause: 'occlusion.self-occluded',
    plant(draft) {
      const { draw, document, things, meshes } = draft;
      pass(draft);
      // A thing with an outline: a hull turned inside out, a millimetre around it, of which only the far side is seen.
      const [id] = things;
      const radius = draw.within(0.35, 0.5);
      meshes.set(id, outlined(radius, radius + draw.within(0.0005, 0.001)));
      Object.assign(document.objects[id], { facing: 'front', transform: translation(draw.within(-0.3, 0.3), radius + 0.02, 1.2) }); // prettier-ignore
    },
  },
  {
    cause: 'occlusion.faceted',
    plant(draft) {
      pass(draft);
      draft.sheet.extraSamples.occlusion = 16;
      const [id] = draft.things;
      draft.meshes.set(id, sphere(1, draft.draw.whole(7, 9)));
      Object.assign(draft.document.objects[id], { normals: 'smooth', transform: multiply(translation(draft.draw.within(-0.2, 0.2), 0.6, 0.9), scaling(0.55, 0.55, 0.55)) }); // prettier-ignore
    },
  },
  {
    cause: 'occlusion.counted-twice',
    plant(draft) {
      pass(draft, { strength: draft.draw.one([0, draft.draw.within(0.3, 1)]) });
      if (draft.sheet.occlusion.strength === 0) draft.sheet.neutral = 'neutral-occlusion';
    },
  },
  {
    cause: 'occlusion.ignores-transparency',
    plant(draft) {
      pass(draft);
      draft.put('pane', box([-3, 0, 1.6], [3, 3, 1.62]), clearGlass, { seeThroughShadows: true });
    },
  },
];
