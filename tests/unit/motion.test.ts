/** Motion: how far things travel across the picture, against closed forms, and what stands still that should move. */
import { expect } from 'chai';
import { identity, rotationZ, translation } from '../../core/data/transform.ts';
import { motion } from '../../core/diagnose/motion/definition.ts';
import { Paths } from '../../core/diagnose/motion/path.ts';
import { lookInRender } from '../../core/diagnose/run.ts';
import { withValues } from '../../core/document/set-values.ts';
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
    const shot = await benchShot(buildStoreRoom(), { width: 160, height: 90, samples: 8 });
    const found = look(shot);
    expect(found.map(({ finding }) => finding.cause)).to.deep.equal(['motion.static-flag']);
    expect(found[0].finding.sentence).to.equal('Fan has 9 keys and is rendered still.');
    expect(found[0].finding.why).to.match(/keys take it \d+(\.\d)? pixels across the picture/);
    const { values } = found[0].finding.remedies[0].change as { values: Record<string, unknown> };
    expect(values).to.deep.equal({ '/objects/fan/motion': 'transform' });
    const again = look({ ...shot, document: withValues(shot.document, ['preview'], values) });
    expect(again.map(({ finding }) => finding.sentence)).to.satisfy((left: string[]) => left.every((one) => /The blur of fan/.test(one))); // prettier-ignore
  });
});
