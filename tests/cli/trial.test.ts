/** A trial from a shell: predicted beside measured, and everything that can be wrong with it said by name. */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect } from 'chai';
import type { Effect } from '../../core/contracts/figures.ts';
import { read } from '../unit/effects.ts';
import { trialCommand } from '../../cli/trial.ts';
import { smallShot } from '../api/small-shot.ts';
import { captured } from './captured.ts';

const folder = mkdtempSync(join(tmpdir(), 'dusting-trial-'));
const at = (name: string) => join(folder, name);
const change = (name: string, value: unknown) => {
  writeFileSync(at(name), typeof value === 'string' ? value : JSON.stringify(value));
  return at(name);
};
type Told = Effect & { samplesAtEqualNoise: number; costAtEqualNoise: number };
const tried = async (...args: string[]) => JSON.parse(await captured(() => trialCommand([at('shot'), ...args, '--json']))) as { predicted: Told; measured: Told }; // prettier-ignore
const refused = (...args: string[]) => trialCommand(args).then(() => '', (error: Error) => error.message); // prettier-ignore

describe('dusting trial', function () {
  this.timeout(120_000);
  before(async () => {
    const { document, files } = await smallShot('TRIAL-1');
    for (const [path, bytes] of [...files, ['shot.json', JSON.stringify(document)] as const]) {
      mkdirSync(dirname(at(`shot/${path}`)), { recursive: true });
      writeFileSync(at(`shot/${path}`), bytes);
    }
  });
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('of four times the samples costs four times the rays and halves the noise, as 1/√N has it', async () => {
    const { predicted, measured } = await tried('--patch', change('samples.json', { '/samples': 64 }));
    for (const [what, effect] of Object.entries({ predicted, measured })) {
      const { rays, noiseBefore, noiseAfter } = read(effect);
      expect(rays, what).to.be.closeTo(4, 0.2);
      expect(noiseAfter / noiseBefore, what).to.be.closeTo(0.5, 0.15);
      // Near black the display's curve is steeper, so that less noise is seen than half.
      expect(effect.costAtEqualNoise, what).to.be.within(0.4, 1.2);
    }
  });

  it('takes a JSON Patch as well as values, on a region', async () => {
    const path = '/sheets/preview/limits/transmission';
    const patch = [{ op: 'replace', path, value: 20 }, { op: 'replace', path: '/sheets/preview/limits/overall', value: 24 }]; // prettier-ignore
    const { measured } = await tried('--patch', change('patch.json', patch), '--region', '40,24,16,16');
    expect(read(measured).stops).to.be.greaterThan(0.3);
  });

  it('holds objects out: the change in a render of them alone, put together with the rest', async () => {
    // The wall behind three panes is dimmed by a clamp on it, and only where no pane stands before it.
    const clamp = change('clamp.json', { '/clamps/direct': 0.01 });
    const whole = await tried('--patch', clamp);
    const wall = await tried('--patch', clamp, '--hold-out', 'wall');
    expect(wall.predicted).to.equal(null);
    expect(read(wall.measured).stops).to.be.below(-0.5);
    expect(read(wall.measured).stops).to.be.above(read(whole.measured).stops);
    // A change that touches nothing of them leaves all as it is.
    const still = await tried('--patch', change('seeds.json', { '/clamps/direct': 1e6 }), '--hold-out', 'wall');
    expect(read(still.measured).stops).to.be.closeTo(0, 1e-4);
    expect(await refused(at('shot'), '--patch', clamp, '--hold-out', 'wall,nobody')).to.match(/no object "nobody"/);
    expect(await refused(at('shot'), '--patch', clamp, '--hold-out', ',')).to.match(/--hold-out ,: /);
  });

  it('is refused with a sentence that names what and where', async () => {
    const ok = change('ok.json', { '/samples': 64 });
    expect(await refused(at('shot'))).to.match(/^Name the change/);
    expect(await refused(at('nowhere'), '--patch', ok)).to.match(/There is no ".*nowhere"/);
    expect(await refused(at('shot'), '--patch', at('none.json'))).to.match(/There is no file ".*none\.json"/);
    expect(await refused(at('shot'), '--patch', change('bad.json', '{'))).to.match(/bad\.json is not JSON/);
    expect(await refused(at('shot'), '--patch', change('empty.json', {}))).to.match(/holds no change/);
    expect(await refused(at('shot'), '--patch', change('wrong.json', { '/lights/none/angle': 3 }))).to.match(/\/lights\/none\/angle/); // prettier-ignore
    expect(await refused(at('shot'), '--patch', change('high.json', { '/samples': -4 }))).to.match(/samples/);
    expect(await refused(at('shot'), '--patch', change('wide.json', { '/width': 40 }))).to.match(/cannot change the width/); // prettier-ignore
    expect(await refused(at('shot'), '--patch', ok, '--region', '90,0,20,20')).to.match(/does not lie in the preview sheet’s frame/); // prettier-ignore
    expect(await refused(at('shot'), '--patch', change('same.json', { '/samples': 16 }))).to.match(/already has these values/); // prettier-ignore
  });
});
