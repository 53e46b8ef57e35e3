/**
 * A cage subdivided: Catmull–Clark surfaces with creases, corners and boundaries, their UVs by one of six rules, on their
 * limit surface where that is asked for.
 *
 * The first level gives a quad for each corner of the cage, each further one four for each quad.
 *
 * @example
 * const smooth = subdivided(cage, { level: 3, uvRule: 'boundaries' });
 * const mesh = trianglesOf(smooth);
 */
import type { CornerLayer, PolyMesh } from '../data/poly-mesh.ts';
import { limitNormals, limitPlaces } from './limit.ts';
import { ENDLESS, netOf, nextNet, type Net } from './net.ts';
import { aboutPoints, nextValues } from './step.ts';
import { USUAL_BOUNDARY, USUAL_UV_RULE, type BoundaryRule, type UvRule } from '../data/subdivision-rules.ts';
import { uvNetOf } from './uv-rules.ts';

export interface SubdivideOptions {
  /** Whole number from 0, which gives the cage. */
  level: number;
  /** edgeAndCorner by default. */
  boundary?: BoundaryRule;
  /** cornersPlus1 by default. */
  uvRule?: UvRule;
  /** Points and UVs are moved to the limit; true by default. */
  toLimit?: boolean;
  /** Faces that may come of it; 2²⁴ by default. */
  mostFaces?: number;
}

const MOST_FACES = 2 ** 24;
/** Bytes for each face of the finest level while it is made: its net, the one before, places and two layers of UVs. */
const BYTES_A_FACE = 420;

export type Subdivided = PolyMesh & {
  /** Face of the cage that each face lies on. */
  faceOf: Uint32Array;
};

/** Faces at a level of a cage of so many corners, and bytes while they are made. */
export function subdivisionCost(
  { corners, faceSizes }: Pick<PolyMesh, 'corners' | 'faceSizes'>,
  level: number,
): { faces: number; bytes: number } {
  const faces = level === 0 ? faceSizes.length : corners.length * 4 ** (level - 1);
  return { faces, bytes: faces * BYTES_A_FACE };
}

/**
 * @param poly of scheme catmull-clark, or bilinear, which smooths nothing
 * @returns quads (from level 1 on) with normals of the surface, none of the creases left
 * @throws RangeError in words: a scheme that is not carried out, a level that is no whole number, too many faces, or none left
 */
export function subdivided(poly: PolyMesh, options: SubdivideOptions): Subdivided {
  const { level, boundary = USUAL_BOUNDARY, uvRule = USUAL_UV_RULE, toLimit = true, mostFaces = MOST_FACES } = options;
  if (!(Number.isInteger(level) && level >= 0))
    throw new RangeError(`a level of ${level}: it is a whole number from 0`);
  if (poly.subdivision === 'loop') throw new RangeError('Loop subdivision, which is for triangles, is not carried out');
  const { faces, bytes } = subdivisionCost(poly, level);
  if (faces > mostFaces)
    throw new RangeError(`${faces.toLocaleString('en')} faces at level ${level}, about ${Math.ceil(bytes / 2 ** 30)} GiB while they are made, are more than the ${mostFaces.toLocaleString('en')} that are made: ask for fewer levels`); // prettier-ignore
  const own = Uint32Array.from(poly.faceSizes, (_, f) => f);
  if (level === 0) return { ...poly, faceOf: own };
  const isLinear = poly.subdivision === 'bilinear';
  const cage = cageOf(poly, boundary);
  const left = boundary === 'none' && !isLinear ? awayFromBoundary(cage) : null;
  if (left?.every((isLeft) => !isLeft)) throw new RangeError('every face is at the boundary, so that none is left');
  const places = refined(cage, new Float64Array(poly.points), 3, level, isLinear);
  const uvs = poly.uvs.map((layer): CornerLayer => {
    const { net, values } = uvNetOf(poly, cage, layer, uvRule);
    const isHeld = isLinear || uvRule === 'all';
    const fine = refined(net, values, 2, level, isHeld);
    const ended = toLimit && !isHeld ? limitPlaces(fine.net, aboutPoints(fine.net), fine.values, 2) : fine.values;
    return { name: layer.name, values: new Float32Array(ended), indices: fine.net.corners };
  });
  const faceOf = facesOf(poly.faceSizes, level);
  const about = aboutPoints(places.net);
  const atLimit = toLimit && !isLinear ? limitPlaces(places.net, about, places.values, 3) : places.values;
  const fine: PolyMesh = {
    points: new Float32Array(atLimit),
    faceSizes: places.net.faceSizes,
    corners: places.net.corners,
    normals: null,
    uvs,
    subdivision: 'none',
    creases: { edges: new Uint32Array(0), sharpness: new Float32Array(0) },
  };
  fine.normals = { name: 'of the surface', ...limitNormals(places.net, about, places.values, fine, isLinear) };
  return left ? withFaces(fine, faceOf, left) : { ...fine, faceOf };
}

