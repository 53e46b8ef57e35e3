/** Seams of a displaced board. */
import { joinTiles } from '../../../core/textures/tiles.ts';
import { bake, cage, drawRelief, isOnIsland, putBoard } from '../relief.ts';
import type { Fault } from './fault.ts';

export const seamsFaults: Fault[] = [
  {
    cause: 'seams.uv-rule',
    plant(draft) {
      const uvs = draft.draw.one(['none', 'cornersOnly', 'cornersPlus1', 'cornersPlus2'] as const);
      putBoard(draft, drawRelief(draft), {
        object: { subdivision: { level: 4, edgePixels: null, boundary: 'edgeAndCorner', uvs } },
      });
    },
  },
  {
    cause: 'seams.no-padding',
    plant(draft) {
      const relief = drawRelief(draft);
      const around = draft.draw.one([0, 1]);
      putBoard(draft, relief, { texture: bake(relief, (x, y, isRight) => (isOnIsland(relief, x, y, isRight) ? relief.height(x, y) : around)) }); // prettier-ignore
    },
  },
  {
    cause: 'seams.sides-differ',
    plant(draft) {
      const relief = drawRelief(draft);
      const off = draft.draw.within(0.15, 0.3) * draft.draw.one([-1, 1]);
      putBoard(draft, relief, { texture: bake(relief, (x, y, isRight) => relief.height(x, y) + (isRight ? off : 0)) });
    },
  },
  {
    cause: 'seams.split-normals',
    plant(draft) {
      // A fold of two walls, each with the normals of its own, and a relief that is coarse enough for their few faces.
      const relief = { ...drawRelief(draft), height: (x: number, y: number) => 0.75 + 0.25 * Math.sin(3 * x + 5 * y) };
      const mesh = cage(relief);
      const { draw } = draft;
      const angle = (draw.within(25, 40) * Math.PI) / 180;
      const [positions, normals] = [mesh.positions, new Float32Array(mesh.positions.length)];
      const half = positions.length / 6;
      for (let v = 0; v < 2 * half; v++) {
        const side = v < half ? -1 : 1;
        positions[3 * v + 2] = -Math.abs(positions[3 * v]) * Math.tan(angle);
        normals.set([side * Math.sin(angle), 0, Math.cos(angle)], 3 * v);
      }
      putBoard(draft, relief, { mesh: { ...mesh, normals }, object: { subdivision: { level: 0, edgePixels: null, boundary: 'edgeAndCorner', uvs: 'all' } } }); // prettier-ignore
    },
  },
  {
    cause: 'seams.scale-differs',
    plant(draft) {
      const relief = drawRelief(draft);
      putBoard(draft, relief, { mesh: cage(relief, 'left') }, 'left');
      const { transform } = draft.document.objects.left;
      const { displacementScale } = draft.document.materials.left;
      putBoard(draft, relief, { mesh: cage(relief, 'right'), object: { transform }, material: { displacementScale: displacementScale * draft.draw.within(0.3, 0.6) } }, 'right'); // prettier-ignore
    },
  },
  {
    cause: 'seams.tile-missing',
    plant(draft) {
      const relief = drawRelief(draft);
      relief.right.u += 1;
      relief.left.u += 0.2;
      putBoard(draft, relief, { texture: joinTiles(new Map([[1001, bake(relief)]]), 'relief') });
      Object.assign(draft.document.textures.relief, { file: 'relief.<UDIM>.exr', tiles: [1001] });
    },
  },
  {
    cause: 'seams.tile-edge',
    plant(draft) {
      const relief = drawRelief(draft);
      // The seam of the left island is the right edge of the image.
      Object.assign(relief, { seam: relief.seam.map(() => 0.5) });
      relief.left.u = 1 - relief.left.width * (0.5 / 0.6);
      relief.right.u = 0.12;
      putBoard(draft, relief);
    },
  },
  {
    cause: 'seams.filter-across',
    plant(draft) {
      const relief = drawRelief(draft);
      // Padded by two texels of 256, and read over eight.
      const around = draft.draw.one([-1, 2]);
      const isPadded = (x: number, y: number, isRight: boolean) => isOnIsland(relief, x + (isRight ? PADDED : -PADDED), Math.min(1, Math.max(0, y)), isRight); // prettier-ignore
      putBoard(draft, relief, {
        texture: bake(relief, (x, y, isRight) => (isPadded(x, y, isRight) ? relief.height(x, y) : around)),
        map: { filter: 'mip' },
        object: { subdivision: { level: 2, edgePixels: null, boundary: 'edgeAndCorner', uvs: 'boundaries' } },
      });
    },
  },
];

/** Two texels, of the board's width. */
const PADDED = ((2 / 256) * 0.6) / 0.38;
