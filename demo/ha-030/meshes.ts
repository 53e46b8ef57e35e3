/** Cages of HA-030, to be subdivided, and the places on the slab that its texture shows. */
import type { Mesh } from '../../core/data/mesh.ts';

/** Metres. */
export const SLAB = { width: 0.42, height: 0.036, depth: 0.28 };
const [COLUMNS, ROWS] = [8, 6];
const HALF = COLUMNS / 2;
/** Of a tile: islands keep clear of its edges. */
const [FROM, SIDE] = [0.06, 0.88];

/** Where each row of the right island stands: unwrapped by hand, and not evenly. */
const ROWS_RIGHT = [0, 0.23, 0.3, 0.56, 0.63, 0.89, 1];
/** Columns that the seam goes to and fro by. */
const seamAt = (row: number): number => HALF + (row === 0 || row === ROWS ? 0 : row % 2 ? 0.35 : -0.35);

/** X and Z of the top from its middle, by column and row; columns beside the seam move with it. */
function topPlace(column: number, row: number): [number, number] {
  const seam = seamAt(row);
  const c = column <= HALF ? (column * seam) / HALF : seam + ((column - HALF) * (COLUMNS - seam)) / HALF;
  return [(c / COLUMNS - 0.5) * SLAB.width, (0.5 - row / ROWS) * SLAB.depth];
}

/** Share of the slab’s width that each island’s tile shows, from its left. */
const SHOWN = 0.6;

function topUv(x: number, z: number, isRight: boolean): [number, number] {
  const [s, t] = [x / SLAB.width + 0.5, 0.5 - z / SLAB.depth];
  if (!isRight) return [FROM + (SIDE * s) / SHOWN, FROM + SIDE * t];
  const r = Math.min(ROWS - 1, Math.floor(t * ROWS + 1e-9));
  const v = ROWS_RIGHT[r] + (t * ROWS - r) * (ROWS_RIGHT[r + 1] - ROWS_RIGHT[r]);
  return [1 + FROM + (SIDE * (s - (1 - SHOWN))) / SHOWN, FROM + SIDE * v];
}

/** X and Z that a place of tile 1001 or 1002 shows, or would if the island went on there. */
export function slabPlace(u: number, v: number, isRight: boolean): [number, number] {
  const [a, b] = [(u - FROM) / SIDE, (v - FROM) / SIDE];
  if (!isRight) return [(a * SHOWN - 0.5) * SLAB.width, (0.5 - b) * SLAB.depth];
  let r = 0;
  while (r < ROWS - 1 && b > ROWS_RIGHT[r + 1]) r += 1;
  const t = (r + (b - ROWS_RIGHT[r]) / (ROWS_RIGHT[r + 1] - ROWS_RIGHT[r])) / ROWS;
  return [(a * SHOWN + 1 - SHOWN - 0.5) * SLAB.width, (0.5 - t) * SLAB.depth];
}

class Cage {
  readonly positions: number[] = [];
  readonly uvs: number[] = [];
  readonly indices: number[] = [];
  readonly creases: number[] = [];

  vertex(place: number[], uv: number[]): number {
    this.positions.push(...place);
    this.uvs.push(...uv);
    return this.positions.length / 3 - 1;
  }

  quad(a: number, b: number, c: number, d: number): void {
    this.indices.push(a, b, c, a, c, d);
  }

  get mesh(): Mesh {
    return {
      positions: Float32Array.from(this.positions),
      normals: null,
      uvs: Float32Array.from(this.uvs),
      indices: Uint32Array.from(this.indices),
      polygons: { faces: [4, this.indices.length / 6], subdivision: 'catmull-clark', creases: this.creases },
    };
  }
}

