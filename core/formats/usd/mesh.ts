/** A Mesh prim as polygons. Source: OpenUSD, UsdGeomMesh and UsdGeomPrimvarsAPI. */
import { emptyPolyMesh, type CornerLayer, type PolyMesh } from '../../data/poly-mesh.ts';
import { BOUNDARY_RULES, USUAL_BOUNDARY, USUAL_UV_RULE, UV_RULES } from '../../data/subdivision-rules.ts';
import type { SceneReading } from '../scene-reading.ts';
import { numbersOf, textOf } from './access.ts';
import type { UsdPrim } from './layer.ts';

const UV_TYPES = new Set(['texCoord2f[]', 'texCoord2d[]', 'texCoord2h[]', 'float2[]', 'double2[]', 'half2[]']);

/** @throws RangeError naming the place when faces and points do not go together */
export function usdMesh(prim: UsdPrim, reading: SceneReading): PolyMesh {
  const points = Float32Array.from(numbersOf(prim, 'points') ?? []);
  const faceSizes = Uint32Array.from(numbersOf(prim, 'faceVertexCounts') ?? []);
  const corners = Uint32Array.from(numbersOf(prim, 'faceVertexIndices') ?? []);
  const count = faceSizes.reduce((a, b) => a + b, 0);
  const name = `${prim.where}: mesh ${prim.name}`;
  if (count !== corners.length)
    throw new RangeError(`${name}: its faces have ${count} corners, but there are ${corners.length} indices`);
  const pointCount = points.length / 3;
  corners.forEach((point, corner) => {
    if (point >= pointCount)
      throw new RangeError(`${name}: corner ${corner} is at point ${point}, but there are only ${pointCount} points`);
  });
  const faceOf = new Uint32Array(count);
  for (let f = 0, c = 0; f < faceSizes.length; f++) for (let k = 0; k < faceSizes[f]; k++) faceOf[c++] = f;
  const layer = (attribute: string, width: number) =>
    layerOf(prim, attribute, width, { corners, faceOf, pointCount }, reading);
  const uvNames = [...prim.attributes]
    .filter(([attribute, { type }]) => attribute.startsWith('primvars:') && UV_TYPES.has(type))
    .map(([attribute]) => attribute)
    // The customary set comes first, so that all meshes agree on what the first one is.
    .sort((a, b) => Number(b === 'primvars:st') - Number(a === 'primvars:st') || a.localeCompare(b));
  const poly: PolyMesh = {
    ...emptyPolyMesh(),
    points,
    faceSizes,
    corners,
    normals: layer(prim.attributes.has('primvars:normals') ? 'primvars:normals' : 'normals', 3),
    uvs: uvNames.map((attribute) => layer(attribute, 2)).filter((uv): uv is CornerLayer => uv !== null),
    subdivision: subdivisionOf(prim, reading),
    ends: endsOf(prim, reading),
    creases: creasesOf(prim),
    ...sharpPointsOf(prim, points.length / 3, reading),
  };
  if (poly.subdivision !== 'none' && poly.normals) {
    reading.notUnderstoodAgain(
      'subdivided normals',
      prim.where,
      `${prim.name}: normals of a subdivided mesh, which its limit surface has`,
    );
    poly.normals = null;
  }
  const whole = textOf(prim, 'orientation') === 'leftHanded' ? turnedRound(poly) : poly;
  return whole;
}

interface Places {
  corners: Uint32Array;
  faceOf: Uint32Array;
  pointCount: number;
}

function layerOf(
  prim: UsdPrim,
  attribute: string,
  width: number,
  { corners, faceOf, pointCount }: Places,
  reading: SceneReading,
): CornerLayer | null {
  const found = prim.attributes.get(attribute);
  const numbers = numbersOf(prim, attribute);
  if (!found || !numbers || numbers.length === 0) return null;
  const name = attribute.replace('primvars:', '');
  const values = Float32Array.from(numbers);
  const own = numbersOf(prim, `${attribute}:indices`);
  const interpolation = found.interpolation ?? (attribute === 'normals' ? 'vertex' : 'constant');
  const entry: Record<string, (corner: number) => number> = {
    constant: () => 0,
    uniform: (corner) => faceOf[corner],
    varying: (corner) => corners[corner],
    vertex: (corner) => corners[corner],
    faceVarying: (corner) => corner,
  };
  const entries: Record<string, number> = {
    constant: 1,
    uniform: faceOf.length ? faceOf[faceOf.length - 1] + 1 : 0,
    varying: pointCount,
    vertex: pointCount,
    faceVarying: corners.length,
  };
  const given = own ? own.length : values.length / width;
  const isUsable =
    Object.hasOwn(entry, interpolation) &&
    given >= entries[interpolation] &&
    (!own || own.every((i) => i >= 0 && i < values.length / width));
  if (!isUsable) {
    reading.notUnderstood(
      found.where,
      `${prim.name}: "${name}" has ${given} values, but ${interpolation} ones need ${entries[interpolation] ?? 'another interpolation'}`,
    );
    return null;
  }
  const at = entry[interpolation];
  return { name, values, indices: Uint32Array.from(corners, (_, corner) => (own ? own[at(corner)] : at(corner))) };
}

