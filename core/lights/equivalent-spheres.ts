/**
 * Spheres that stand for an emitting surface: the same power, about the same size, in the same place. A sphere is aimed
 * at by the angle it fills, has no body that anything is hidden by, and its light can go without what its mesh stands in.
 *
 * A convex surface of radiance L and area A sends out πLA, a sphere of intensity I 4πI: so I = LA/4, and its area is A
 * where 4πr² is. An open surface shines out of its opening as well, whose area is that of the sum of its normals.
 *
 * @example
 * const [sphere] = equivalentSpheres(trianglesOfFlame);   // { centre, radius, area }
 */
export interface Sphere {
  centre: [number, number, number];
  radius: number;
  /** Area that shines through it, m²; its intensity is the radiance times a quarter of that. */
  area: number;
}

/** Where the surface is further from its centre, in the root mean square, than this many radii, one sphere does not stand for it. */
const SPREAD = 1.4;
const MOST = 8;
const ROUNDS = 12;

/** @param corners 9 numbers a triangle, in the world, metres. @returns one, or several along what is long or looped */
export function equivalentSpheres(corners: ArrayLike<number>): Sphere[] {
  const pieces = piecesOf(corners);
  const total = pieces.area.reduce((a, b) => a + b, 0);
  if (!(total > 0)) return [];
  const shining = total + Math.hypot(...pieces.normal);
  let spheres: Sphere[] = [];
  for (let count = 1; count <= MOST; count++) {
    const { centres, owner } = cluster(pieces, count);
    let [worst, squares] = [0, 0];
    spheres = centres.map((centre, k) => {
      let [area, spread] = [0, 0];
      for (let i = 0; i < owner.length; i++)
        if (owner[i] === k) {
          area += pieces.area[i];
          spread += pieces.area[i] * distance2(pieces.centre, i, centre);
        }
      squares += spread;
      const radius = Math.sqrt(((area / total) * shining) / (4 * Math.PI));
      worst = Math.max(worst, Math.sqrt(spread / (area || 1)) / radius);
      return { centre, radius, area: (area / total) * shining };
    });
    if (worst <= SPREAD || squares === 0) break;
  }
  return spheres.filter(({ area }) => area > 0);
}

interface Pieces {
  centre: Float64Array;
  area: Float64Array;
  /** Sum of the normals, each as long as its triangle's area. */
  normal: [number, number, number];
}

/** Long triangles are cut so finely along each edge, that a part of one can belong to another sphere than the rest. */
const FINEST = 12;
/** Pieces that are enough for any shape. */
const PLENTY = 4000;

function piecesOf(c: ArrayLike<number>): Pieces {
  const count = Math.floor(c.length / 9);
  const cuts = Math.max(1, Math.min(FINEST, Math.floor(Math.sqrt(PLENTY / Math.max(1, count)))));
  const centre: number[] = [];
  const area: number[] = [];
  const normal: Pieces['normal'] = [0, 0, 0];
  for (let t = 0; t < count; t++) {
    const o = t * 9;
    const u = [0, 1, 2].map((a) => c[o + 3 + a] - c[o + a]);
    const v = [0, 1, 2].map((a) => c[o + 6 + a] - c[o + a]);
    const n = [(u[1] * v[2] - u[2] * v[1]) / 2, (u[2] * v[0] - u[0] * v[2]) / 2, (u[0] * v[1] - u[1] * v[0]) / 2];
    for (let a = 0; a < 3; a++) normal[a] += n[a];
    const each = Math.hypot(...n) / (cuts * cuts);
    for (let i = 0; i < cuts; i++)
      for (let j = 0; j < 2 * (cuts - i) - 1; j++) {
        // Upright and upturned triangles of a row, by turns; places are those of their centroids.
        const third = j % 2 === 0 ? 1 / 3 : 2 / 3;
        const [p, q] = [(Math.floor(j / 2) + third) / cuts, (i + third) / cuts];
        for (let a = 0; a < 3; a++) centre.push(c[o + a] + p * u[a] + q * v[a]);
        area.push(each);
      }
  }
  return { centre: Float64Array.from(centre), area: Float64Array.from(area), normal };
}

/** k-means by area (Lloyd 1982), begun with pieces that are far from each other: the same every time. */
function cluster({ centre, area }: Pieces, count: number) {
  const n = area.length;
  const centres: [number, number, number][] = [meanOf(centre, area, null, 0)];
  const nearest = new Float64Array(n);
  while (centres.length < Math.min(count, n)) {
    let far = 0;
    for (let i = 0; i < n; i++) {
      nearest[i] = Math.min(...centres.map((c) => distance2(centre, i, c)));
      if (nearest[i] > nearest[far]) far = i;
    }
    centres.push([centre[far * 3], centre[far * 3 + 1], centre[far * 3 + 2]]);
  }
  const owner = new Int32Array(n);
  for (let round = 0; round < ROUNDS; round++) {
    for (let i = 0; i < n; i++)
      for (let k = 0; k < centres.length; k++)
        if (distance2(centre, i, centres[k]) < distance2(centre, i, centres[owner[i]])) owner[i] = k;
    for (let k = 0; k < centres.length; k++) if (owner.includes(k)) centres[k] = meanOf(centre, area, owner, k);
  }
  return { centres, owner };
}

function meanOf(centre: Float64Array, area: Float64Array, owner: Int32Array | null, k: number) {
  const out: [number, number, number] = [0, 0, 0];
  let sum = 0;
  for (let i = 0; i < area.length; i++) {
    if (owner !== null && owner[i] !== k) continue;
    sum += area[i];
    for (let a = 0; a < 3; a++) out[a] += area[i] * centre[i * 3 + a];
  }
  return out.map((v) => v / (sum || 1)) as [number, number, number];
}

const distance2 = (centres: Float64Array, i: number, [x, y, z]: [number, number, number]): number =>
  (centres[i * 3] - x) ** 2 + (centres[i * 3 + 1] - y) ** 2 + (centres[i * 3 + 2] - z) ** 2;
