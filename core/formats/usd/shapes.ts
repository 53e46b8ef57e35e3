/** Prims that are shapes by formula, as polygons. Source: OpenUSD, UsdGeomCube, Sphere, Cylinder, Cone, Plane. */
import { emptyPolyMesh, type PolyMesh } from '../../data/poly-mesh.ts';
import { numberOf, textOf } from './access.ts';
import type { UsdPrim } from './layer.ts';

/** Parts of a whole turn. */
const SIDES = 48;

const SHAPES: Record<string, (prim: UsdPrim) => PolyMesh> = {
  Cube: (prim) => cube((numberOf(prim, 'size') ?? 2) / 2),
  Sphere: (prim) => revolved(arc(numberOf(prim, 'radius') ?? 1), 'Z', true),
  Cylinder: (prim) => {
    const [r, h] = [numberOf(prim, 'radius') ?? 1, (numberOf(prim, 'height') ?? 2) / 2];
    return revolved([[0, -h], [r, -h], [r, h], [0, h]], axisOf(prim), false); // prettier-ignore
  },
  Cone: (prim) => {
    const [r, h] = [numberOf(prim, 'radius') ?? 1, (numberOf(prim, 'height') ?? 2) / 2];
    return revolved([[0, -h], [r, -h], [0, h]], axisOf(prim), false); // prettier-ignore
  },
  Plane: (prim) => plane((numberOf(prim, 'width') ?? 2) / 2, (numberOf(prim, 'length') ?? 2) / 2, axisOf(prim)),
};

export const isUsdShape = (prim: UsdPrim): boolean => Object.hasOwn(SHAPES, prim.type);
export const usdShape = (prim: UsdPrim): PolyMesh => SHAPES[prim.type](prim);

const axisOf = (prim: UsdPrim): string => textOf(prim, 'axis') ?? 'Z';

/** Coordinates made about +Z, turned to another axis. */
function placed(axis: string, x: number, y: number, z: number): [number, number, number] {
  return axis === 'X' ? [z, x, y] : axis === 'Y' ? [y, z, x] : [x, y, z];
}

function polygons(points: number[][], faces: number[][]): PolyMesh {
  return {
    ...emptyPolyMesh(),
    points: Float32Array.from(points.flat()),
    faceSizes: Uint32Array.from(faces, (face) => face.length),
    corners: Uint32Array.from(faces.flat()),
  };
}

function cube(h: number): PolyMesh {
  const points = Array.from({ length: 8 }, (_, i) => [i & 1 ? h : -h, i & 2 ? h : -h, i & 4 ? h : -h]);
  return polygons(points, [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]]); // prettier-ignore
}

function plane(w: number, l: number, axis: string): PolyMesh {
  return polygons(
    [[-w, -l], [w, -l], [w, l], [-w, l]].map(([x, y]) => placed(axis, x, y, 0)), // prettier-ignore
    [[0, 1, 2, 3]],
  );
}

const arc = (r: number): number[][] =>
  Array.from({ length: SIDES / 2 + 1 }, (_, i) => {
    const a = (Math.PI * i) / (SIDES / 2);
    return [i === 0 || i === SIDES / 2 ? 0 : r * Math.sin(a), -r * Math.cos(a)];
  });

/** @param outline radius and height, from the bottom up; points of no radius are the poles */
function revolved(outline: number[][], axis: string, isSmooth: boolean): PolyMesh {
  const points: number[][] = [];
  const rings = outline.map(([r, z]) => {
    const ring = Array.from({ length: r === 0 ? 1 : SIDES }, (_, k) => {
      const a = (2 * Math.PI * k) / SIDES;
      return points.push(placed(axis, r * Math.cos(a), r * Math.sin(a), z)) - 1;
    });
    return (k: number) => ring[k % ring.length];
  });
  const faces: number[][] = [];
  for (let i = 0; i + 1 < rings.length; i++)
    for (let k = 0; k < SIDES; k++) {
      const [low, high] = [rings[i], rings[i + 1]];
      const face = [low(k), low(k + 1), high(k + 1), high(k)].filter((p, at, all) => all.indexOf(p) === at);
      if (face.length > 2) faces.push(face);
    }
  const poly = polygons(points, faces);
  if (!isSmooth) return poly;
  const lengths = Math.hypot(...points[0]);
  return {
    ...poly,
    normals: { name: 'normals', values: poly.points.map((v) => v / lengths), indices: poly.corners.slice() },
  };
}
