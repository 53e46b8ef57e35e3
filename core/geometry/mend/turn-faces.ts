/**
 * Faces turned so that all of a body look out of it. Neighbours are taken along from face to face over the edges
 * that exactly two of them share; a closed body is turned whole if its volume is negative. An open one follows the
 * side that most of its area looked to before, for which side of a sheet is meant nobody can tell.
 *
 * @example
 * topologyOf(turnedOutwards(insideOutBox)).volume;   // above 0, and no mixed edge
 */
import { faceNormal, faceStarts, NumberMap, type CornerLayer, type PolyMesh } from '../../data/poly-mesh.ts';
import { topologyOf } from '../topology.ts';
import { normalsOfTheirFaces } from './normals.ts';

export function turnedOutwards(poly: PolyMesh): PolyMesh {
  const starts = faceStarts(poly);
  const isTurned = new Uint8Array(poly.faceSizes.length);
  const neighbours = neighboursOf(poly, starts);
  const seen = new Uint8Array(poly.faceSizes.length);
  for (let first = 0; first < seen.length; first++) {
    if (seen[first]) continue;
    const body = spread(first, neighbours, seen, isTurned);
    if (shouldTurn(poly, starts, body, isTurned)) for (const face of body) isTurned[face] ^= 1;
  }
  return isTurned.includes(1) ? normalsOfTheirFaces(withTurned(poly, starts, isTurned)) : normalsOfTheirFaces(poly);
}

/** Faces beside each face, and whether they run along the common edge the same way (they look opposite ways then). */
function neighboursOf({ faceSizes, corners }: PolyMesh, starts: Uint32Array): { face: number; differs: boolean }[][] {
  const edges = new NumberMap(corners.length, 2);
  const users: { face: number; isUp: boolean }[][] = [];
  for (let f = 0; f < faceSizes.length; f++)
    for (let k = 0; k < faceSizes[f]; k++) {
      const a = corners[starts[f] + k];
      const b = corners[starts[f] + ((k + 1) % faceSizes[f])];
      (users[edges.add(Math.min(a, b), Math.max(a, b))] ??= []).push({ face: f, isUp: a < b });
    }
  const out = Array.from({ length: faceSizes.length }, (): { face: number; differs: boolean }[] => []);
  for (const [one, other, third] of users) {
    if (!other || third) continue;
    const differs = one.isUp === other.isUp;
    out[one.face].push({ face: other.face, differs });
    out[other.face].push({ face: one.face, differs });
  }
  return out;
}

/** All faces that hang together with one, turned to agree with it. */
function spread(first: number, neighbours: ReturnType<typeof neighboursOf>, seen: Uint8Array, isTurned: Uint8Array) {
  const body = [first];
  seen[first] = 1;
  for (const face of body)
    for (const { face: other, differs } of neighbours[face]) {
      if (seen[other]) continue;
      seen[other] = 1;
      isTurned[other] = isTurned[face] ^ Number(differs);
      body.push(other);
    }
  return body;
}

function shouldTurn(poly: PolyMesh, starts: Uint32Array, body: number[], isTurned: Uint8Array): boolean {
  const only = withTurned(poly, starts, isTurned);
  const corners: number[] = [];
  for (const face of body) for (let k = 0; k < poly.faceSizes[face]; k++) corners.push(only.corners[starts[face] + k]);
  const part: PolyMesh = {
    ...poly,
    faceSizes: Uint32Array.from(body, (face) => poly.faceSizes[face]),
    corners: Uint32Array.from(corners),
    normals: null,
    uvs: [],
  };
  const { openEdges, nonManifoldEdges, mixedEdges, volume } = topologyOf(part);
  if (openEdges.length + nonManifoldEdges.length + mixedEdges.length === 0) return volume < 0;
  let turned = 0;
  let kept = 0;
  for (const face of body) {
    const area = Math.hypot(...faceNormal(poly, starts[face], poly.faceSizes[face]));
    if (isTurned[face]) turned += area;
    else kept += area;
  }
  return turned > kept;
}

/** Corners of turned faces in opposite order, in every layer; their normals point the other way. */
function withTurned(poly: PolyMesh, starts: Uint32Array, isTurned: Uint8Array): PolyMesh {
  const from = Uint32Array.from(poly.corners.keys());
  for (let f = 0; f < isTurned.length; f++)
    if (isTurned[f]) from.subarray(starts[f], starts[f] + poly.faceSizes[f]).reverse();
  const layer = (of: CornerLayer): CornerLayer => ({ ...of, indices: from.map((corner) => of.indices[corner]) });
  return {
    ...poly,
    corners: from.map((corner) => poly.corners[corner]),
    normals: poly.normals && layer(poly.normals),
    uvs: poly.uvs.map(layer),
  };
}
