/** Scattering against optics and against its own densities. */
import { expect } from 'chai';
import { absorption } from '../../core/materials/absorption.ts';
import { fresnelDielectric, schlickWeight } from '../../core/materials/fresnel.ts';
import { ggxD, ggxLambda, sampleVisibleNormal, visibleNormalDensity } from '../../core/materials/ggx.ts';
import { OUT_B, OUT_DENSITY, OUT_G, OUT_R, OUT_Z, Surface } from '../../core/materials/surface.ts';
import { atSize, randomNumbers } from './size.ts';

const degrees = (a: number) => (a * Math.PI) / 180;

describe('Fresnel reflectance of n = 1.5 (Hecht, Optics)', () => {
  it('is 4 % at normal incidence', () => expect(fresnelDielectric(1, 1.5)).to.be.closeTo(0.04, 1e-12));

  it('at Brewster’s angle, 56.31°, is half of the perpendicular part alone', () => {
    const i = degrees(56.309932);
    const t = Math.asin(Math.sin(i) / 1.5);
    const perpendicular = (Math.sin(i - t) / Math.sin(i + t)) ** 2;
    expect(fresnelDielectric(Math.cos(i), 1.5)).to.be.closeTo(perpendicular / 2, 1e-9);
  });

  it('is total from 41.81° on inside', () => {
    expect(fresnelDielectric(Math.cos(degrees(41.7)), 1 / 1.5)).to.be.below(0.9);
    expect(fresnelDielectric(Math.cos(degrees(41.82)), 1 / 1.5)).to.equal(1);
  });

  it('is the same from both sides at angles that belong together', () => {
    for (const a of [0, 20, 45, 70, 85]) {
      const inside = Math.asin(Math.sin(degrees(a)) / 1.5);
      expect(fresnelDielectric(Math.cos(inside), 1 / 1.5)).to.be.closeTo(
        fresnelDielectric(Math.cos(degrees(a)), 1.5),
        1e-9,
      );
    }
  });

  it('is 1 at grazing incidence, as Schlick’s weight is', () => {
    expect(fresnelDielectric(1e-9, 1.5)).to.be.closeTo(1, 1e-6);
    expect(schlickWeight(0)).to.equal(1);
    expect(schlickWeight(1)).to.equal(0);
  });
});

describe('absorption', () => {
  it('leaves the attenuation colour at the attenuation distance (KHR_materials_volume; Beer–Lambert)', () => {
    for (const [colour, distance] of [
      [0.5, 2],
      [0.72, 0.03],
      [0.01, 10],
    ]) {
      const sigma = absorption(colour, distance);
      expect(Math.exp(-sigma * distance)).to.be.closeTo(colour, 1e-12);
      expect(Math.exp(-sigma * 2 * distance)).to.be.closeTo(colour * colour, 1e-12);
    }
    expect(absorption(0.5, null)).to.equal(0);
    expect(absorption(1, 0.03)).to.be.closeTo(0, 1e-12);
  });
});

describe('GGX microfacets', () => {
  it('cover the surface once: ∫ D cosθ dω = 1 (Walter et al. 2007, eq. 4)', () => {
    for (const alpha of [0.05, 0.2, 0.5, 1]) {
      let sum = 0;
      const steps = 200_000;
      for (let i = 0; i < steps; i++) {
        const theta = ((i + 0.5) / steps) * (Math.PI / 2);
        sum += ggxD(Math.cos(theta), alpha) * Math.cos(theta) * Math.sin(theta) * 2 * Math.PI * (Math.PI / 2 / steps);
      }
      expect(sum, `alpha ${alpha}`).to.be.closeTo(1, 1e-4);
    }
  });

  it('show a viewer their projected area: ∫ G₁ D max(0, o·h) dω = cosθ (Heitz 2014, eq. 14)', () => {
    for (const [alpha, angle] of [
      [0.3, 30],
      [0.6, 60],
      [1, 80],
    ]) {
      const o = [Math.sin(degrees(angle)), 0, Math.cos(degrees(angle))];
      let sum = 0;
      const n = 500;
      for (let i = 0; i < n; i++)
        for (let j = 0; j < 2 * n; j++) {
          const theta = ((i + 0.5) / n) * (Math.PI / 2);
          const phi = ((j + 0.5) / (2 * n)) * 2 * Math.PI;
          const dot = o[0] * Math.sin(theta) * Math.cos(phi) + o[2] * Math.cos(theta);
          if (dot > 0) sum += ggxD(Math.cos(theta), alpha) * dot * Math.sin(theta) * (Math.PI / 2 / n) * (Math.PI / n);
        }
      expect(sum / (1 + ggxLambda(o[2], alpha)), `alpha ${alpha}, ${angle}°`).to.be.closeTo(o[2], 2e-3);
    }
  });

  it('are drawn with the density that is stated: chi-square over a grid (Heitz 2018)', () => {
    const random = randomNumbers(77);
    for (const [alpha, angle] of [
      [0.2, 20],
      [0.5, 60],
      [0.9, 75],
    ]) {
      const o = [Math.sin(degrees(angle)), 0, Math.cos(degrees(angle))];
      const [rows, columns] = [12, 16];
      const count = new Float64Array(rows * columns);
      const n = atSize(60_000, 2_000_000);
      const h = new Float64Array(3);
      for (let i = 0; i < n; i++) {
        sampleVisibleNormal(o[0], o[1], o[2], alpha, random(), random(), h);
        const row = Math.min(rows - 1, Math.floor((1 - h[2]) * rows));
        const column = Math.floor(((Math.atan2(h[1], h[0]) + Math.PI) / (2 * Math.PI)) * columns) % columns;
        count[row * columns + column]++;
      }
      let chi = 0;
      let cells = 0;
      for (let row = 0; row < rows; row++)
        for (let column = 0; column < columns; column++) {
          // The cell's share: density over its solid angle, on a fine grid.
          let share = 0;
          const fine = 24;
          for (let a = 0; a < fine; a++)
            for (let b = 0; b < fine; b++) {
              const z = 1 - (row + (a + 0.5) / fine) / rows;
              const phi = ((column + (b + 0.5) / fine) / columns) * 2 * Math.PI - Math.PI;
              const r = Math.sqrt(1 - z * z);
              const dot = o[0] * r * Math.cos(phi) + o[2] * z;
              if (dot > 0)
                share += visibleNormalDensity(o[2], dot, z, alpha) * ((2 * Math.PI) / columns / rows / fine / fine);
            }
          if (share * n < 10) continue;
          chi += (count[row * columns + column] - share * n) ** 2 / (share * n);
          cells++;
        }
      // Normal approximation of chi-square: mean k, deviation √2k; 5 deviations, and the grid's own error.
      expect(chi, `alpha ${alpha}, ${angle}°, ${cells} cells`).to.be.below(cells + 6 * Math.sqrt(2 * cells));
    }
  });
});

