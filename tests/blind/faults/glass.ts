/** Bodies of glass that are not what they are meant to be. */
import type { Mesh } from '../../../core/data/mesh.ts';
import { rotationY, multiply, translation } from '../../../core/data/transform.ts';
import { defaultMap, evenEnvironment } from '../../../core/document/defaults.ts';
import type { MaterialSpec } from '../../../core/document/schema.ts';
import { box } from '../../../demo/shapes.ts';
import { sphere, square } from '../../unit/helpers.ts';
import type { Draft } from '../shots.ts';
import { clearGlass, type Fault } from './fault.ts';

/** The first of the things is a large ball of glass. @returns its key */
function ball({ document, meshes, things, draw }: Draft, glass: Partial<MaterialSpec> = {}): string {
  document.environment = evenEnvironment(draw.colour(0.4, 0.6));
  const [id, ...others] = things;
  for (const other of others.slice(1)) delete document.objects[other];
  meshes.set(id, sphere(0.5, 48));
  document.objects[id].transform = translation(draw.within(-0.4, 0.4), 0.55, 0.9);
  Object.assign(document.materials[id], { ...clearGlass, metallic: 0, ...glass });
  return id;
}

export const glassFaults: Fault[] = [
  {
    cause: 'glass.normals-inverted',
    isUpstream: true,
    plant(draft) {
      const id = ball(draft);
      const mesh = draft.meshes.get(id)!;
      draft.meshes.set(id, { ...mesh, indices: mesh.indices.slice().reverse() });
    },
  },
  {
    cause: 'glass.thin-as-solid',
    isUpstream: true,
    plant(draft) {
      const { draw, document } = draft;
      document.environment = evenEnvironment(draw.colour(0.4, 0.6));
      draft.put('pane', square(draw.within(0.6, 0.9), 0), { ...clearGlass, ior: 1.5 }, { transform: multiply(translation(draw.within(-0.3, 0.3), 0.9, 1.1), rotationY(draw.within(-20, 20))) }); // prettier-ignore
    },
  },
  {
    cause: 'glass.missing-second-face',
    isUpstream: true,
    plant(draft) {
      const { draw, document } = draft;
      document.environment = evenEnvironment(draw.colour(0.4, 0.6));
      const block = box([-0.5, 0, -0.3], [0.5, 0.9, 0.3]);
      const side = 6 * draw.whole(0, 5);
      draft.put('block', { ...block, indices: block.indices.filter((_, i) => i < side || i >= side + 6) }, clearGlass, { transform: translation(draw.within(-0.3, 0.3), 0.05, 1) }); // prettier-ignore
    },
  },
  {
    cause: 'glass.solid-as-thin',
    plant(draft) {
      draft.document.objects[ball(draft)].thin = true;
    },
  },
  {
    cause: 'glass.ior-out-of-range',
    plant(draft) {
      ball(draft, { ior: draft.draw.one([1, 1.02, 2.8, 3.5]) });
    },
  },
  {
    cause: 'glass.pure-channel-filter',
    isUpstream: true,
    plant(draft) {
      const { draw } = draft;
      const colour = draw.colour(0.5, 0.95);
      colour[draw.whole(0, 2)] = 0;
      ball(draft, { baseColour: colour });
    },
  },
  {
    cause: 'glass.absorption-too-strong',
    isUpstream: true,
    plant(draft) {
      const { draw } = draft;
      ball(draft, { attenuationColour: draw.colour(0.3, 0.7), attenuationDistance: draw.within(0.005, 0.05) });
    },
  },
  ...(['coincident-faces', 'gap-to-liquid'] as const).map((id): Fault => ({
    cause: `glass.${id}`,
    isUpstream: true,
    plant(draft) {
      const { draw, document } = draft;
      document.environment = evenEnvironment(draw.colour(0.4, 0.6));
      const [outside, inside] = [sphere(0.5, 48), sphere(0.44, 48)];
      // A vessel is one mesh with an inner wall that is turned inwards.
      const wall: Mesh = {
        positions: Float32Array.from([...outside.positions, ...inside.positions]),
        normals: null,
        uvs: null,
        indices: Uint32Array.from([...outside.indices, ...inside.indices.slice().reverse().map((v) => v + outside.positions.length / 3)]), // prettier-ignore
      };
      const transform = translation(draw.within(-0.3, 0.3), 0.55, 1);
      const gap = id === 'gap-to-liquid' ? draw.within(0.004, 0.012) : 0;
      draft.put('vessel', wall, clearGlass, { transform });
      draft.put('liquid', sphere(0.44 - gap, 48, true), { ...clearGlass, ior: 1.33, baseColour: [0.95, 0.8, 0.5] }, { transform }); // prettier-ignore
    },
  })),
  {
    cause: 'glass.tint-on-opacity',
    isUpstream: true,
    plant(draft) {
      const { document, draw } = draft;
      const id = ball(draft);
      const [dark, light] = [draw.colour(0.1, 0.9), draw.colour(0.5, 1)];
      document.maps.tint = {
        ...defaultMap('gradient'),
        stops: [
          { at: 0, colour: dark },
          { at: 1, colour: light },
        ],
      };
      Object.assign(document.materials[id], { alphaMap: 'tint', alphaMode: 'blend', baseColourMap: null });
    },
  },
  {
    cause: 'glass.shadow-only-floor',
    isUpstream: true,
    plant(draft) {
      ball(draft);
      draft.document.objects.floor.role = 'shadow-only';
    },
  },
];
