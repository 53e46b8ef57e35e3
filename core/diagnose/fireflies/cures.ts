/**
 * What is known of each cure beyond its small render: the guilty samples are traced again with it. What is left after the best
 * of them is looked at once more, for a clamp or a roughness floor on top: once light is aimed at, both take little of it.
 */
import type { Effect } from '../../contracts/figures.ts';
import { channel, type Picture } from '../../data/picture.ts';
import { objectNames } from '../../document/object-names.ts';
import { changeOf, sidesOf, withFigures } from '../../figures/effect.ts';
import { stopsOf } from '../../figures/stops-between.ts';
import { luminancePlane, percentile } from '../../picture/measured.ts';
import { singleFireflies } from '../../picture/single-fireflies.ts';
import type { Variation } from '../../predict/small-render.ts';
import type { Tried } from '../family.ts';
import { lower } from '../words.ts';
import type { FireflyCase } from './case.ts';
import { clampCurve, clampKindOf, dulled, rounded } from './clamp-curve.ts';
import { hurtOf, STOP } from './rank.ts';
import { clampAt } from './remedies/clamp.ts';
import { setting, valuesIn, type FireflyProposal } from './remedies/proposal.ts';
import { replay } from './replay.ts';

/** Cures that a clamp is put on top of. */
const COMBINED = 2;
/** A cure that costs so much is none to begin with. */
const DEAR = 2;
/** Clamps that are looked at, half a stop apart. */
const STEPS = 30;
/** Stops that an object may lose by a clamp that leaves nothing. */
const UNSEEN = 0.25;
/** Share of the pixels that are darker than what the clamp is made for, and what is black to everybody. */
const DARK = 0.05;
const LEAST = 1e-3;

export function forecastCure(
  { input, at, here, region }: FireflyCase,
  { left: known, dulls, stopsIn }: FireflyProposal,
  effect: Effect,
  side: Variation,
): { effect: Effect; note?: string } {
  const figures: Effect['figures'] = [];
  // A small render is no match for what the film knows of a clamp.
  if (dulls && Math.abs(dulls.stops) > Math.abs(changeOf(effect, 'most-changed') ?? 0))
    figures.push({ id: 'most-changed', of: dulls.object, before: 0, after: dulls.stops });
  if (stopsIn) {
    const before = sidesOf(effect, 'brightness').before ?? stopsOf(1);
    figures.push({ id: 'brightness', before, after: before + stopsIn(region) });
  }
  if (known !== undefined) return { effect: withFigures(effect, [...figures, { id: 'fireflies', before: here, after: known }]) }; // prettier-ignore
  const { traced, cured } = replay(side, input.picture, at);
  const { before: n, after } = sidesOf(effect, 'fireflies');
  // How many there are is known. Those that a second look finds again are left, and the small render tells of new ones.
  const left = Math.max(1 - cured / traced, n !== null && after !== null && n > 0 ? after / n : 0);
  figures.push({ id: 'fireflies', before: here, after: Math.round(here * left) });
  return {
    effect: withFigures(effect, figures),
    note: `Of ${traced} affected pixels traced again, ${cured} are clean.`,
  };
}

/** The best cures with a clamp or a roughness floor on top. */
export function cureTheRest(of: FireflyCase, tried: Tried<FireflyProposal>[]): FireflyProposal[] {
  const { sheet, document } = of;
  const all = objectNames(document);
  const best = tried
    .filter(({ proposal, remedy }) => proposal.isAimed && (changeOf(remedy.predicted, 'rays') ?? 1) < DEAR)
    .sort((a, b) => hurtOf(a.remedy.predicted, 0, a.proposal.id) - hurtOf(b.remedy.predicted, 0, b.proposal.id))
    .slice(0, COMBINED);
  const floor = tried.find(({ proposal }) => proposal.id === 'roughness-floor')?.proposal;
  return best.flatMap(({ proposal, small }) => [
    ...(small ? clampOnTop(small, proposal, (object) => all[object], sheet.samples) : []),
    ...(floor ? [bothOf(proposal, floor)] : []),
  ]);
}

function clampOnTop(
  picture: Picture,
  base: FireflyProposal,
  names: (object: number) => string,
  samples: number,
): FireflyProposal[] {
  const lossAt = (clamp: number) => -(dulled(picture, 'bounced', clamp)[0]?.stops ?? 0);
  // A sample of c brings c/N, and stands out by two stops where that is three times what is there.
  const dark = percentile(luminancePlane(picture, 'beauty'), DARK);
  const quiet = rounded(3 * samples * Math.max(LEAST, dark));
  if (lossAt(quiet) <= UNSEEN) return [clampAt(picture, 'bounced', { clamp: quiet }, names, base)];
  const [paths, values] = ['path', 'value'].map((part) => channel(picture, `brightest.${part}`));
  const left = singleFireflies(picture).filter((i) => clampKindOf(paths[i]) === 'bounced');
  if (left.length === 0) return [];
  const brightest = left.reduce((most, i) => Math.max(most, values[i]), 0);
  const steps = Array.from({ length: STEPS }, (_, k) => rounded(brightest * 2 ** (-k / 2)));
  const leaves = (clamp: number) => clampCurve(picture, 'bounced', left, [clamp])[0].left;
  const hurt = (clamp: number) => leaves(clamp) + STOP * lossAt(clamp);
  const [clamp] = steps.map((one) => ({ one, hurt: hurt(one) })).sort((a, b) => a.hurt - b.hurt);
  return [clampAt(picture, 'bounced', { clamp: clamp.one }, names, base)];
}

const bothOf = (base: FireflyProposal, more: FireflyProposal): FireflyProposal => ({
  id: `${base.id}+${more.id}`,
  title: `${base.title}, and ${lower(more.title)}`,
  ...setting({ ...valuesIn(base), ...valuesIn(more) }),
  note: [base.note, more.note].filter(Boolean).join(' '),
});
