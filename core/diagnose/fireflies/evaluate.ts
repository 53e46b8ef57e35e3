/**
 * What each remedy would do: the guilty samples are traced again with it, and the region is rendered small with and
 * without it. What is left after the best of them is looked at once more, for a clamp or a roughness floor on top: once
 * light is aimed at, both take little of it.
 */
import type { Remedy } from '../../contracts/finding.ts';
import { channel, isInRegion, type Picture, type Region } from '../../data/picture.ts';
import { objectNames } from '../../document/object-names.ts';
import { luminancePlane, percentile } from '../../picture/measured.ts';
import { singleFireflies } from '../../picture/single-fireflies.ts';
import { predictChanges } from '../../predict/predict-change.ts';
import type { ChangeSide } from '../../predict/small-render.ts';
import type { DiagnosisInput } from '../diagnosis.ts';
import { CLAMP_PASSES, clampCurve, clampKindOf, dulled, rounded } from './clamp-curve.ts';
import { byHurt, hurtOf, STOP } from './rank.ts';
import { clampAt } from './remedies/clamp.ts';
import type { Proposal } from './remedies/proposal.ts';
import { replay } from './replay.ts';

/** Remedies that a clamp is put on top of. */
const COMBINED = 2;
/** A remedy that costs so much is none to begin with. */
const DEAR = 2;
/** Clamps that are looked at, half a stop apart. */
const STEPS = 30;
/** Stops that an object may lose by a clamp that leaves nothing. */
const UNSEEN = 0.25;
/** Share of the pixels that are darker than what the clamp is made for, and what is black to everybody. */
const DARK = 0.05;
const LEAST = 1e-3;

export function evaluate(
  input: DiagnosisInput,
  proposals: Proposal[],
  at: number[],
  region: Region,
  names: (object: number) => string,
): Remedy[] {
  const { document, picture, scene, sheet, pilotSeed } = input;
  const all = objectNames(document);
  const here = at.filter((i) => isInRegion(region, i % picture.width, Math.floor(i / picture.width))).length;
  const before: ChangeSide = { scene, sheet };
  const small: Picture[] = [];
  const predict = (some: Proposal[], see: (picture: Picture, k: number) => void = () => {}): Remedy[] => {
    const sides = some.map(({ values }) => input.vary(values));
    const effects = predictChanges(
      { before, region, mask: null, picture, names: all, seed: pilotSeed, isSelected: true },
      sides,
      CLAMP_PASSES,
      see,
    );
    return some.map(({ id, title, values, note, look, stopsIn }, k) => {
      const predicted = effects[k];
      const { before: n, after } = predicted.fireflies!;
      // A small render is no match for what the film knows of a clamp.
      if (look && Math.abs(look.stops) > Math.abs(predicted.look?.stops ?? 0)) predicted.look = look;
      if (stopsIn) predicted.stops = stopsIn(region);
      const { traced, cured } = replay(sides[k], picture, at);
      // How many there are is known. Those that a second look finds again are left, and the small render tells of new ones.
      const left = Math.max(1 - cured / traced, n > 0 ? after / n : 0);
      predicted.fireflies = { before: here, after: Math.round(here * left) };
      const replayed = `Of ${traced} guilty pixels traced again, ${cured} are clean.`;
      return { id, title, values, predicted, note: note ? `${note} ${replayed}` : replayed };
    });
  };
  const alone = predict(proposals, (one, k) => (small[k] = one));
  const best = alone
    .map((remedy, k) => ({ remedy, k }))
    .filter(({ remedy, k }) => proposals[k].isAimed && remedy.predicted.cost < DEAR)
    .sort((a, b) => withoutFlies(a.remedy) - withoutFlies(b.remedy))
    .slice(0, COMBINED);
  const floor = proposals.find(({ id }) => id === 'roughness-floor');
  const together = best.flatMap(({ k }) => [
    ...clampOnTop(small[k], proposals[k], names, sheet.samples),
    ...(floor ? [bothOf(proposals[k], floor)] : []),
  ]);
  return byHurt([...alone, ...predict(together)]);
}

/** What a remedy costs in looks and rays, were all fireflies gone. */
const withoutFlies = ({ predicted }: Remedy): number => hurtOf({ ...predicted, fireflies: { before: 1, after: 0 } });

function clampOnTop(picture: Picture, base: Proposal, names: (object: number) => string, samples: number): Proposal[] {
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

const bothOf = (base: Proposal, more: Proposal): Proposal => ({
  id: `${base.id}+${more.id}`,
  title: `${base.title}, and ${more.title[0].toLowerCase()}${more.title.slice(1)}`,
  values: { ...base.values, ...more.values },
  note: [base.note, more.note].filter(Boolean).join(' '),
});
