/**
 * Which points of UV islands hold their place while the rest is smoothed, by one of six rules (`data/subdivision-rules.ts`). UVs are refined as a mesh of their own, whose seams are its
 * boundaries: a seam is smoothed along itself, wherever no rule holds it.
 */
import { faceStarts, NumberMap, type CornerLayer, type PolyMesh } from '../data/poly-mesh.ts';
import { ENDLESS, netOf, type Net } from './net.ts';
import type { UvRule } from '../data/subdivision-rules.ts';

/** A layer of UVs as a mesh: what has one UV at one point is one of its points. */
export interface UvNet {
  net: Net;
  /** Two numbers a point of the net. */
  values: Float64Array;
}

/** @param cage the polygons' own net, whose creases and sharp points hold in UVs as well */
export function uvNetOf(poly: PolyMesh, cage: Net, layer: CornerLayer, rule: UvRule): UvNet {
  const { corners, faceSizes } = poly;
  const pairs = new NumberMap(poly.points.length / 3, 2);
  const pairOf = corners.map((point, c) => pairs.add(point, layer.indices[c]));
  const net = netOf(faceSizes, pairOf, pairs.size);
  const values = new Float64Array(2 * pairs.size);
  const pointOf = new Uint32Array(pairs.size);
  corners.forEach((point, c) => {
    pointOf[pairOf[c]] = point;
    values[2 * pairOf[c]] = layer.values[2 * layer.indices[c]];
    values[2 * pairOf[c] + 1] = layer.values[2 * layer.indices[c] + 1];
  });
  corners.forEach((_, c) => (net.edgeSharpness[net.edgeOf[c]] = cage.edgeSharpness[cage.edgeOf[c]]));
  const sharp = new Map(Array.from(poly.sharpPoints?.points ?? [], (point, k) => [point, poly.sharpPoints!.sharpness[k]] as const)); // prettier-ignore
  if (sharp.size)
    pointOf.forEach((point, pair) => (net.pointSharpness[pair] = Math.min(ENDLESS, sharp.get(point) ?? 0)));
  hold(poly, cage, net, pointOf, rule);
  return { net, values };
}

function hold(poly: PolyMesh, cage: Net, net: Net, pointOf: Uint32Array, rule: UvRule): void {
  if (rule === 'none' || rule === 'all') return;
  const faces = new Uint32Array(net.points);
  for (const pair of net.corners) faces[pair] += 1;
  const onBorder = new Uint8Array(net.points);
  net.edgeFaces.forEach((count, e) => {
    if (count !== 2) onBorder[net.ends[2 * e]] = onBorder[net.ends[2 * e + 1]] = 1;
  });
  const valuesAt = new Uint32Array(poly.points.length / 3);
  const hasCorner = new Uint8Array(valuesAt.length);
  for (let pair = 0; pair < net.points; pair++) {
    valuesAt[pointOf[pair]] += 1;
    if (faces[pair] === 1) hasCorner[pointOf[pair]] = 1;
  }
  const ends = rule === 'cornersPlus2' ? seamEnds(poly, cage, net, pointOf, valuesAt) : null;
  for (let pair = 0; pair < net.points; pair++) {
    const point = pointOf[pair];
    const isHeld =
      rule === 'boundaries'
        ? onBorder[pair]
        : faces[pair] === 1 ||
          (rule !== 'cornersOnly' && valuesAt[point] > 2) ||
          (rule === 'cornersPlus2' && ((valuesAt[point] === 2 && hasCorner[point]) || ends!.has(point)));
    if (isHeld) net.pointSharpness[pair] = ENDLESS;
  }
}

/** Points of one UV where a seam ends within an island. */
function seamEnds(poly: PolyMesh, cage: Net, net: Net, pointOf: Uint32Array, valuesAt: Uint32Array): Set<number> {
  const ends = new Set<number>();
  const starts = faceStarts(poly);
  poly.faceSizes.forEach((size, f) => {
    for (let k = 0; k < size; k++) {
      const c = starts[f] + k;
      const isSeam = net.edgeFaces[net.edgeOf[c]] === 1 && cage.edgeFaces[cage.edgeOf[c]] === 2;
      if (!isSeam) continue;
      for (const corner of [c, starts[f] + ((k + 1) % size)]) {
        const point = pointOf[net.corners[corner]];
        if (valuesAt[point] === 1) ends.add(point);
      }
    }
  });
  return ends;
}
