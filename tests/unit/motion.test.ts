/** Motion: how far things travel across the picture, against closed forms, and what stands still that should move. */
import { expect } from 'chai';
import type { Mesh } from '../../core/data/mesh.ts';
import { identity, multiply, rotationZ, scaling, translation } from '../../core/data/transform.ts';
import { motion } from '../../core/diagnose/motion/definition.ts';
import { Paths } from '../../core/diagnose/motion/path.ts';
import { lookInRender } from '../../core/diagnose/run.ts';
import { defaultMap } from '../../core/document/defaults.ts';
import { withValues } from '../../core/document/set-values.ts';
import { box } from '../../demo/shapes.ts';
import { buildStoreRoom } from '../../demo/ha-040/build.ts';
import type { ObjectSpec } from '../../core/document/schema.ts';
import { benchShot, inputOf, renderShot, type BenchShot } from './bench-shot.ts';
import { scene, square } from './helpers.ts';

const look = (shot: BenchShot) => lookInRender(inputOf(shot, renderShot(shot)), motion);
const SIZE = { width: 64, height: 64, samples: 4 };
/** Pixels a metre, 5 m before a camera of 20 degrees. */
const PIXELS = 64 / (2 * 5 * Math.tan(Math.PI / 18));

/** A square about the origin with keys a frame apart, before the test camera. */
const moving = (rest: Partial<ObjectSpec>, sheet = {}): BenchShot =>
  scene([{ mesh: square(0.2, 0), object: rest }], {}, { ...SIZE, ...sheet });
const keys = (...transforms: number[][]) => transforms.map((transform, k) => ({ frame: 1 + k, transform, mesh: null }));

