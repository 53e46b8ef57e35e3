/**
 * A board with a pressed relief: two UV islands of which one is stretched unevenly, as unwrapping leaves them, and a map that is
 * baked for both. Closed by construction: the height at a place is one function of it, whichever island it is read from.
 */
import type { Mesh } from '../../core/data/mesh.ts';
import type { Texture } from '../../core/data/texture.ts';
import { multiply, rotationY, translation } from '../../core/data/transform.ts';
import { defaultMap } from '../../core/document/defaults.ts';
import type { MapSpec, MaterialSpec, ObjectSpec } from '../../core/document/schema.ts';
import type { Draft } from './shots.ts';

export const [COLUMNS, ROWS] = [6, 5];
const SIZE = 256;
/** Metres. */
const [WIDTH, HEIGHT] = [1.8, 1.3];

export interface Relief {
  /** Height from 0 to 1 at a place of the board, x and y from 0 to 1. */
  height(x: number, y: number): number;
  /** V of each row of the right island, from 0 to 1. */
  rows: number[];
  /** X of the seam, at each row. */
  seam: number[];
  /** Where the islands stand: each shows 0.6 of the board over its width, the left one from x 0 and the right one from 0.4 on. */
  left: Island;
  right: Island;
}
interface Island {
  u: number;
  v: number;
  width: number;
  height: number;
}

export function drawRelief({ draw }: Draft): Relief {
  const [fx, fy, phase] = [draw.within(2, 3), draw.within(3, 4.5), draw.within(0, 6)];
  const rows = Array.from({ length: ROWS + 1 }, (_, r) => r / ROWS);
  for (let r = 1; r < ROWS; r++) rows[r] += ((r % 2 ? 1 : -1) * draw.within(0.26, 0.32)) / ROWS;
  return {
    height: (x, y) => 0.5 + 0.25 * Math.sin(2 * Math.PI * fx * x + phase) + 0.25 * Math.sin(2 * Math.PI * fy * y + 1.7 * phase),
    rows,
    seam: Array.from({ length: ROWS + 1 }, (_, r) => 0.5 + (r % 2 ? 0.04 : -0.04)),
    left: { u: 0.06, v: 0.1, width: 0.38, height: 0.8 },
    right: { u: 0.54, v: 0.1, width: 0.4, height: 0.8 },
  };
} // prettier-ignore

const leftUv = ({ left }: Relief, x: number, y: number): [number, number] => [left.u + (left.width * x) / 0.6, left.v + left.height * y]; // prettier-ignore
/** Rows of the right island are where they are. */
function rightUv({ rows, right }: Relief, x: number, y: number): [number, number] {
  const r = Math.min(ROWS - 1, Math.floor(y * ROWS));
  const v = rows[r] + (y * ROWS - r) * (rows[r + 1] - rows[r]);
  return [right.u + (right.width * (x - 0.4)) / 0.6, right.v + right.height * v];
}

/** The place that an island has at a UV, or would have if it went on there. */
function placeOf({ rows, left, right }: Relief, u: number, v: number, isRight: boolean): [number, number] {
  if (!isRight) return [((u - left.u) / left.width) * 0.6, (v - left.v) / left.height];
  const at = (v - right.v) / right.height;
  let r = 0;
  while (r < ROWS - 1 && at > rows[r + 1]) r += 1;
  return [0.4 + (0.6 * (u - right.u)) / right.width, (r + (at - rows[r]) / (rows[r + 1] - rows[r])) / ROWS];
}

/** Whether a place is on the half of the board that an island is of. */
export function isOnIsland({ seam }: Relief, x: number, y: number, isRight: boolean): boolean {
  if (x < 0 || x > 1 || y < 0 || y > 1) return false;
  const r = Math.min(ROWS - 1, Math.floor(y * ROWS));
  const at = seam[r] + (y * ROWS - r) * (seam[r + 1] - seam[r]);
  return isRight ? x >= at : x <= at;
}

