/** The primitives of a glTF mesh as one mesh of polygons, with the faces of each. */
import type { Accessor, Primitive } from '@gltf-transform/core';
import { emptyPolyMesh, weld, type CornerLayer, type PolyMesh } from '../../data/poly-mesh.ts';
import type { SceneReading } from '../scene-reading.ts';

export interface GltfMesh {
  poly: PolyMesh;
  /** Faces of each primitive that was read, and its number in the mesh. */
  parts: { primitive: number; faces: Uint32Array }[];
}

const MODES = ['points', 'lines', 'line loops', 'line strips', 'triangles', 'triangle strips', 'triangle fans'];

/** @returns null when nothing of it makes triangles */
export function gltfMesh(primitives: Primitive[], where: string, reading: SceneReading): GltfMesh | null {
  const kept: { primitive: number; read: ReadPrimitive }[] = [];
  primitives.forEach((primitive, i) => {
    const read = readPrimitive(primitive, `${where}.primitives[${i}]`, reading);
    if (read) kept.push({ primitive: i, read });
  });
  if (kept.length === 0) return null;
  const total = (of: (read: ReadPrimitive) => number) => kept.reduce((sum, { read }) => sum + of(read), 0);
  const vertices = total((read) => read.positions.length / 3);
  const positions = new Float32Array(vertices * 3);
  const indices = new Uint32Array(total((read) => read.indices.length));
  const hasNormals = kept.some(({ read }) => read.normals);
  const normals = new Float32Array(hasNormals ? vertices * 3 : 0);
  const sets = Math.max(...kept.map(({ read }) => read.uvs.length));
  const uvs = Array.from({ length: sets }, () => new Float32Array(vertices * 2));
  const parts: GltfMesh['parts'] = [];
  let vertex = 0;
  let index = 0;
  for (const { primitive, read } of kept) {
    positions.set(read.positions, vertex * 3);
    if (hasNormals) normals.set(read.normals ?? faceNormals(read), vertex * 3);
    read.uvs.forEach((uv, set) => uvs[set].set(uv, vertex * 2));
    for (let i = 0; i < read.indices.length; i++) indices[index + i] = read.indices[i] + vertex;
    const first = index / 3;
    parts.push({ primitive, faces: Uint32Array.from({ length: read.indices.length / 3 }, (_, i) => first + i) });
    vertex += read.positions.length / 3;
    index += read.indices.length;
  }
  const { points, pointOf } = weld(positions);
  const layer = (name: string, values: Float32Array): CornerLayer => ({ name, values, indices });
  const poly: PolyMesh = {
    ...emptyPolyMesh(),
    points,
    faceSizes: new Uint32Array(indices.length / 3).fill(3),
    corners: indices.map((v) => pointOf[v]),
    normals: hasNormals ? layer('NORMAL', normals) : null,
    uvs: uvs.map((values, set) => layer(`TEXCOORD_${set}`, values)),
  };
  return { poly, parts };
}

interface ReadPrimitive {
  positions: Float32Array;
  normals: Float32Array | null;
  uvs: Float32Array[];
  indices: Uint32Array;
}

function readPrimitive(primitive: Primitive, where: string, reading: SceneReading): ReadPrimitive | null {
  const mode = primitive.getMode();
  const position = primitive.getAttribute('POSITION');
  if (mode < 4 || !position) {
    reading.notUnderstood(where, position ? `${MODES[mode]}, which are not rendered` : 'a primitive without positions');
    return null;
  }
  const count = position.getCount();
  const stored = primitive.getIndices()?.getArray();
  const given = stored ? Uint32Array.from(stored) : Uint32Array.from({ length: count }, (_, i) => i);
  given.forEach((vertex, i) => {
    if (vertex >= count)
      throw new RangeError(`${where}: index ${i} points at vertex ${vertex}, but there are only ${count} vertices`);
  });
  if (mode > 4) reading.repaired(where, `${MODES[mode]} taken apart into triangles`);
  const uvs: Float32Array[] = [];
  for (const name of primitive.listSemantics()) {
    const set = /^TEXCOORD_(\d+)$/.exec(name)?.[1];
    if (set !== undefined) uvs[Number(set)] = flipped(numbers(primitive.getAttribute(name)!, 2));
    else if (!['POSITION', 'NORMAL', 'TANGENT', 'JOINTS_0', 'WEIGHTS_0'].includes(name))
      reading.notUnderstoodAgain(`attribute ${name}`, where, `attribute ${name}`);
  }
  const normal = primitive.getAttribute('NORMAL');
  const read = {
    positions: numbers(position, 3),
    normals: normal && numbers(normal, 3),
    uvs: Array.from(uvs, (uv) => uv ?? new Float32Array(count * 2)),
    indices: mode === 4 ? given.subarray(0, given.length - (given.length % 3)) : triangles(given, mode),
  };
  // Without normals faces are flat (glTF 2.0, section 3.7.2.1): each has corners of its own.
  return read.normals ? read : apart(read);
}

function triangles(strip: Uint32Array, mode: number): Uint32Array {
  const out: number[] = [];
  for (let i = 0; i + 2 < strip.length; i++) {
    const [a, b, c] = mode === 6 ? [strip[0], strip[i + 1], strip[i + 2]] : [strip[i], strip[i + 1], strip[i + 2]];
    if (a === b || b === c || a === c) continue;
    out.push(...(mode === 5 && i % 2 ? [b, a, c] : [a, b, c]));
  }
  return Uint32Array.from(out);
}

function apart({ positions, uvs, indices }: ReadPrimitive): ReadPrimitive {
  const pick = (values: Float32Array, width: number) => {
    const out = new Float32Array(indices.length * width);
    indices.forEach((v, i) => {
      for (let a = 0; a < width; a++) out[i * width + a] = values[v * width + a];
    });
    return out;
  };
  return {
    positions: pick(positions, 3),
    normals: null,
    uvs: uvs.map((uv) => pick(uv, 2)),
    indices: indices.map((_, i) => i),
  };
}

/** One normal for the three corners of each triangle, which stand apart. */
function faceNormals({ positions: p }: ReadPrimitive): Float32Array {
  const out = new Float32Array(p.length);
  for (let i = 0; i < p.length; i += 9) {
    const [ux, uy, uz] = [p[i + 3] - p[i], p[i + 4] - p[i + 1], p[i + 5] - p[i + 2]];
    const [vx, vy, vz] = [p[i + 6] - p[i], p[i + 7] - p[i + 1], p[i + 8] - p[i + 2]];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const length = Math.hypot(...n) || 1;
    for (let k = 0; k < 9; k++) out[i + k] = n[k % 3] / length;
  }
  return out;
}

function numbers(accessor: Accessor, width: number): Float32Array {
  const out = new Float32Array(accessor.getCount() * width);
  const element: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) {
    accessor.getElement(i, element);
    for (let k = 0; k < width; k++) out[i * width + k] = element[k];
  }
  return out;
}

/** glTF counts V from the top of the image, ours from the bottom. */
function flipped(uvs: Float32Array): Float32Array {
  for (let i = 1; i < uvs.length; i += 2) uvs[i] = 1 - uvs[i];
  return uvs;
}
