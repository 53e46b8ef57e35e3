/** Maps: wraps, mips, procedurals and baking. */
import { expect } from 'chai';
import type { Texture } from '../../core/data/texture.ts';
import { defaultMap } from '../../core/document/defaults.ts';
import type { MapSpec } from '../../core/document/schema.ts';
import { bakeMap } from '../../core/textures/bake.ts';
import { compileMap } from '../../core/textures/compiled-map.ts';
import { BILINEAR, CLAMP, MIP, MIRROR, mipChain, NEAREST, REPEAT, sampleImage } from '../../core/textures/image.ts';
import { MapSampler } from '../../core/textures/map-sampler.ts';
import { gradientNoise, layeredNoise } from '../../core/textures/noise.ts';
import { compileWaves, waterHeight } from '../../core/textures/waves.ts';

const ramp = (n: number): Texture => ({
  width: n,
  height: 1,
  texels: Float32Array.from({ length: n * 3 }, (_, i) => Math.floor(i / 3) / (n - 1)),
  alpha: null,
});
const out = new Float64Array(4);
const red = (chain: Texture[], u: number, filter: number, wrap: number, footprint = 0) => {
  sampleImage(chain, u, 0.5, filter, wrap, footprint, out);
  return out[0];
};
const look = (spec: MapSpec, uv: number[], object = [0, 0, 0]) => {
  const sampler = new MapSampler([compileMap(spec, [])], []);
  sampler.uv.set([...uv, ...uv]);
  sampler.object.set(object);
  sampler.lookUp(0);
  return [...sampler.out];
};

describe('images', () => {
  it('wrap by repeating, holding the edge, or mirroring', () => {
    const chain = [ramp(4)];
    expect(red(chain, 1.125, NEAREST, REPEAT)).to.equal(0);
    expect(red(chain, 1.125, NEAREST, CLAMP)).to.equal(1);
    expect(red(chain, 1.125, NEAREST, MIRROR)).to.equal(1);
    expect(red(chain, -0.125, NEAREST, REPEAT)).to.equal(1);
    expect(red(chain, -0.125, NEAREST, MIRROR)).to.equal(0);
  });

  it('mix texels in a straight line between their centres', () => {
    expect(red([ramp(4)], 0.375 + 0.125, BILINEAR, CLAMP)).to.be.closeTo(0.5, 1e-7);
    expect(red([ramp(2)], 0.5, BILINEAR, CLAMP)).to.be.closeTo(0.5, 1e-7);
  });

  it('have halved copies down to one texel that keep the mean (Williams 1983)', () => {
    const chain = mipChain(ramp(8));
    expect(chain.map((t) => t.width)).to.deep.equal([8, 4, 2, 1]);
    for (const t of chain) expect(t.texels.reduce((a, b) => a + b) / t.texels.length).to.be.closeTo(0.5, 1e-6);
  });

  it('are looked at wider where the footprint is wider: a checker of texels becomes its mean', () => {
    const checks: Texture = { width: 64, height: 1, texels: Float32Array.from({ length: 192 }, (_, i) => Math.floor(i / 3) % 2), alpha: null };
    const chain = mipChain(checks);
    expect(red(chain, 0.3, MIP, REPEAT, 1 / 256)).to.be.within(0, 1);
    expect(red(chain, 0.3, MIP, REPEAT, 1)).to.be.closeTo(0.5, 1e-6);
    expect(red(chain, 0.31, MIP, REPEAT, 4 / 64)).to.be.closeTo(0.5, 1e-6);
  }); // prettier-ignore
});

