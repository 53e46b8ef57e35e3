/** Causes through the shell: pictures whose noise and fireflies are known because they were put in. */
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { FAMILIES } from '../../core/diagnose/registry.ts';
import { expect } from 'chai';
import { diagnoseCommand } from '../../cli/diagnose.ts';
import { createPicture } from '../../core/data/picture.ts';
import type { Evidence, Finding } from '../../core/contracts/finding.ts';
import { writeExr } from '../../core/formats/exr/write.ts';
import { smallShot } from '../api/small-shot.ts';
import { randomNumbers } from '../unit/size.ts';
import { captured } from './captured.ts';

const folder = mkdtempSync(join(tmpdir(), 'dusting-diagnose-'));
const at = (name: string) => join(folder, name);
const [WIDTH, HEIGHT, SIGMA] = [200, 140, 0.02];

/** Two light passes that add up: `diffuse` with grain, `refraction` with little, and specks in one of them. */
function frame(name: string, seed: number, specks: [number, number][], glint: [number, number] | null = null): void {
  const random = randomNumbers(seed);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const layers = ['', 'diffuse.', 'refraction.'];
  const picture = createPicture(WIDTH, HEIGHT, layers.flatMap((layer) => [...'RGB'].map((c) => layer + c))); // prettier-ignore
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const ramp = 0.04 + (0.1 * (i % WIDTH)) / WIDTH;
    const [d, r] = [ramp + SIGMA * normal(), ramp / 2 + 0.1 * SIGMA * normal()];
    for (const c of 'RGB') {
      picture.channels.get(`diffuse.${c}`)![i] = d;
      picture.channels.get(`refraction.${c}`)![i] = r;
    }
  }
  for (const [x, y] of glint ? [...specks, glint] : specks)
    for (const c of 'RGB') picture.channels.get(`refraction.${c}`)![y * WIDTH + x] += 9;
  for (const c of 'RGB')
    picture.channels.set(c, picture.channels.get(`diffuse.${c}`)!.map((v, i) => v + picture.channels.get(`refraction.${c}`)![i])); // prettier-ignore
  writeFileSync(at(name), writeExr(picture, { deflate: (raw) => deflateSync(raw), display: picture, type: () => 'half' })); // prettier-ignore
}
const specks = (seed: number, count: number): [number, number][] => {
  const random = randomNumbers(seed);
  return Array.from({ length: count }, () => [
    4 + Math.floor(random() * (WIDTH - 8)),
    4 + Math.floor(random() * (HEIGHT - 8)),
  ]);
};

async function diagnose(...args: string[]): Promise<{ code: number; findings: Finding[] }> {
  let code = -1;
  const out = await captured(async () => (code = await diagnoseCommand([...args, '--json'])));
  return { code, findings: (JSON.parse(out) as { findings: Finding[] }).findings };
}
const sharesOf = ({ evidence }: Finding) => (evidence.find(({ kind }) => kind === 'shares') as Extract<Evidence, { kind: 'shares' }>).bars[0].parts; // prettier-ignore
const of = (findings: Finding[], family: string) => findings.filter((finding) => finding.family === family);

