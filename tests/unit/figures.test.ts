/**
 * Figures: what a change does, on the pass that shows it. Against closed forms: a light of twice the power is a stop (the
 * definition), a checkerboard of two tones has a contrast of half the stops between them (the deviation of two values).
 */
import { expect } from 'chai';
import { createPicture, type Picture } from '../../core/data/picture.ts';
import { compareSides } from '../../core/figures/compare.ts';
import {
  change,
  changeOf,
  isSeen,
  sidesOf,
  tellFigure,
  toldOf,
  valueIn,
  withChanges,
} from '../../core/figures/effect.ts';
import type { Side } from '../../core/figures/figure.ts';
import { tellNothing } from '../../core/figures/nothing-shown.ts';
import { FIGURES, figurePasses } from '../../core/figures/registry.ts';
import { seenIn } from '../../core/figures/seen-in.ts';
import { passChannels } from '../../core/render/film/pass-list.ts';
import type { FilmLayout } from '../../core/render/film/passes.ts';
import { buildStoreRoom } from '../../demo/ha-040/build.ts';
import { buildHiveYard } from '../../demo/ha-050/build.ts';
import { benchShot, forecast, renderShot, tryOut } from './bench-shot.ts';
import { randomNumbers } from './size.ts';

const LAYOUT: FilmLayout = {
  groups: [],
  groupPasses: false,
  shadows: ['sun'],
  occlusion: true,
  lines: null,
  channelErrors: false,
};
const [WIDTH, HEIGHT] = [48, 32];

/** A side whose passes hold what is told of each, or 0. */
function side(passes: Record<string, (x: number, y: number) => number>, more: Partial<Side> = {}): Side {
  const names = figurePasses(LAYOUT).flatMap((pass) => passChannels(pass, LAYOUT));
  const picture: Picture = createPicture(WIDTH, HEIGHT, names);
  const own: Record<string, (x: number, y: number) => number> = {
    samples: () => 16,
    cost: () => 4,
    object: () => 1,
    ...passes,
  };
  for (const [pass, of] of Object.entries(own))
    for (const name of passChannels(pass, LAYOUT))
      picture.channels.get(name)!.forEach((_, i, plane) => (plane[i] = of(i % WIDTH, Math.floor(i / WIDTH))));
  return { picture, deciding: 0, occlusionRays: 0, seconds: null, ofScene: {}, ...more };
}
const compare = (before: Side, after: Side) => compareSides({ before, after, mask: null, names: ['wall'] });
/** Normal noise about a tone, the same for one seed. */
function noisy(tone: number, sigma: number, seed: number): (x: number, y: number) => number {
  const random = randomNumbers(seed);
  const values = Float64Array.from({ length: WIDTH * HEIGHT }, () => tone + sigma * Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())); // prettier-ignore
  return (x, y) => values[y * WIDTH + x];
}