describe('motion', function () {
  this.timeout(60_000);

  it('tells how far a thing travels by the projection of a pinhole', () => {
    const shot = moving({ keys: keys(identity(), translation(0.4, 0, 0)) });
    const paths = new Paths(inputOf(shot, renderShot(shot)));
    expect(paths.length('part0', 1, 1)).to.be.closeTo(0.4 * PIXELS, 1e-6);
    expect(paths.length('part0', 1, 0.5)).to.be.closeTo(0.2 * PIXELS, 1e-6);
    expect(paths.between('part0', identity(), translation(0, 0.1, 0))).to.be.closeTo(0.1 * PIXELS, 1e-6);
  });

  it('tells how far a turn leaves the chord between two samples: r (1 − cos θ/2)', () => {
    const shot = moving({ motion: 'transform', keys: keys(identity(), rotationZ(120)) });
    const paths = new Paths(inputOf(shot, renderShot(shot)));
    const corner = 0.2 * Math.SQRT2 * PIXELS;
    for (const samples of [2, 3, 5]) {
      const half = Math.PI / 3 / (samples - 1);
      expect(paths.offArc('part0', 1, 1, samples)).to.be.closeTo(corner * (1 - Math.cos(half)), 0.02 * corner);
    }
  });

  it('finds what has keys and is marked static, what is sharp, what is off its way, and samples of nothing', () => {
    const run = keys(identity(), translation(0.3, 0, 0));
    const cases: [BenchShot, string[]][] = [
      [moving({ keys: run }), ['motion.static-flag']],
      [moving({ keys: run, motion: 'transform' }), []],
      [moving({ keys: run, motion: 'transform' }, { motion: { samples: 2, shutter: 0 } }), ['motion.no-blur']],
      [moving({ keys: run, motion: 'transform' }, { motion: { samples: 1, shutter: 0.5 } }), ['motion.no-blur']],
      [moving({ keys: keys(identity(), rotationZ(150)), motion: 'transform' }), ['motion.too-few-samples']],
      [moving({ motion: 'transform' }, { motion: { samples: 8, shutter: 0.5 } }), ['motion.samples-without-motion']],
      [moving({ keys: keys(identity(), identity()) }), []],
      [moving({ keys: run, motion: 'transform' }, { motion: { samples: 8, shutter: 0.5 } }), []],
    ];
    for (const [shot, causes] of cases) {
      const found = look(shot);
      expect(found.map(({ finding }) => finding.cause)).to.deep.equal(causes);
      for (const { finding } of found) {
        const { change } = finding.remedies[0];
        const values = (change as { values: Record<string, unknown> }).values;
        const cured = { ...shot, document: withValues(shot.document, ['preview'], values) };
        expect(look(cured), `${finding.cause} after ${finding.remedies[0].title}`).to.deep.equal([]);
      }
    }
  });

  it('asks for as many samples as a turn needs', () => {
    const found = look(moving({ keys: keys(identity(), rotationZ(170)), motion: 'transform' }, { motion: { samples: 2, shutter: 1 } })); // prettier-ignore
    const change = found[0].finding.remedies[0].change as { values: Record<string, number> };
    expect(change.values['/motion/samples']).to.be.within(3, 8);
  });

  it('finds that the fan of the store room stands still, and how far it should have turned', async () => {
    const shot = await benchShot(buildStoreRoom, { width: 160, height: 90, samples: 8 });
    const found = look(shot);
    expect(found.map(({ finding }) => finding.cause)).to.deep.equal(['motion.static-flag']);
    expect(found[0].finding.sentence).to.equal('Fan has 9 keys and is rendered still.');
    expect(found[0].finding.why).to.match(/keys take it \d+(\.\d)? pixels across the picture/);
    const { values } = found[0].finding.remedies[0].change as { values: Record<string, unknown> };
    expect(values).to.deep.equal({ '/objects/fan/motion': 'transform' });
    const again = look({ ...shot, document: withValues(shot.document, ['preview'], values) });
    expect(again.map(({ finding }) => finding.sentence)).to.satisfy((left: string[]) => left.every((one) => /The blur of fan/.test(one))); // prettier-ignore
  });

  /** A square whose cache has a mesh of its own for each key, grown by a factor each. */
  function cached(...grown: number[]): BenchShot {
    const shot = moving({ motion: 'deforming', keys: grown.map((_, k) => ({ frame: k, transform: identity(), mesh: `cache${k}` })) }, { motion: { samples: 2, shutter: 0.5 } }); // prettier-ignore
    grown.forEach((factor, k) => {
      shot.assets.meshes.set(`cache${k}`, square(0.2 * factor, 0));
      shot.document.meshes[`cache${k}`] = { file: 'cache.glb', mesh: k, primitive: 0 };
    });
    return shot;
  }

  it('tells a cache that sticks or never moves from one that rests', () => {
    const stuck = look(cached(1, 1.1, 1.1, 1.2, 1.3));
    expect(stuck.map(({ finding }) => finding.cause)).to.deep.equal(['motion.stale-cache']);
    expect(stuck[0].finding.sentence).to.match(/stands still at frame 2 between frames that move/);
    const { values } = stuck[0].finding.remedies[0].change as { values: Record<string, { frame: number }[]> };
    expect(values['/objects/part0/keys'].map(({ frame }) => frame)).to.deep.equal([0, 1, 3, 4]);
    expect(look(cached(1, 1, 1))[0].finding.sentence).to.match(/is deforming, and its 3 meshes are the same/);
    // At rest before and after, moving all the way, and a pause that was keyed with one mesh.
    expect(look(cached(1, 1, 1.1, 1.2, 1.2))).to.deep.equal([]);
    expect(look(cached(1, 1.1, 1.2, 1.3))).to.deep.equal([]);
    const held = cached(1, 1.1, 1.1, 1.2, 1.3);
    held.document.objects.part0.keys[2].mesh = 'cache1';
    expect(look(held)).to.deep.equal([]);
  });

  it('tells a scale that went into the vertices and not into the maps, and puts it back in place', () => {
    const grain = { ...defaultMap('noise-object'), name: 'grain' };
    const pair = (second: Mesh, material: string, scale: number): BenchShot => {
      const shot = scene([
        { mesh: square(1, 0), material: { baseColourMap: 'grain' }, object: { transform: multiply(translation(-0.4, 0, 0), scaling(0.3, 0.3, 0.3)) } }, // prettier-ignore
        { mesh: second, material: { baseColourMap: 'grain' }, object: { transform: multiply(translation(0.4, 0, 0), scaling(scale, scale, scale)) } }, // prettier-ignore
      ], { maps: { grain } }, SIZE); // prettier-ignore
      shot.document.objects.part1.material = material;
      return shot;
    };
    const shot = pair(square(0.3, 0), 'part0', 1);
    const [found] = look(shot);
    expect(found.finding).to.include({ cause: 'motion.half-baked-transform', sentence: 'Grain is 3.3 times as coarse on part1 as on part0.' }); // prettier-ignore
    const { values } = found.finding.remedies[0].change as { values: Record<string, unknown> };
    expect(values['/objects/part1/mesh']).to.equal('part0');
    // 0.4 to the right, and the sibling's square of 1 m by 0.3.
    (values['/objects/part1/transform'] as number[]).forEach((v, i) =>
      expect(v).to.be.closeTo([0.3, 0, 0, 0, 0, 0.3, 0, 0, 0, 0, 0.3, 0, 0.4, 0, 0, 1][i], 1e-6),
    );
    expect(look({ ...shot, document: withValues(shot.document, ['preview'], values) })).to.deep.equal([]);
    // A cache, whose meshes are its own; scaled alike, of another material, and of another shape.
    const cache = pair(square(0.3, 0), 'part0', 1);
    cache.document.objects.part1.keys = [{ frame: 1, transform: identity(), mesh: 'part1' }];
    expect(look(cache)).to.deep.equal([]);
    expect(look(pair(square(1, 0), 'part0', 0.3))).to.deep.equal([]);
    expect(look(pair(square(0.3, 0), 'part1', 1))).to.deep.equal([]);
    expect(look(pair(box([-0.3, -0.3, 0], [0.3, 0.3, 0.3]), 'part0', 1))).to.deep.equal([]);
  });
});