/** The polygons' own net. A crease between points that no edge joins holds nothing. */
function cageOf(poly: PolyMesh, boundary: BoundaryRule): Net {
  const net = netOf(poly.faceSizes, poly.corners, poly.points.length / 3);
  const edges = new Map<string, number>();
  const { edges: creased, sharpness } = poly.creases;
  if (sharpness.length > 0) for (let e = 0; e < net.edgeFaces.length; e++) edges.set(keyOf(net.ends[2 * e], net.ends[2 * e + 1]), e); // prettier-ignore
  sharpness.forEach((value, k) => {
    const edge = edges.get(keyOf(creased[2 * k], creased[2 * k + 1]));
    if (edge !== undefined) net.edgeSharpness[edge] = Math.min(ENDLESS, Math.max(0, value));
  });
  poly.sharpPoints?.points.forEach((point, k) => (net.pointSharpness[point] = Math.min(ENDLESS, Math.max(0, poly.sharpPoints!.sharpness[k])))); // prettier-ignore
  if (boundary !== 'edgeAndCorner') return net;
  const { faces } = aboutPoints(net);
  faces.forEach((count, p) => count === 1 && (net.pointSharpness[p] = ENDLESS));
  return net;
}

const keyOf = (a: number, b: number): string => `${Math.min(a, b)} ${Math.max(a, b)}`;

function refined(
  net: Net,
  values: Float64Array,
  width: number,
  level: number,
  isLinear: boolean,
): { net: Net; values: Float64Array } {
  for (let k = 0; k < level; k++) {
    values = nextValues(net, aboutPoints(net), values, width, isLinear);
    net = nextNet(net);
  }
  return { net, values };
}

/** Face of the cage for each face of a level. */
function facesOf(faceSizes: Uint32Array, level: number): Uint32Array {
  const each = 4 ** (level - 1);
  const out = new Uint32Array(each * faceSizes.reduce((sum, size) => sum + size, 0));
  let at = 0;
  faceSizes.forEach((size, f) => out.fill(f, at, (at += size * each)));
  return out;
}

/** A byte a face: 1 where no point of it is at the boundary. */
function awayFromBoundary(net: Net): Uint8Array {
  const atBoundary = new Uint8Array(net.points);
  net.edgeFaces.forEach((count, e) => {
    if (count === 1) atBoundary[net.ends[2 * e]] = atBoundary[net.ends[2 * e + 1]] = 1;
  });
  const out = new Uint8Array(net.faceSizes.length);
  for (let f = 0, start = 0; f < out.length; start += net.faceSizes[f++])
    out[f] = Number(net.corners.subarray(start, start + net.faceSizes[f]).every((p) => !atBoundary[p]));
  return out;
}

/** Those faces alone whose face of the cage is kept; points and values stay, used or not. */
function withFaces(fine: PolyMesh, faceOf: Uint32Array, kept: Uint8Array): Subdivided {
  const faces = Uint32Array.from([...faceOf.keys()].filter((f) => kept[faceOf[f]]));
  const cornersOf = (of: Uint32Array) => Uint32Array.from({ length: 4 * faces.length }, (_, c) => of[4 * faces[c >> 2] + (c & 3)]); // prettier-ignore
  const cut = (layer: CornerLayer): CornerLayer => ({ ...layer, indices: cornersOf(layer.indices) });
  return {
    ...fine,
    faceSizes: new Uint32Array(faces.length).fill(4),
    corners: cornersOf(fine.corners),
    normals: fine.normals && cut(fine.normals),
    uvs: fine.uvs.map(cut),
    faceOf: Uint32Array.from(faces, (f) => faceOf[f]),
  };
}