/**
 * @param height of a place on one island or the other; the relief's by default
 * @param tile column of UV space that is baked
 */
export function bake(relief: Relief, height: (x: number, y: number, isRight: boolean) => number = relief.height, tile = 0): Texture {
  const { left, right } = relief;
  const texels = new Float32Array(3 * SIZE * SIZE);
  for (let j = 0; j < SIZE; j++)
    for (let i = 0; i < SIZE; i++) {
      const [u, v] = [tile + (i + 0.5) / SIZE, 1 - (j + 0.5) / SIZE];
      const isRight = u > (left.u + left.width + right.u) / 2 === left.u < right.u;
      const [x, y] = placeOf(relief, u, v, isRight);
      texels.fill(height(x, y, isRight), 3 * (j * SIZE + i), 3 * (j * SIZE + i) + 3);
    }
  return { width: SIZE, height: SIZE, texels, alpha: null };
} // prettier-ignore

/** The board’s cage as triangles of quads, or one half of it. */
export function cage(relief: Relief, part: 'both' | 'left' | 'right' = 'both'): Mesh {
  const positions: number[] = [];
  const uvs: number[] = [];
  const indices: number[] = [];
  const half = COLUMNS / 2;
  const xAt = (column: number, row: number) => {
    const seam = relief.seam[row];
    return column <= half ? (seam * column) / half : seam + ((1 - seam) * (column - half)) / half;
  };
  for (const isRight of [false, true]) {
    if (part === (isRight ? 'left' : 'right')) continue;
    const [from, to] = isRight ? [half, COLUMNS] : [0, half];
    const first = positions.length / 3;
    for (let row = 0; row <= ROWS; row++)
      for (let column = from; column <= to; column++) {
        const [x, y] = [xAt(column, row), row / ROWS];
        positions.push((x - 0.5) * WIDTH, y * HEIGHT, 0);
        uvs.push(...(isRight ? rightUv(relief, x, y) : leftUv(relief, x, y)));
      }
    for (let row = 0; row < ROWS; row++)
      for (let column = 0; column < half; column++) {
        const a = first + row * (half + 1) + column;
        const [b, c, d] = [a + 1, a + half + 2, a + half + 1];
        indices.push(a, b, c, a, c, d);
      }
  }
  return {
    positions: Float32Array.from(positions),
    normals: null,
    uvs: Float32Array.from(uvs),
    indices: Uint32Array.from(indices),
    polygons: { faces: [4, indices.length / 6], subdivision: 'catmull-clark', creases: [] },
  };
}

export interface BoardOptions {
  mesh?: Mesh;
  texture?: Texture;
  material?: Partial<MaterialSpec>;
  object?: Partial<ObjectSpec>;
  map?: Partial<Extract<MapSpec, { kind: 'image' }>>;
}

/** Puts the board into a draft in place of its things; healthy unless an option says otherwise. */
export function putBoard(draft: Draft, relief: Relief, { mesh, texture, material, object, map }: BoardOptions = {}, id = 'board'): void {
  const { document, draw } = draft;
  for (const thing of draft.things.splice(0)) delete document.objects[thing];
  draft.textures.set('relief', texture ?? bake(relief));
  document.textures.relief = { file: 'relief.exr', colourSpace: 'linear' };
  document.maps.relief = { ...defaultMap('image'), texture: 'relief', filter: 'bilinear', ...map } as MapSpec;
  draft.put(
    id,
    mesh ?? cage(relief),
    { baseColour: draw.colour(0.3, 0.7), roughness: 1, specular: 0, displacementMap: 'relief', displacementScale: 0.2, displacementRest: 0.5, ...material },
    { transform: multiply(translation(0, 0.15, 0.9), rotationY(draw.one([-1, 1]) * draw.within(35, 50))), subdivision: { level: 4, edgePixels: null, boundary: 'edgeAndCorner', uvs: 'boundaries' }, ...object },
  );
} // prettier-ignore
