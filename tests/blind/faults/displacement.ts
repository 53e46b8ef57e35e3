/** Displacement of a board, by its scale, its rest level, its geometry and its map. */
import { defaultMap } from '../../../core/document/defaults.ts';
import type { MapSpec } from '../../../core/document/schema.ts';
import { box } from '../../../demo/shapes.ts';
import { bake, drawRelief, putBoard, type Relief } from '../relief.ts';
import type { Draft } from '../shots.ts';
import type { Fault } from './fault.ts';

/** Hollows pressed into a flat level: both sides of a seam have the same. */
function pressed(draft: Draft, flat: number, depth: number): Relief {
  const relief = drawRelief(draft);
  const { height } = relief;
  // Smooth hollows where the waves are below their middle.
  return { ...relief, height: (x, y) => flat - depth * Math.max(0, 2 * (0.55 - height(x, y))) ** 2 };
}
const fine = (level: number) => ({
  subdivision: { level, edgePixels: null, boundary: 'edgeAndCorner', uvs: 'boundaries' } as const,
});

export const displacementFaults: Fault[] = [
  {
    cause: 'displacement.scale-too-large',
    plant(draft) {
      putBoard(draft, drawRelief(draft), { material: { displacementScale: draft.draw.within(2, 8) } });
    },
  },
  {
    cause: 'displacement.scale-too-small',
    plant(draft) {
      putBoard(draft, drawRelief(draft), { material: { displacementScale: draft.draw.within(1e-4, 5e-4) } });
    },
  },
  {
    cause: 'displacement.rest-level',
    plant(draft) {
      const [flat, rest] = draft.draw.one([[0.5, 0], [1, 0], [1, 0.5], [0.5, 1]]); // prettier-ignore
      const relief = pressed(draft, flat, 0.45);
      putBoard(draft, relief, { material: { displacementRest: rest } });
    },
  },
  {
    cause: 'displacement.too-little-geometry',
    plant(draft) {
      const relief = drawRelief(draft);
      const [fx, fy] = [draft.draw.whole(9, 11), draft.draw.whole(7, 8)];
      const waves = { ...relief, height: (x: number, y: number) => 0.5 + 0.25 * (Math.sin(2 * Math.PI * fx * x) + Math.sin(2 * Math.PI * fy * y)) }; // prettier-ignore
      putBoard(draft, { ...waves, rows: relief.rows.map((_, r) => r / (relief.rows.length - 1)) }, { material: { displacementScale: 0.12 }, object: fine(draft.draw.whole(0, 1)) }); // prettier-ignore
    },
  },
  {
    cause: 'displacement.clipped-range',
    plant(draft) {
      const relief = drawRelief(draft);
      const by = draft.draw.within(1.35, 1.6);
      const { height } = relief;
      const cut = { ...relief, height: (x: number, y: number) => Math.min(1, Math.max(0.02, 0.5 + by * (height(x, y) - 0.5))) }; // prettier-ignore
      putBoard(draft, cut);
    },
  },
  {
    cause: 'displacement.bump-in-its-place',
    plant(draft) {
      const relief = drawRelief(draft);
      putBoard(draft, relief, { texture: bake(relief), material: { displacementMap: null, bumpMap: 'relief', bumpDepth: draft.draw.within(0.18, 0.25) } }); // prettier-ignore
    },
  },
  {
    cause: 'displacement.self-intersecting',
    plant(draft) {
      // A thin plate, rounded by subdivision, that lumps press in further than it is thick.
      putBoard(draft, drawRelief(draft), {
        mesh: box([-0.65, 0, -0.05], [0.65, 1.1, 0.05]),
        material: { displacementMap: 'lumps', displacementScale: draft.draw.within(0.3, 0.4), displacementRest: 0.75 },
        object: { subdivision: { level: 4, edgePixels: null, boundary: 'edgeAndCorner', uvs: 'all' } },
      });
      const ends = [{ at: 0, colour: [0, 0, 0] }, { at: 1, colour: [1, 1, 1] }]; // prettier-ignore
      draft.document.maps.lumps = { ...defaultMap('noise-object'), size: 0.5, octaves: 1, seed: draft.draw.whole(1, 99), stops: ends } as MapSpec; // prettier-ignore
    },
  },
];

/** After all that were there before, whose seeds go by their place. */
export const boundFaults: Fault[] = [
  {
    cause: 'displacement.bounds-too-small',
    plant(draft) {
      putBoard(draft, pressed(draft, 0.5, 0.45), { material: { displacementRest: 0.5, displacementScale: 0.12, displacementBound: draft.draw.within(0.012, 0.025) } }); // prettier-ignore
    },
  },
];
