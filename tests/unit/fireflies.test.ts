/** Fireflies that were planted among real highlights, lines, edges, textures and grain. */
import { expect } from 'chai';
import { findFireflies, guiltyPass, notLasting } from '../../core/picture/fireflies.ts';
import { atSize, randomNumbers } from './size.ts';

const [WIDTH, HEIGHT] = [320, 200];

interface Scene {
  luminance: Float32Array;
  albedo: Float32Array;
  planted: Set<number>;
}

/** @param grain relative deviation of the noise */
function scene(seed: number, grain: number): Scene {
  const random = randomNumbers(seed);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const at = (x: number, y: number) => y * WIDTH + x;
  const plane = new Float32Array(WIDTH * HEIGHT);
  const albedo = new Float32Array(WIDTH * HEIGHT).fill(0.4);
  const add = (x: number, y: number, value: number) => {
    if (x >= 0 && y >= 0 && x < WIDTH && y < HEIGHT) plane[at(x, y)] += value;
  };
  // Walls and tables in several brightnesses, with hard edges, and a ramp.
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++)
      plane[at(x, y)] = [0.01, 0.05, 0.2, 0.6][(x >> 6) & 3] * (y < 90 ? 1 : 0.3 + y / 300);
  // A dotted print: single bright pixels, in the albedo as well.
  for (let y = 150; y < 190; y += 4)
    for (let x = 20; x < 90; x += 4) {
      albedo[at(x, y)] = 0.9;
      for (let dy = -2; dy < 2; dy++) for (let dx = -2; dx < 2; dx++) if (dx || dy) albedo[at(x + dx, y + dy)] = 0.03;
    }
  for (let i = 0; i < plane.length; i++) plane[i] *= albedo[i] / 0.4;
  // Glints as a pixel filter leaves them: a core and its falloff; thin highlights, straight and slanted.
  for (let k = 0; k < 60; k++) {
    const [x, y, light] = [Math.floor(random() * WIDTH), Math.floor(random() * HEIGHT), 2 ** (random() * 6)];
    const [fx, fy] = [random() - 0.5, random() - 0.5];
    for (let dy = -2; dy <= 2; dy++)
      for (let dx = -2; dx <= 2; dx++) add(x + dx, y + dy, light * Math.exp(-((dx - fx) ** 2 + (dy - fy) ** 2) / 0.9));
  }
  for (let x = 40; x < 280; x++) add(x, 30, 6);
  for (let x = 40; x < 200; x++) add(x, 40 + Math.floor(x / 3), 9);
  for (let y = 20; y < 180; y++) add(300, y, 3);
  for (let i = 0; i < plane.length; i++) plane[i] = Math.max(0, plane[i] * (1 + grain * normal()));
  const planted = new Set<number>();
  while (planted.size < 120) {
    const i = Math.floor(random() * plane.length);
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    if (x < 3 || y < 3 || x >= WIDTH - 3 || y >= HEIGHT - 3) continue;
    let around = 0;
    for (let dy = -2; dy <= 2; dy++)
      for (let dx = -2; dx <= 2; dx++) around = Math.max(around, plane[at(x + dx, y + dy)]);
    // Where one would drown in a highlight nobody sees it.
    if (around > 1) continue;
    planted.add(i);
  }
  for (const i of planted) plane[i] += Math.max(0.3, 8 * plane[i]) * 2 ** (random() * 6);
  return { luminance: plane, albedo, planted };
}

describe('fireflies', () => {
  it('are found among whites as among greys: what is bright is looked at with exposure turned down', () => {
    const { luminance, planted } = scene(3, 0.05);
    const at = (exposure: number) =>
      findFireflies({ luminance: luminance.map((v) => v * exposure), width: WIDTH, height: HEIGHT }).mask;
    const [greys, whites] = [at(1), at(64)];
    const missed = [...planted].filter((i) => luminance[i] > 0 && greys[i] && !whites[i]);
    expect(missed).to.deep.equal([]);
    expect([...planted].filter((i) => whites[i]).length).to.be.above(0.9 * planted.size);
  });

  it('are found among highlights, lines, edges, print and grain: precision and recall of 0.95 and more', () => {
    for (const grain of [0.02, 0.1, 0.25]) {
      let [hits, false_, missed] = [0, 0, 0];
      for (let seed = 1; seed <= atSize(4, 40); seed++) {
        const { luminance, albedo, planted } = scene(seed, grain);
        const found = findFireflies({ luminance, albedo, width: WIDTH, height: HEIGHT }).pixels.map(({ x, y }) => y * WIDTH + x); // prettier-ignore
        hits += found.filter((i) => planted.has(i)).length;
        false_ += found.filter((i) => !planted.has(i)).length;
        missed += [...planted].filter((i) => !found.includes(i)).length;
      }
      expect(hits / (hits + false_), `precision, grain ${grain}`).to.be.at.least(0.95);
      expect(hits / (hits + missed), `recall, grain ${grain}`).to.be.at.least(0.95);
    }
  });

  it('are told from glints by the frames beside: a glint comes again, where it was or a pixel on', () => {
    const flat = (spots: [number, number][]) => {
      const plane = new Float32Array(40 * 30).fill(0.05);
      for (const [x, y] of spots) plane[y * 40 + x] = 6;
      return plane;
    };
    const glint: [number, number] = [10, 10];
    const now = flat([glint, [20, 20], [30, 5]]);
    const { pixels } = findFireflies({ luminance: now, width: 40, height: 30 });
    expect(pixels.map(({ x, y }) => [x, y])).to.deep.equal([[30, 5], [10, 10], [20, 20]]); // prettier-ignore
    const lasting = notLasting(pixels, now, [flat([[11, 10], [3, 3]]), flat([[9, 10]])], 40, 30); // prettier-ignore
    expect(lasting.map(({ x, y }) => [x, y])).to.deep.equal([[30, 5], [20, 20]]); // prettier-ignore
  });

  it('are traced to the pass that carries them', () => {
    const size = 25 * 25;
    const passes = new Map([
      ['diffuse', new Float32Array(size).fill(0.3)],
      ['refraction', new Float32Array(size).fill(0.01)],
    ]);
    passes.get('refraction')![12 * 25 + 12] = 40;
    expect(guiltyPass({ x: 12, y: 12 }, passes, 25, 25)).to.equal('refraction');
    expect(guiltyPass({ x: 3, y: 3 }, passes, 25, 25)).to.equal(null);
  });

  it('say what can be said of pictures that are nothing, one colour or one pixel', () => {
    for (const [value, width, height] of [
      [NaN, 8, 8],
      [0, 8, 8],
      [0.4, 8, 8],
      [5, 1, 1],
    ]) {
      const found = findFireflies({ luminance: new Float32Array(width * height).fill(value), width, height });
      expect([found.pixels.length, found.energy]).to.deep.equal([0, 0]);
    }
  });
});
