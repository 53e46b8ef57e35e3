/** Spheres in place of emitting surfaces, against closed forms of radiometry (Nicodemus 1977) and the surface itself, summed. */
import { expect } from 'chai';
import { equivalentSpheres } from '../../core/lights/equivalent-spheres.ts';
import { lathe } from '../../demo/shapes.ts';
import type { Mesh } from '../../core/data/mesh.ts';
import { sphere } from './helpers.ts';

const cornersOf = ({ positions, indices }: Mesh): number[] => [...indices].flatMap((i) => [...positions.subarray(i * 3, i * 3 + 3)]); // prettier-ignore
const areaOf = (corners: number[]): number => equivalentSpheres(corners).reduce((sum, { area }) => sum + area, 0);

/** Irradiance of unit radiance at a point with its normal towards +Y, no shadows: Σ L cos cos dA / d², outsides alone. */
function irradiance(corners: number[], [px, py, pz]: number[]): number {
  let sum = 0;
  for (let o = 0; o < corners.length; o += 9) {
    const c = corners.slice(o, o + 9);
    const u = [c[3] - c[0], c[4] - c[1], c[5] - c[2]];
    const v = [c[6] - c[0], c[7] - c[1], c[8] - c[2]];
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const to = [(c[0] + c[3] + c[6]) / 3 - px, (c[1] + c[4] + c[7]) / 3 - py, (c[2] + c[5] + c[8]) / 3 - pz];
    const d = Math.hypot(...to);
    const away = -(n[0] * to[0] + n[1] * to[1] + n[2] * to[2]) / 2 / d;
    if (away > 0 && to[1] > 0) sum += (away * to[1]) / d ** 3;
  }
  return sum;
}

/** Each triangle as four. */
const split = (c: number[]): number[] => {
  const out: number[] = [];
  for (let o = 0; o < c.length; o += 9) {
    const [p, q, r] = [0, 3, 6].map((k) => c.slice(o + k, o + k + 3));
    const half = (a: number[], b: number[]) => a.map((v, k) => (v + b[k]) / 2);
    const [pq, qr, rp] = [half(p, q), half(q, r), half(r, p)];
    for (const corner of [p, pq, rp, pq, q, qr, rp, qr, r, pq, qr, rp]) out.push(...corner);
  }
  return out;
};

const fromSpheres = (corners: number[], [px, py, pz]: number[]): number =>
  equivalentSpheres(corners).reduce((sum, { centre: [x, y, z], area }) => {
    const d = Math.hypot(x - px, y - py, z - pz);
    return sum + (area / 4) * ((y - py) / d) / (d * d);
  }, 0); // prettier-ignore

describe('equivalent spheres', () => {
  it('of a sphere are one of its own radius, in its place', () => {
    const [one, ...more] = equivalentSpheres(cornersOf(sphere(0.2)));
    expect(more).to.deep.equal([]);
    expect(one.radius).to.be.closeTo(0.2, 0.002);
    expect(Math.hypot(...one.centre)).to.be.below(1e-6);
  });

  it('shine with both sides of an open card, and with the opening of a half sphere: 2A, A + πr²', () => {
    const card = [0, 0, 0, 1, 0, 0, 1, 0, 1, 0, 0, 0, 1, 0, 1, 0, 0, 1];
    expect(areaOf(card)).to.be.closeTo(2, 1e-9);
    const half: [number, number][] = Array.from({ length: 33 }, (_, k) => [Math.cos((k * Math.PI) / 64), Math.sin((k * Math.PI) / 64)]); // prettier-ignore
    expect(areaOf(cornersOf(lathe(half, 96)))).to.be.closeTo(3 * Math.PI, 0.03);
  });

  it('of a tube stand along it, and restore its pattern of light beneath within a quarter, where one would not', () => {
    const tube = cornersOf(lathe([[0, -0.5], [0.02, -0.5], [0.02, 0.5], [0, 0.5]], 24)).map((_, i, all) => {
      // Laid down along X.
      const [x, y, z] = all.slice(i - (i % 3), i - (i % 3) + 3);
      return [y, -x, z][i % 3];
    }); // prettier-ignore
    const fine = split(split(split(tube)));
    expect(equivalentSpheres(tube).length).to.be.within(4, 8);
    const area = areaOf(tube);
    const places = [-0.6, -0.4, -0.2, 0, 0.2, 0.4, 0.6].map((x) => [x, -0.3, 0]);
    const ratios = (of: (place: number[]) => number) => places.map((place) => of(place) / irradiance(fine, place));
    const several = ratios((place) => fromSpheres(tube, place));
    const one = ratios(([x, y]) => ((area / 4) * -y) / Math.hypot(x, y) ** 3);
    // Broadside a cylinder shows A/π and a sphere of equal area A/4 (Cauchy 1832): π/4 of it from far away.
    expect(several[3]).to.be.within(0.75, 1.05);
    expect(Math.max(...several) / Math.min(...several), 'several').to.be.below(1.7);
    expect(Math.max(...one) / Math.min(...one), 'one').to.be.greaterThan(2.5);
  });

  it('of nothing are none', () => {
    expect(equivalentSpheres([])).to.deep.equal([]);
    expect(equivalentSpheres([0, 0, 0, 0, 0, 0, 0, 0, 0])).to.deep.equal([]);
  });
});
