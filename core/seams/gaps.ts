/**
 * How far the two sides of seams have moved apart: in the world, and in pixels of a camera.
 *
 * @example
 * const gaps = gapsOf(movedShapes(scene), viewOf(scene, sheet));
 * gaps.greatest; // 0.0021, metres
 */
import { NumberMap } from '../data/poly-mesh.ts';
import { determinant } from '../data/transform.ts';
import type { View } from '../render/scene/view.ts';
import type { MovedShape } from './moved-shapes.ts';
import { seamEdges } from './seam-edges.ts';

/** One edge of a seam. */
export interface Gap {
  /** Places of the shapes in their list; two where objects meet. */
  shapes: [number, number];
  /** From and to on one side, the same places on the other. */
  vertices: [number, number, number, number];
  /** Metres, before anything moved. */
  length: number;
  /** Metres at both ends. */
  ends: [number, number];
  /** Pixels at both ends; 0 behind the camera. */
  pixels: [number, number];
  /** Where the middle between its sides is seen, from end to end, full-frame pixels; null behind the camera. */
  line: [number, number, number, number] | null;
}

export interface SeamGaps {
  /** Those that are open at all. */
  gaps: Gap[];
  /** Metres of closed seam of each shape. */
  closed: number[];
  /** Metres of seam, and of it where it is open by half a pixel. */
  length: number;
  open: number;
  /** Metres, and pixels inside the frame. */
  greatest: number;
  greatestPixels: number;
  /** Square metres between the sides: length times gap. */
  area: number;
}

/** Pixels from which a gap is seen. */
export const SEEN = 0.5;

/** @param shapes whose seams are measured, and the borders where they meet */
export function gapsOf(shapes: MovedShape[], view: View): SeamGaps {
  const gaps: Gap[] = [];
  const closed = shapes.map(({ mesh, toWorld }, k) => {
    const { seams } = seamEdges(mesh);
    const { open, length } = partsOf(mesh);
    for (const i of open) gaps.push(gapAt(shapes, [k, k], [seams[i], seams[i + 1], seams[i + 2], seams[i + 3]], view));
    return length * scaleOf(toWorld);
  });
  if (shapes.length > 1)
    for (const [pair, vertices] of meetings(shapes)) {
      const gap = gapAt(shapes, pair, vertices, view);
      if (Math.max(...gap.ends) > 0) gaps.push(gap);
      else closed[pair[0]] += gap.length;
    }
  return summed(gaps, closed, view);
}

/** Of a mesh, whatever wears it: places in its list of seams that are open, and the length of the others. */
const known = new WeakMap<Float32Array, { open: Uint32Array; length: number }>();

function partsOf(mesh: MovedShape['mesh']): { open: Uint32Array; length: number } {
  const { positions, before } = mesh;
  const kept = known.get(positions);
  if (kept) return kept;
  const { seams } = seamEdges(mesh);
  const isOne = (v: number, w: number) => positions[3 * v] === positions[3 * w] && positions[3 * v + 1] === positions[3 * w + 1] && positions[3 * v + 2] === positions[3 * w + 2]; // prettier-ignore
  const open: number[] = [];
  let length = 0;
  for (let i = 0; i < seams.length; i += 4) {
    const [v, w] = [seams[i], seams[i + 1]];
    if (!isOne(v, seams[i + 2]) || !isOne(w, seams[i + 3])) open.push(i);
    else length += Math.hypot(before[3 * v] - before[3 * w], before[3 * v + 1] - before[3 * w + 1], before[3 * v + 2] - before[3 * w + 2]); // prettier-ignore
  }
  const parts = { open: Uint32Array.from(open), length };
  known.set(positions, parts);
  return parts;
}

/** How much longer lengths are in the world, the mean of all directions: the cube root of its volume. */
const scaleOf = (rows: Float64Array): number => Math.cbrt(Math.abs(determinant([...rows])));

/**
 * @param closed metres of closed seam of each shape
 * @param from pixels from which a gap counts as open; half a one by default
 * @returns the same of some of the gaps
 */