describe('dusting diagnose', function () {
  this.timeout(120_000);
  before(() => {
    frame('a.1001.exr', 1, specks(7, 40), [100, 70]);
    frame('a.1002.exr', 2, specks(8, 30), [100, 70]);
  });
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('counts the fireflies of a picture and names the pass that carries them', async () => {
    const { code, findings } = await diagnose(at('a.1001.exr'), '--family', 'fireflies');
    expect([code, findings.length]).to.deep.equal([3, 1]);
    const [{ where, measured, sentence }] = findings;
    // The glint is one more: a single frame cannot tell it.
    expect(where.pixels).to.be.within(39, 42);
    expect(where.passes).to.deep.equal(['refraction']);
    expect(measured!.pixels).to.equal(where.pixels);
    expect(sentence).to.match(/^\d+ pixels stand out as fireflies, \d\.\d stops above their surroundings; refraction carries/); // prettier-ignore
  });

  it('leaves out what lasts from frame to frame', async () => {
    const alone = of((await diagnose(at('a.1001.exr'))).findings, 'fireflies')[0].where.pixels;
    const [first, second] = of((await diagnose(at('a.1001.exr'), at('a.1002.exr'))).findings, 'fireflies');
    expect(first.where.pixels).to.equal(alone - 1);
    expect([first.measured!.isAcrossFrames, second.measured!.isAcrossFrames]).to.deep.equal([true, true]);
  });

  it('measures the noise within 15 %, names the pass that carries it, and plans in factors', async () => {
    const [found] = of((await diagnose(at('a.1001.exr'), '--family', 'noise')).findings, 'noise');
    expect((found.measured!.sigma as number) / SIGMA).to.be.within(0.85, 1.15);
    expect(found.where.passes[0]).to.equal('diffuse');
    expect(sharesOf(found)[0].share).to.be.greaterThan(0.9);
    expect(found.severity).to.equal('caution');
    const [first, all] = found.remedies;
    expect(first.title).to.match(/× the samples of diffuse, the rest as they are$/);
    // Variances add up: what the pass has left and what the others have is what is wanted.
    const [{ share }] = sharesOf(found);
    expect(share / first.numbers!.samplesFactor + 1 - share).to.be.closeTo(1 / all.numbers!.samplesFactor, 1e-9);
  });

  it('plans in the numbers of a record that comes along, and in the dials of a target', async () => {
    writeFileSync(at('record.csv'), 'camera samples,16\ndiffuse samples,2\npixel root,4\nbounce root,3\n');
    const remedies = async (...args: string[]) => of((await diagnose(at('a.1001.exr'), '--family', 'noise', '--settings', at('record.csv'), ...args)).findings, 'noise')[0].remedies; // prettier-ignore
    const [diffuse, all] = await remedies();
    expect(all.title).to.match(new RegExp(`: camera samples 16 → ${Math.ceil(16 * all.numbers!.samplesFactor)}$`));
    expect(diffuse.title).to.match(new RegExp(`: diffuse samples 2 → ${Math.ceil(2 * diffuse.numbers!.samplesFactor)}$`)); // prettier-ignore
    const [, rooted] = await remedies('--target', 'millrace');
    expect(rooted.title).to.match(new RegExp(`: pixel root 4 → ${Math.ceil(4 * Math.sqrt(rooted.numbers!.samplesFactor))}$`)); // prettier-ignore
    const refusal = (...args: string[]) => diagnose(at('a.1001.exr'), ...args).then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(await refusal('--settings', at('none.csv'))).to.match(/There is no file/);
    expect(await refusal('--target', 'none')).to.match(/no target and no file "none"/);
  });

  it('measures the noise of the mean of two halves, and refuses what are none', async () => {
    const [found] = of((await diagnose(at('a.1001.exr'), at('a.1002.exr'), '--halves', '--family', 'noise')).findings, 'noise'); // prettier-ignore
    expect(found.measured!.method).to.equal('half-sample renders');
    expect(((found.measured!.sigma as number) * Math.SQRT2) / SIGMA).to.be.within(0.95, 1.05);
    const refusal = (...args: string[]) => diagnose(...args).then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(await refusal(at('a.1001.exr'), at('a.1001.exr'), '--halves')).to.match(/are the same, pixel by pixel/);
    expect(await refusal(at('a.1001.exr'), '--halves')).to.match(/needs two pictures/);
  });

  it('looks at a region alone, and refuses one that lies beside', async () => {
    const { findings } = await diagnose(at('a.1001.exr'), '--region', '0,0,60,140');
    expect(of(findings, 'fireflies')[0].where.pixels).to.be.within(5, 25);
    const refused = await diagnose(at('a.1001.exr'), '--region', '180,0,60,10').then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(refused).to.match(/^--region 180,0,60,10 does not lie in .*a\.1001\.exr, 200 × 140 pixels\.$/);
  });

  it('looks for causes in a shot, in all of its frame or as far as they show in a region', async () => {
    const { document, files } = await smallShot('DIAGNOSE-1');
    for (const [path, bytes] of [...files, ['shot.json', JSON.stringify(document)] as const]) {
      mkdirSync(dirname(at(`shot/${path}`)), { recursive: true });
      writeFileSync(at(`shot/${path}`), bytes);
    }
    const cut = async (...args: string[]) => (await diagnose(at('shot'), '--family', 'limits', ...args)).findings;
    const [whole] = await cut();
    expect([whole.family, whole.severity]).to.deep.equal(['limits', 'stop']);
    // Three panes in the middle; the corner sees the wall alone.
    const [middle] = await cut('--region', '40,24,16,16');
    expect(middle.where.pixels).to.equal(16 * 16);
    expect(middle.sentence).to.equal(whole.sentence);
    expect(await cut('--region', '0,0,8,8')).to.deep.equal([]);
  });

  it('says what can be said of pictures that are nothing, one colour, one pixel or one layer', async () => {
    const plain = (name: string, width: number, height: number, value: number, channels = ['R', 'G', 'B']) => {
      const picture = createPicture(width, height, channels);
      for (const plane of picture.channels.values()) plane.fill(value);
      writeFileSync(at(name), writeExr(picture, { deflate: (raw) => deflateSync(raw), display: picture }));
    };
    plain('nan.exr', 20, 20, NaN);
    plain('one.exr', 1, 1, 0.4);
    plain('even.exr', 20, 20, 0.4);
    for (const name of ['nan.exr', 'one.exr', 'even.exr']) expect(await diagnose(at(name)), name).to.deep.equal({ code: 0, findings: [] }); // prettier-ignore
    plain('cut.exr', 64, 64, 0.4);
    writeFileSync(at('cut.exr'), readFileSync(at('cut.exr')).subarray(0, -40));
    const cut = await diagnose(at('cut.exr'));
    expect([cut.code, cut.findings.map(({ cause }) => cause)]).to.deep.equal([4, ['preflight.file-cut-short']]);
    expect(cut.findings[0].sentence).to.equal('One of its chunks is missing or broken: the file is cut short, and nothing was measured.'); // prettier-ignore
    plain('z.exr', 20, 20, 3, ['Z']);
    const refused = await diagnose(at('z.exr')).then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(refused).to.match(/z\.exr has no colours to look at\.$/);
    const unknown = await diagnose(at('even.exr'), '--family', 'cracks').then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(unknown).to.equal(`There is no family "cracks"; there are ${FAMILIES.map(({ id }) => id).join(', ')}.`);
  });
});
