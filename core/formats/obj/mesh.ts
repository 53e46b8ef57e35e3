/** The faces of one node of an OBJ file as a mesh of its own. */
import { emptyPolyMesh, smoothNormals, type CornerLayer, type PolyMesh } from '../../data/poly-mesh.ts';
import type { ObjGeometry } from './geometry.ts';

/** Numbers of the file's values in the order in which a mesh first uses them. */
class Renumbering {
  readonly used: number[] = [];
  private readonly numbers = new Map<number, number>();

  of(number: number): number {
    let own = this.numbers.get(number);
    if (own === undefined) {
      own = this.used.push(number) - 1;
      this.numbers.set(number, own);
    }
    return own;
  }

  values(from: Float32Array, size: number): Float32Array {
    const out = new Float32Array(this.used.length * size);
    this.used.forEach((number, i) => {
      for (let a = 0; a < size; a++) out[i * size + a] = from[number * size + a];
    });
    return out;
  }

  has(number: number): boolean {
    return this.numbers.has(number);
  }
}

export interface ObjMesh {
  poly: PolyMesh;
  /** Material of each face, −1: none. */
  materials: Int32Array;
  /** What was put right, as phrases. */
  repaired: string[];
}

/**
 * @param faces numbers of the faces
 * @param starts first corner of each face of the file
 */
export function objMesh(geometry: ObjGeometry, faces: Uint32Array, starts: Uint32Array): ObjMesh {
  const points = new Renumbering();
  const uvs = new Renumbering();
  const normals = new Renumbering();
  const faceSizes = Uint32Array.from(faces, (face) => geometry.faceSizes[face]);
  const count = faceSizes.reduce((a, b) => a + b, 0);
  const corners = new Uint32Array(count);
  const cornerUvs = new Uint32Array(count);
  const cornerNormals = new Uint32Array(count);
  let withoutUv = 0;
  let withoutNormal = 0;
  let to = 0;
  for (const face of faces)
    for (let k = 0; k < geometry.faceSizes[face]; k++, to++) {
      const from = (starts[face] + k) * 3;
      corners[to] = points.of(geometry.corners[from]);
      const uv = geometry.corners[from + 1];
      const normal = geometry.corners[from + 2];
      if (uv < 0) withoutUv += 1;
      else cornerUvs[to] = uvs.of(uv);
      if (normal < 0) withoutNormal += 1;
      else cornerNormals[to] = normals.of(normal);
    }
  const repaired: string[] = [];
  const poly: PolyMesh = {
    ...emptyPolyMesh(),
    points: points.values(geometry.points, 3),
    faceSizes,
    corners,
    uvs: withoutUv < count ? [layer('uv', uvs, geometry.uvs, cornerUvs, 2)] : [],
    ...creasesOf(geometry, points),
  };
  if (withoutUv > 0 && withoutUv < count)
    repaired.push(`${withoutUv} of ${count} corners have no UV; they take the first one`);
  if (withoutNormal === 0) poly.normals = layer('normal', normals, geometry.normals, cornerNormals, 3);
  else {
    if (withoutNormal < count)
      repaired.push(`${withoutNormal} of ${count} corners have no normal; all are worked out from the faces`);
    const groups = Uint32Array.from(faces, (face) => Math.max(0, geometry.faceSmoothing[face]));
    if (groups.some((group) => group > 0)) poly.normals = smoothNormals(poly, groups);
  }
  return { poly, materials: Int32Array.from(faces, (face) => geometry.faceMaterial[face]), repaired };
}

const layer = (
  name: string,
  used: Renumbering,
  from: Float32Array,
  indices: Uint32Array,
  size: number,
): CornerLayer => ({
  name,
  values: used.values(from, size),
  indices,
});

function creasesOf(geometry: ObjGeometry, points: Renumbering): Partial<PolyMesh> {
  const own = geometry.creases.filter(({ a, b }) => points.has(a) && points.has(b));
  if (own.length === 0) return {};
  return {
    subdivision: 'catmull-clark',
    creases: {
      edges: Uint32Array.from(own.flatMap(({ a, b }) => [points.of(a), points.of(b)])),
      sharpness: Float32Array.from(own, ({ sharpness }) => sharpness),
    },
  };
}
