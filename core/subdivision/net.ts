/**
 * How the faces, edges and points of polygons hang together, by numbers: what one step of subdivision reads, and what it
 * makes for the next. An edge of a face is told by the corner it leaves.
 */
import { NumberMap } from '../data/poly-mesh.ts';

export interface Net {
  points: number;
  /** Corners of each face. */
  faceSizes: Uint32Array;
  /** Point of each corner, face after face. */
  corners: Uint32Array;
  /** Edge that leaves each corner. */
  edgeOf: Uint32Array;
  /** Two points an edge. */
  ends: Uint32Array;
  /** Faces at each edge: 2 within a surface, 1 at its boundary, more where it is non-manifold. */
  edgeFaces: Uint8Array;
  /** Sharpness of edges and points: 0 smooth, ENDLESS and more never getting smooth. */
  edgeSharpness: Float32Array;
  pointSharpness: Float32Array;
}

/** From here on sharpness is not used up. Source: OpenUSD, UsdGeomMesh SHARPNESS_INFINITE. */
export const ENDLESS = 10;

/** @param corners of `points` points, face after face */
export function netOf(faceSizes: Uint32Array, corners: Uint32Array, points: number): Net {
  const map = new NumberMap(corners.length, 2);
  const edgeOf = new Uint32Array(corners.length);
  const ends = new Uint32Array(2 * corners.length);
  for (let f = 0, start = 0; f < faceSizes.length; start += faceSizes[f++])
    for (let k = 0; k < faceSizes[f]; k++) {
      const a = corners[start + k];
      const b = corners[start + ((k + 1) % faceSizes[f])];
      const before = map.size;
      const edge = map.add(Math.min(a, b), Math.max(a, b));
      if (edge === before) ends.set([a, b], 2 * edge);
      edgeOf[start + k] = edge;
    }
  const edgeFaces = new Uint8Array(map.size);
  for (const edge of edgeOf) edgeFaces[edge] = Math.min(255, edgeFaces[edge] + 1);
  return {
    points,
    faceSizes,
    corners,
    edgeOf,
    ends: ends.slice(0, 2 * map.size),
    edgeFaces,
    edgeSharpness: new Float32Array(map.size),
    pointSharpness: new Float32Array(points),
  };
}

/** Boundaries and edges of more than two faces hold their line, as if they were endlessly sharp. */
export const sharpnessOf = ({ edgeFaces, edgeSharpness }: Net, edge: number): number =>
  edgeFaces[edge] === 2 ? edgeSharpness[edge] : ENDLESS;

/** What is left of a sharpness one level on. */
export const worn = (sharpness: number): number => (sharpness >= ENDLESS ? sharpness : Math.max(0, sharpness - 1));

/**
 * The net one level on: a quad for each corner, from the corner's point by its edge and the face to the edge before it.
 * Points are those that were there, then one an edge, then one a face; edges are the halves of those that were there, then
 * one from each corner's edge to its face.
 */
export function nextNet(net: Net): Net {
  const { points, faceSizes, corners, edgeOf, ends } = net;
  const edges = net.edgeFaces.length;
  const count = corners.length;
  const out: Net = {
    points: points + edges + faceSizes.length,
    faceSizes: new Uint32Array(count).fill(4),
    corners: new Uint32Array(4 * count),
    edgeOf: new Uint32Array(4 * count),
    ends: new Uint32Array(2 * (2 * edges + count)),
    edgeFaces: new Uint8Array(2 * edges + count).fill(2),
    edgeSharpness: new Float32Array(2 * edges + count),
    pointSharpness: new Float32Array(points + edges + faceSizes.length),
  };
  for (let e = 0; e < edges; e++)
    for (let side = 0; side < 2; side++) {
      const half = 2 * e + side;
      out.ends[2 * half] = ends[half];
      out.ends[2 * half + 1] = points + e;
      out.edgeFaces[half] = net.edgeFaces[e];
      out.edgeSharpness[half] = worn(net.edgeSharpness[e]);
    }
  for (let p = 0; p < points; p++) out.pointSharpness[p] = worn(net.pointSharpness[p]);
  for (let f = 0, start = 0; f < faceSizes.length; start += faceSizes[f++]) {
    const size = faceSizes[f];
    const centre = points + edges + f;
    for (let k = 0; k < size; k++) {
      const c = start + k;
      const before = start + ((k + size - 1) % size);
      const point = corners[c];
      const halfAt = (edge: number) => 2 * edge + Number(ends[2 * edge] !== point);
      out.corners[4 * c] = point;
      out.corners[4 * c + 1] = points + edgeOf[c];
      out.corners[4 * c + 2] = centre;
      out.corners[4 * c + 3] = points + edgeOf[before];
      out.edgeOf[4 * c] = halfAt(edgeOf[c]);
      out.edgeOf[4 * c + 1] = 2 * edges + c;
      out.edgeOf[4 * c + 2] = 2 * edges + before;
      out.edgeOf[4 * c + 3] = halfAt(edgeOf[before]);
      out.ends[2 * (2 * edges + c)] = points + edgeOf[c];
      out.ends[2 * (2 * edges + c) + 1] = centre;
    }
  }
  return out;
}