export function summed(
  gaps: Gap[],
  closed: number[],
  { width, height }: Pick<View, 'width' | 'height'>,
  from = SEEN,
): SeamGaps {
  const length = closed.reduce((sum, one) => sum + one, 0);
  const out: SeamGaps = { gaps, closed, length, open: 0, greatest: 0, greatestPixels: 0, area: 0 };
  for (const { length, ends, pixels, line } of gaps) {
    out.length += length;
    out.area += (length * (ends[0] + ends[1])) / 2;
    out.greatest = Math.max(out.greatest, ...ends);
    if (!line || !isInFrame((line[0] + line[2]) / 2, (line[1] + line[3]) / 2, width, height)) continue;
    out.greatestPixels = Math.max(out.greatestPixels, ...pixels);
    if (Math.max(...pixels) >= from) out.open += length;
  }
  return out;
}

const isInFrame = (x: number, y: number, width: number, height: number): boolean => x >= 0 && y >= 0 && x < width && y < height; // prettier-ignore

function gapAt(shapes: MovedShape[], pair: Gap['shapes'], vertices: Gap['vertices'], view: View): Gap {
  const [one, other] = [shapes[pair[0]], shapes[pair[1]]];
  const place = (shape: MovedShape, of: Float32Array, v: number) => inWorld(shape.toWorld, of, v);
  const [a0, a1] = [place(one, one.mesh.positions, vertices[0]), place(one, one.mesh.positions, vertices[1])];
  const [b0, b1] = [place(other, other.mesh.positions, vertices[2]), place(other, other.mesh.positions, vertices[3])];
  const [from, to] = [place(one, one.mesh.before, vertices[0]), place(one, one.mesh.before, vertices[1])];
  const seen = [a0, b0, a1, b1].map((point) => view.pixelOf(point));
  const across = (p: number) => {
    const [x, y] = [seen[p], seen[p + 1]];
    return x && y ? Math.hypot(x[0] - y[0], x[1] - y[1]) : 0;
  };
  const all = seen.every((one) => one !== null);
  const mid = (p: number, a: number) => (seen[p]![a] + seen[p + 1]![a]) / 2;
  return {
    shapes: pair,
    vertices,
    length: apart(from, to),
    ends: [apart(a0, b0), apart(a1, b1)],
    pixels: [across(0), across(2)],
    line: all ? [mid(0, 0), mid(0, 1), mid(2, 0), mid(2, 1)] : null,
  }; // prettier-ignore
}

type Triple = [number, number, number];
const apart = (p: Triple, q: Triple): number => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);

export function inWorld(rows: Float64Array, of: Float32Array, v: number): Triple {
  const [x, y, z] = [of[3 * v], of[3 * v + 1], of[3 * v + 2]];
  return [0, 4, 8].map((r) => rows[r] * x + rows[r + 1] * y + rows[r + 2] * z + rows[r + 3]) as Triple;
}

/** Side of the cells by which places of two objects are the same, metres: well below what a model is made to, above its rounding. */
const CELL = 1e-5;

/** Borders of different objects that run along the same edge. */
function* meetings(shapes: MovedShape[]): Generator<[Gap['shapes'], Gap['vertices']]> {
  const places = new NumberMap(1024, 3);
  const cell = (shape: MovedShape, v: number) => {
    // Round numbers, where models meet, lie in the middle of cells.
    const [x, y, z] = inWorld(shape.toWorld, shape.mesh.before, v).map((value) => Math.round(value / CELL));
    return places.add(x, y, z);
  };
  const edges = new NumberMap(1024, 2);
  const first: { shape: number; low: number; high: number }[] = [];
  for (let k = 0; k < shapes.length; k++) {
    const { borders } = seamEdges(shapes[k].mesh);
    for (let i = 0; i < borders.length; i += 2) {
      const [a, b] = [borders[i], borders[i + 1]];
      const [p, q] = [cell(shapes[k], a), cell(shapes[k], b)];
      const [low, high] = p < q ? [a, b] : [b, a];
      const edge = edges.add(Math.min(p, q), Math.max(p, q));
      const before = first[edge];
      if (!before) first[edge] = { shape: k, low, high };
      else if (before.shape !== k)
        yield [
          [before.shape, k],
          [before.low, before.high, low, high],
        ];
    }
  }
}