describe('placing maps (KHR_texture_transform: scale, then rotation, then offset)', () => {
  it('a checker scaled, turned and shifted', () => {
    const checker = { ...defaultMap('checker'), colours: [[0, 0, 0], [1, 1, 1]] };
    expect(look(checker, [0.5, 0.5])[0]).to.equal(0);
    expect(look({ ...checker, scale: [2, 1] }, [0.7, 0.5])[0]).to.equal(1);
    expect(look({ ...checker, offset: [1, 0] }, [0.5, 0.5])[0]).to.equal(1);
    // Turned by a quarter, (0.5, 0.5) comes to (−0.5, 0.5).
    expect(look({ ...checker, rotation: 90 }, [0.5, 0.5])[0]).to.equal(1);
  }); // prettier-ignore
});

describe('procedurals', () => {
  it('gradient noise is 0 on the lattice and steps nowhere (Perlin 2002)', () => {
    for (let k = 0; k < 20; k++) expect(gradientNoise(k, -k, 2 * k, 3)).to.be.closeTo(0, 1e-12);
    let most = 0;
    for (let x = 0; x < 8; x += 0.001) most = Math.max(most, Math.abs(gradientNoise(x, 0.3, 0.7, 3) - gradientNoise(x + 0.001, 0.3, 0.7, 3)));
    expect(most).to.be.below(0.005);
  }); // prettier-ignore

  it('layers stay within 0 and 1, have a mean of a half, and change with the seed', () => {
    let sum = 0;
    const n = 4000;
    for (let i = 0; i < n; i++) {
      const v = layeredNoise(i * 0.37, i * 0.11, i * 0.23, 5, 1);
      expect(v).to.be.within(0, 1);
      sum += v / n;
    }
    expect(sum).to.be.closeTo(0.5, 0.02);
    expect(layeredNoise(0.3, 0.4, 0.5, 4, 1)).to.not.equal(layeredNoise(0.3, 0.4, 0.5, 4, 2));
  });

  it('a gradient runs along its axis from stop to stop', () => {
    const spec = { ...defaultMap('gradient'), axis: 'y' as const, stops: [{ at: 0, colour: [0, 0, 0] }, { at: 0.5, colour: [1, 0, 0] }, { at: 1, colour: [1, 1, 0] }] };
    expect(look(spec, [0, 0], [0, 0.25, 0]).slice(0, 3)).to.deep.equal([0.5, 0, 0]);
    expect(look(spec, [0, 0], [0, 0.75, 0]).slice(0, 3)).to.deep.equal([1, 0.5, 0]);
    expect(look(spec, [0, 0], [0, 9, 0]).slice(0, 3)).to.deep.equal([1, 1, 0]);
  }); // prettier-ignore

  it('water is level in the mean, moves on with its phase, and repeats after a turn of one train', () => {
    const trains = compileWaves(0.5, 6, 0, 1);
    let sum = 0;
    for (let i = 0; i < 10000; i++) sum += waterHeight(trains, (i % 100) * 0.31, Math.floor(i / 100) * 0.17) / 10000;
    expect(sum).to.be.closeTo(0.5, 0.02);
    expect(waterHeight(compileWaves(0.5, 1, 1, 1), 0.2, 0.3)).to.be.closeTo(waterHeight(compileWaves(0.5, 1, 0, 1), 0.2, 0.3), 1e-9);
    expect(waterHeight(compileWaves(0.5, 6, 0.3, 1), 0.2, 0.3)).to.not.equal(waterHeight(trains, 0.2, 0.3));
  }); // prettier-ignore

  it('baked to an image of a stated size, hold what the map is at each texel’s centre', () => {
    const spec = { ...defaultMap('noise-uv'), size: 0.3 };
    const baked = bakeMap(compileMap(spec, []), [], 16, 8);
    expect([baked.width, baked.height, baked.alpha]).to.deep.equal([16, 8, null]);
    expect(baked.texels[(3 * 16 + 5) * 3]).to.be.closeTo(look(spec, [5.5 / 16, 1 - 3.5 / 8])[0], 1e-6);
    expect(() => bakeMap(compileMap(spec, []), [], 0, 8)).to.throw(RangeError, '1 to 16384');
  });
});