function subdivisionOf(prim: UsdPrim, reading: SceneReading): PolyMesh['subdivision'] {
  const scheme = textOf(prim, 'subdivisionScheme') ?? 'catmullClark';
  if (scheme === 'none' || scheme === 'bilinear' || scheme === 'loop') return scheme;
  if (scheme !== 'catmullClark') reading.notUnderstood(prim.where, `subdivision scheme "${scheme}"`);
  return 'catmull-clark';
}

function endsOf(prim: UsdPrim, reading: SceneReading): PolyMesh['ends'] {
  const told = <T extends string>(attribute: string, rules: Record<T, string>, usual: T): T => {
    const rule = textOf(prim, attribute) ?? usual;
    if (Object.hasOwn(rules, rule)) return rule as T;
    reading.notUnderstood(prim.where, `${attribute} "${rule}"`);
    return usual;
  };
  return {
    boundary: told('interpolateBoundary', BOUNDARY_RULES, USUAL_BOUNDARY),
    uvs: told('faceVaryingLinearInterpolation', UV_RULES, USUAL_UV_RULE),
  };
}

/** Chains of points, each with one sharpness, or one for each of its edges. */
function creasesOf(prim: UsdPrim): PolyMesh['creases'] {
  const lengths = numbersOf(prim, 'creaseLengths') ?? [];
  const indices = numbersOf(prim, 'creaseIndices') ?? new Float64Array(0);
  const sharpness = numbersOf(prim, 'creaseSharpnesses') ?? new Float64Array(0);
  const perChain = sharpness.length === lengths.length;
  const edges: number[] = [];
  const values: number[] = [];
  let at = 0;
  Array.from(lengths).forEach((length, chain) => {
    for (let k = 0; k + 1 < length; k++) {
      edges.push(indices[at + k], indices[at + k + 1]);
      values.push(perChain ? sharpness[chain] : (sharpness[values.length] ?? 0));
    }
    at += length;
  });
  return { edges: Uint32Array.from(edges), sharpness: Float32Array.from(values) };
}

/** Points that are sharp by themselves. Those of points that are not there are left out, and told. */
function sharpPointsOf(prim: UsdPrim, count: number, reading: SceneReading): Pick<PolyMesh, 'sharpPoints'> {
  const indices = [...(numbersOf(prim, 'cornerIndices') ?? [])];
  const sharpness = numbersOf(prim, 'cornerSharpnesses') ?? [];
  const kept = indices.flatMap((point, i) => (point >= 0 && point < count && i < sharpness.length ? [i] : []));
  if (kept.length < indices.length)
    reading.notUnderstoodAgain('sharp corners', prim.where, `${prim.name}: ${indices.length - kept.length} of ${indices.length} sharp corners name no point, or have no sharpness`);
  return kept.length ? { sharpPoints: { points: Uint32Array.from(kept, (i) => indices[i]), sharpness: Float32Array.from(kept, (i) => sharpness[i]) } } : {};
} // prettier-ignore

/** Faces the other way about. */
function turnedRound(poly: PolyMesh): PolyMesh {
  const turn = (indices: Uint32Array) => {
    const out = indices.slice();
    let start = 0;
    for (const size of poly.faceSizes) {
      out.subarray(start, start + size).reverse();
      start += size;
    }
    return out;
  };
  const layer = (one: CornerLayer) => ({ ...one, indices: turn(one.indices) });
  return {
    ...poly,
    corners: turn(poly.corners),
    normals: poly.normals && layer(poly.normals),
    uvs: poly.uvs.map(layer),
  };
}