/** The slab: its top in two islands on two tiles, sides and bottom on a third. */
export function slab(): Mesh {
  const cage = new Cage();
  const top = new Map<string, number>();
  const topAt = (column: number, row: number, isRight: boolean) => {
    const key = `${column} ${row} ${isRight}`;
    const known = top.get(key);
    if (known !== undefined) return known;
    const [x, z] = topPlace(column, row);
    const vertex = cage.vertex([x, SLAB.height, z], topUv(x, z, isRight));
    top.set(key, vertex);
    return vertex;
  };
  for (let row = 0; row < ROWS; row++)
    for (let column = 0; column < COLUMNS; column++) {
      const isRight = column >= HALF;
      cage.quad(topAt(column, row, isRight), topAt(column + 1, row, isRight), topAt(column + 1, row + 1, isRight), topAt(column, row + 1, isRight));
    }
  const bottom = new Map<string, number>();
  const bottomAt = (column: number, row: number) => {
    const key = `${column} ${row}`;
    if (!bottom.has(key)) bottom.set(key, cage.vertex([topPlace(column, row)[0], 0, topPlace(column, row)[1]], [2.1 + (0.8 * column) / COLUMNS, 0.1 + (0.5 * row) / ROWS]));
    return bottom.get(key)!;
  };
  for (let row = 0; row < ROWS; row++)
    for (let column = 0; column < COLUMNS; column++) cage.quad(bottomAt(column, row + 1), bottomAt(column + 1, row + 1), bottomAt(column + 1, row), bottomAt(column, row));
  const ring = [
    ...Array.from({ length: COLUMNS }, (_, c) => [c, 0]),
    ...Array.from({ length: ROWS }, (_, r) => [COLUMNS, r]),
    ...Array.from({ length: COLUMNS }, (_, c) => [COLUMNS - c, ROWS]),
    ...Array.from({ length: ROWS }, (_, r) => [0, ROWS - r]),
  ];
  // Once around, and the first again: the strip ends where it began.
  const strip = [...ring, ring[0]].map(([column, row], s) => {
    const [x, z] = topPlace(column, row);
    return [0, SLAB.height].map((y) => cage.vertex([x, y, z], [2.05 + (0.9 * s) / ring.length, y > 0 ? 0.95 : 0.75]));
  });
  ring.forEach((_, k) => {
    const [[a, d], [b, c]] = [strip[k], strip[k + 1]];
    cage.quad(a, b, c, d);
    // Rims are rounded, and not away.
    cage.creases.push(d, c, 2.5, a, b, 2.5);
  });
  return cage.mesh;
} // prettier-ignore

/** A candle: open at its foot, its cells once around. */
export function candle(radius: number, height: number): Mesh {
  const [around, up] = [12, 6];
  const cage = new Cage();
  const rows = Array.from({ length: up + 1 }, (_, r) =>
    Array.from({ length: around + 1 }, (_, k) => {
      const angle = (2 * Math.PI * (k % around)) / around;
      return cage.vertex([radius * Math.sin(angle), (height * r) / up, radius * Math.cos(angle)], [k / around, r / up]);
    }),
  );
  for (let r = 0; r < up; r++)
    for (let k = 0; k < around; k++) cage.quad(rows[r][k], rows[r][k + 1], rows[r + 1][k + 1], rows[r + 1][k]);
  return cage.mesh;
}

/** A flat round of wax, its top seen from above as the texture shows it. */
export function seal(radius: number, height: number): Mesh {
  const cage = new Cage();
  const around = 16;
  const rings = [0.35, 0.7, 0.95, 1];
  const uvAt = (x: number, z: number): [number, number] => [0.5 + (0.45 * x) / radius, 0.5 - (0.45 * z) / radius];
  const ringAt = (share: number, y: number) =>
    Array.from({ length: around }, (_, k) => {
      const angle = (2 * Math.PI * k) / around;
      const [x, z] = [share * radius * Math.sin(angle), share * radius * Math.cos(angle)];
      return cage.vertex([x, y, z], uvAt(x, z));
    });
  const middle = cage.vertex([0, height, 0], uvAt(0, 0));
  const all = [...rings.map((share) => ringAt(share, height)), ringAt(1, 0)];
  for (let k = 0; k < around; k += 2) cage.quad(middle, all[0][k], all[0][(k + 1) % around], all[0][(k + 2) % around]);
  for (let r = 0; r + 1 < all.length; r++)
    for (let k = 0; k < around; k++) cage.quad(all[r][k], all[r + 1][k], all[r + 1][(k + 1) % around], all[r][(k + 1) % around]);
  return cage.mesh;
} // prettier-ignore