describe('figures', function () {
  this.timeout(120_000);

  it('have an id, a unit and words each, and none twice', () => {
    expect(new Set(FIGURES.map(({ id }) => id)).size).to.equal(FIGURES.length);
    for (const { id, label, short, seen } of FIGURES) expect(id && label && short && seen > 0, id).to.equal(true);
  });

  it('of twice the light are a stop more, over all of the region', () => {
    const effect = compare(side({ beauty: () => 0.2 }), side({ beauty: () => 0.4 }));
    expect(changeOf(effect, 'brightness')).to.be.closeTo(1, 1e-6);
    expect(sidesOf(effect, 'changed').after).to.equal(1);
    expect(valueIn(effect, 'most-changed')!.of).to.equal('wall');
    expect(changeOf(effect, 'contrast')).to.be.closeTo(0, 1e-6);
    expect(changeOf(effect, 'rays')).to.equal(1);
  });

  it('of a checkerboard have half the stops between its tones as contrast, whatever its brightness', () => {
    const board = (light: number) => side({ beauty: (x, y) => light * ((x + y) % 2 ? 1 : 4) });
    const effect = compare(board(1), board(4));
    const { before, after } = sidesOf(effect, 'contrast');
    expect(before).to.be.closeTo(1, 0.02);
    expect(after).to.be.closeTo(1, 0.02);
  });

  it('tell a change of the pass that shows it, where the beauty shows none', () => {
    const beauty = () => 0.3;
    const [before, after] = [side({ beauty, occlusion: () => 0.05 }), side({ beauty, occlusion: () => 0.8 })];
    expect(seenIn(before.picture!, after.picture!)).to.deep.equal({ pass: 'occlusion', share: 1 });
    const effect = compare(before, after);
    const brightness = valueIn(effect, 'brightness')!;
    expect(brightness.of).to.equal('occlusion');
    expect(change(brightness)).to.be.closeTo(4, 1e-6);
    expect(tellFigure(brightness)).to.equal('brightness in occlusion +4.0 stops');
  });

  it('take noise for no change, and a shadow in it for one', () => {
    const [a, b] = [noisy(0.3, 0.06, 1), noisy(0.3, 0.06, 2)];
    expect(seenIn(side({ beauty: a }).picture!, side({ beauty: b }).picture!).share).to.be.below(0.01);
    // A quarter of the frame is half as bright.
    const shaded = (x: number, y: number) => b(x, y) * (x < WIDTH / 4 ? 0.5 : 1);
    const effect = compare(side({ beauty: a }), side({ beauty: shaded }));
    expect(sidesOf(effect, 'changed').after).to.be.within(0.2, 0.33);
  });

  it('say plainly that nothing measured shows a dial, and where it shows', () => {
    const same = side({ beauty: () => 0.3 });
    const effect = compare(same, same);
    expect(effect.figures.filter(isSeen)).to.deep.equal([]);
    expect(toldOf(effect).map(({ id }) => id)).to.deep.equal(['noise', 'rays']);
    expect(tellNothing(effect, ['/lights/sun/shadowDistance'])).to.match(/^No measured figure shows this change; it shows in the light’s shadow/); // prettier-ignore
  });

  it('that a later build stored are left out, and the others told', () => {
    const effect = {
      figures: [
        { id: 'of-tomorrow', before: 1, after: 2 },
        { id: 'rays', before: 1, after: 2 },
      ],
    };
    expect(toldOf(effect).map(tellFigure)).to.deep.equal(['rays × 2.00']);
    expect(tellNothing({ figures: [{ id: 'of-tomorrow', before: 1, after: 2 }] }, [])).to.match(/^No measured figure/);
  });

  it('need no picture where they are none of it', () => {
    const bare = (bytes: number, seconds: number): Side => ({
      picture: null,
      deciding: 0,
      occlusionRays: 0,
      seconds,
      ofScene: { memory: bytes },
    });
    const effect = compare(bare(1e9, 10), bare(5e8, 20));
    expect(effect.figures.map(tellFigure)).to.deep.equal(['time 10 s → 20 s', 'memory 1 GB → 500 MB']);
  });

  it('of a model move from what is there by what the model says', () => {
    const effect = { figures: [{ id: 'rays', before: 200, after: 210 }, { id: 'brightness', before: -3, after: -3 }] }; // prettier-ignore
    const moved = withChanges(effect, [{ id: 'rays', before: 1, after: 4 }, { id: 'brightness', before: 0, after: 2 }]); // prettier-ignore
    expect(valueIn(moved, 'rays')).to.include({ before: 200, after: 800 });
    expect(valueIn(moved, 'brightness')).to.include({ before: -3, after: -1 });
  });

  it('of the store room’s occlusion distance are told of the occlusion pass, forecast as measured', async () => {
    const shot = await benchShot(buildStoreRoom, { width: 64, height: 36, samples: 16 });
    const region = { x: 0, y: 0, width: 64, height: 36 };
    const values = { '/occlusion/distance': 0.3 };
    const [told, there] = [forecast(shot, values, region, renderShot(shot)), tryOut(shot, values, region)];
    for (const [what, effect] of Object.entries({ told, there })) {
      expect(valueIn(effect, 'changed')!.of, what).to.equal('occlusion');
      expect(sidesOf(effect, 'changed').after, what).to.be.above(0.8);
    }
    // In a closed room everything is behind something: what is black without a distance is nearly white with one.
    expect(changeOf(there, 'brightness')).to.be.above(3);
    expect(changeOf(told, 'brightness')! / changeOf(there, 'brightness')!).to.be.within(0.85, 1.15);
  });

  it('of the hive yard’s shadow distance move as the shadow comes back', async () => {
    const shot = await benchShot(buildHiveYard, { width: 120, height: 68, samples: 16 });
    const [sun] = Object.entries(shot.document.lights).find(([, light]) => light.shadowDistance !== null)!;
    const region = { x: 0, y: 0, width: 120, height: 68 };
    const values = { [`/lights/${sun}/shadowDistance`]: null };
    const [told, there] = [forecast(shot, values, region, renderShot(shot)), tryOut(shot, values, region)];
    for (const [what, effect] of Object.entries({ told, there })) {
      expect(sidesOf(effect, 'changed').after, what).to.be.above(0.03);
      expect(
        toldOf(effect).map(({ id }) => id),
        what,
      ).to.include('changed');
    }
    expect(sidesOf(told, 'changed').after! / sidesOf(there, 'changed').after!).to.be.within(0.6, 1.6);
  });
});
