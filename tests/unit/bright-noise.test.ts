/** Noise that the shadow boost blows out: seen on the picture as it is, by the sRGB curve (IEC 61966-2-1) alone. */
import { expect } from 'chai';
import { plainDisplay } from '../../core/data/grain.ts';
import { channel, type Picture, type Region } from '../../core/data/picture.ts';
import { cropPlane, luminancePlane } from '../../core/picture/measured.ts';
import { noisiestPlace } from '../../core/diagnose/noise/noisiest.ts';
import { noise } from '../../core/diagnose/noise/definition.ts';
import { sidesOf } from '../../core/figures/effect.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { smallShot } from '../api/small-shot.ts';
import { examine, renderShot, tryRemedy, valuesOf, type BenchShot } from './bench-shot.ts';
import { read } from './effects.ts';

/**
 * A white wall under one large light.
 * @param width of the light, metres: 4 has all of the wall above a third of white, 2 half of it above a quarter
 */
async function whiteWall(grainTarget: number, samples = 8, width = 4): Promise<BenchShot> {
  const { document, files } = await smallShot('BRIGHT', { samples, grainTarget });
  for (const id of ['pane0', 'pane1', 'pane2']) delete document.objects[id];
  Object.assign(document.lights.window, { intensity: 1, width, height: width });
  return { document, assets: await loadAssets(document, async (path) => files.get(path) ?? null, 'x') };
}

/**
 * Root mean square of half the way that one error up and down moves the display, worked out here: of every second pixel, as on
 * a chessboard, since the others chose the place.
 */
function stepsOf(picture: Picture, region: Region): number {
  const [y, sigma] = [luminancePlane(picture, 'beauty'), channel(picture, 'error.beauty')].map((plane) => cropPlane(picture, plane, region)); // prettier-ignore
  const srgb = (v: number) => 255 * (v <= 0.0031308 ? 12.92 * Math.max(0, v) : 1.055 * Math.min(1, v) ** (1 / 2.4) - 0.055); // prettier-ignore
  const squares = [...y].flatMap((v, i) => ((region.x + (i % region.width) + region.y + Math.floor(i / region.width)) % 2 === 1 ? [((srgb(v + sigma[i]) - srgb(v - sigma[i])) / 2) ** 2] : [])); // prettier-ignore
  return Math.sqrt(squares.reduce((a, b) => a + b, 0) / squares.length);
}

describe('noise of bright parts', function () {
  this.timeout(60_000);

  it('is told where the boost does not show it, with samples that reach the target', async () => {
    const shot = await whiteWall(2);
    const [found, ...rest] = examine(shot, [noise]);
    const { finding } = found;
    const region = finding.where.region!;
    expect(rest).to.deep.equal([]);
    expect(finding.key).to.equal('noise.bright');
    const now = stepsOf(renderShot(shot), region);
    expect(now).to.be.above(2);
    expect(finding.sentence).to.equal(`Noise in bright parts: ${now.toFixed(1)} of 255, target 2.0.`);
    expect(finding.cause).to.equal('noise.bright-parts');
    const [remedy] = finding.remedies;
    const values = valuesOf(remedy);
    const after = stepsOf(renderShot(shot, values as Record<string, number>, undefined, 77), region);
    // The noise of an error estimate of few groups is in the first figure: a fifth is what two such estimates differ by.
    expect(after).to.be.within(2 * 0.8, 2 * 1.2);
    const { before: was, after: told } = sidesOf(remedy.predicted!, 'bright-noise');
    expect([was!, told!].map((steps) => steps.toFixed(1))).to.deep.equal([now.toFixed(1), '2.0']);
    expect(read(remedy.predicted).rays).to.equal(Number(values['/samples']) / 8);
    // The lift shows next to nothing of it.
    expect(read(remedy.predicted).noiseBefore).to.be.below(now / 2);
    // The trial proves it by the figure that is told.
    expect(sidesOf(tryRemedy(shot, found, remedy), 'bright-noise').after! / told!).to.be.within(0.8, 1.2);
  });

  it('is not there within the target', async () => {
    const found = examine(await whiteWall(50), [noise]).map(({ finding }) => finding.key);
    expect(found).not.to.include('noise.bright');
  });

  it('keeps samples that the boost alone would give away', async () => {
    const found = async (target: number) => examine(await whiteWall(target, 32, 2), [noise]).map(({ finding }) => finding); // prettier-ignore
    const shot = await whiteWall(4, 32, 2);
    const picture = renderShot(shot);
    const { region } = noisiestPlace(picture, plainDisplay);
    // Half of the samples would reach a target of 4 with shadows boosted, and not without it.
    const [generous] = await found(10);
    expect(generous.key).to.equal('noise.spare');
    expect(Number(/noise ([\d.]+) of 255/.exec(generous.sentence)![1]) * Math.SQRT2).to.be.below(4);
    expect(stepsOf(picture, region) * Math.SQRT2).to.be.above(4);
    expect(await found(4)).to.deep.equal([]);
  });

  it('gets the samples that it needs, where pixels judge for themselves', async () => {
    const shot = await whiteWall(3, 512);
    const by = { '/adaptive/on': true, '/adaptive/target': 3, '/adaptive/least': 16 };
    const picture = renderShot(shot, by, { x: 24, y: 16, width: 48, height: 32 });
    const steps = stepsOf(picture, { x: 0, y: 0, width: 48, height: 32 });
    expect(steps).to.be.within(3 * 0.75, 3 * 1.25);
    // Some stop early, and some are not done at four times the least.
    const samples = [...channel(picture, 'samples')].sort((a, b) => a - b);
    expect(samples[0]).to.be.at.most(32);
    expect(samples.at(-1)).to.be.above(64);
  });

  it('is by the display’s own curve', () => {
    // IEC 61966-2-1: 0.5 encodes to 0.7354, 0.001 to 0.01292.
    expect(plainDisplay(0.5)).to.be.closeTo(255 * 0.7354, 0.02);
    expect(plainDisplay(0.001)).to.be.closeTo(255 * 0.01292, 1e-6);
    expect(plainDisplay(-1)).to.equal(0);
    expect(plainDisplay(7)).to.be.closeTo(255, 1e-9);
  });
});