describe('surface', () => {
  const surfaces: [string, Parameters<Surface['set']>][] = [
    ['matt', [0.7, 0.5, 0.3, 0, 0.9, 1.5, 0]],
    ['rough plastic', [0.7, 0.5, 0.3, 0, 0.4, 1.5, 0]],
    ['rough metal', [0.9, 0.7, 0.4, 1, 0.5, 1.5, 0]],
    ['half metal', [0.9, 0.7, 0.4, 0.5, 0.6, 1.5, 0]],
    ['rough glass', [1, 0.9, 0.8, 0, 0.5, 1.5, 1]],
    ['rough glass from inside', [1, 0.9, 0.8, 0, 0.5, 1 / 1.5, 1]],
  ];
  for (const [name, parameters] of surfaces)
    it(`${name}: sampling and evaluating agree on the light from all around`, () => {
      const surface = new Surface();
      surface.set(...parameters);
      surface.setOutgoing(Math.sin(degrees(40)), 0, Math.cos(degrees(40)));
      const random = randomNumbers(5);
      const n = atSize(60_000, 1_000_000);
      const sampled = [0, 0, 0];
      const evaluated = [0, 0, 0];
      let density = 0;
      for (let i = 0; i < n; i++) {
        if (surface.sample(random(), random(), random()))
          [OUT_R, OUT_G, OUT_B].forEach((slot, c) => (sampled[c] += surface.out[slot] / n));
        const z = 2 * random() - 1;
        const phi = 2 * Math.PI * random();
        const r = Math.sqrt(1 - z * z);
        surface.evaluate(r * Math.cos(phi), r * Math.sin(phi), z);
        const l = surface.lobes;
        for (let c = 0; c < 3; c++) evaluated[c] += ((l[c] + l[4 + c] + l[8 + c]) * 4 * Math.PI) / n;
        density += ((l[3] + l[7] + l[11]) * 4 * Math.PI) / n;
      }
      for (let c = 0; c < 3; c++) expect(evaluated[c]).to.be.closeTo(sampled[c], 0.025);
      // Densities hold no more than all directions; what is missing are samples that carry nothing.
      expect(density).to.be.within(0.85, 1.02);
    });

  it('keeps energy: no surface returns more than it gets', () => {
    const surface = new Surface();
    const random = randomNumbers(9);
    for (const roughness of [0, 0.2, 0.5, 1])
      for (const metallic of [0, 0.5, 1])
        for (const transmission of [0, 0.5, 1])
          for (const angle of [5, 45, 80]) {
            surface.set(1, 1, 1, metallic, roughness, 1.5, transmission);
            surface.setOutgoing(Math.sin(degrees(angle)), 0, Math.cos(degrees(angle)));
            let sum = 0;
            const n = 4000;
            let squares = 0;
            for (let i = 0; i < n; i++) {
              const value = surface.sample(random(), random(), random()) ? surface.out[OUT_R] : 0;
              sum += value / n;
              squares += (value * value) / n;
            }
            const error = Math.sqrt(Math.max(0, squares - sum * sum) / n);
            expect(
              sum,
              `roughness ${roughness} metallic ${metallic} transmission ${transmission} ${angle}°`,
            ).to.be.below(1.001 + 4 * error);
          }
  });

  it('mirrors sharply below roughness 0.03, in one direction with no density', () => {
    const surface = new Surface();
    surface.set(0.9, 0.9, 0.9, 1, 0.02, 1.5, 0);
    surface.setOutgoing(0.6, 0, 0.8);
    expect(surface.sample(0.1, 0.7, 0.3)).to.equal(true);
    expect(surface.out[OUT_Z]).to.be.closeTo(0.8, 1e-12);
    expect(surface.out[0]).to.be.closeTo(-0.6, 1e-12);
    expect(surface.out[OUT_DENSITY]).to.equal(0);
  });

  it('bends light by Snell’s law', () => {
    const surface = new Surface();
    surface.set(1, 1, 1, 0, 0, 1.5, 1);
    surface.setOutgoing(Math.sin(degrees(50)), 0, Math.cos(degrees(50)));
    expect(surface.sample(0.999, 0.5, 0.5)).to.equal(true);
    expect(-surface.out[0]).to.be.closeTo(Math.sin(degrees(50)) / 1.5, 1e-12);
    expect(surface.out[OUT_Z]).to.be.below(0);
  });
});
