/**
 * Fireflies: single pixels that one bright sample made. In a render they are traced by the brightest sample that each of their
 * pixels kept, and grouped by the way the light came. Remedies change how the light is met, or what it may bring; what each
 * would do is told by tracing the guilty samples again and by rendering the region small.
 */
import { FIREFLY_PASSES } from '../../picture/single-fireflies.ts';
import { unmetIn } from '../../picture/unmet.ts';
import { ofPictures, ofRenders, type Family } from '../family.ts';
import { percent } from '../words.ts';
import type { FireflyCase } from './case.ts';
import { brightEnvironmentPixel } from './causes/bright-environment-pixel.ts';
import { emitterInShell } from './causes/emitter-in-shell.ts';
import { glassCaustic } from './causes/glass-caustic.ts';
import { mirrorCaustic } from './causes/mirror-caustic.ts';
import { smallEmitter } from './causes/small-emitter.ts';
import { unclampedBounce } from './causes/unclamped-bounce.ts';
import { CLAMP_PASSES, enoughOf } from './clamp-curve.ts';
import { cureTheRest, forecastCure } from './cures.ts';
import { curveOf } from './evidence.ts';
import { casesOf } from './find.ts';
import { inPictures } from './in-pictures.ts';
import { byHurt } from './rank.ts';
import { TOLD_KIND, tellClamp } from './remedies/clamp.ts';
import { samplesNeeded } from './remedies/more-samples.ts';
import type { FireflyProposal } from './remedies/proposal.ts';
import { remedies } from './remedies/registry.ts';
import { TRACED } from './ways.ts';

/** Passes that a sentence has room for. */
const PASSES_NAMED = 2;
const WAYS_TOLD = 3;
/** Fewer tell nothing of what was not met; and a share that is less, or may be, is not worth a sentence. */
const ENOUGH_MET = 10;
const UNMET = 0.3;
const BRIGHTEST = ['value', 'path', 'light', 'first', 'second'].map((part) => `brightest.${part}`);

export const fireflies: Family = {
  id: 'fireflies',
  title: 'Fireflies',
  healthy: 'No pixel stands out because of a single sample.',
  render: ofRenders<FireflyCase, FireflyProposal>({
    needs: () => [...FIREFLY_PASSES, 'error.beauty', 'object', ...TRACED, ...BRIGHTEST],
    cases: casesOf,
    causes: [emitterInShell, smallEmitter, glassCaustic, mirrorCaustic, brightEnvironmentPixel, unclampedBounce],
    remedies,
    forecast: forecastCure,
    smallPasses: CLAMP_PASSES,
    further: cureTheRest,
    rank: (_, proposed) => byHurt(proposed),
    tell,
    dials: ({ kind, curve, sheet }) => [
      { pointer: `/clamps/${kind}`, needs: enoughOf(curve).clamp, note: sheet.clamps[kind] === null ? 'off' : null },
    ],
    evidence: (of) => [curveOf(of)],
  }),
  picture: ofPictures(inPictures),
};

/** "7 in specular indirect, 3 in transmission direct, 21 in 4 other passes". */
function byPass(ways: FireflyCase['ways'], all: number): string {
  const counts = new Map<string, number>();
  for (const { pass, pixels } of ways) counts.set(pass, (counts.get(pass) ?? 0) + pixels);
  const sorted = [...counts].sort(([, a], [, b]) => b - a);
  const named = sorted
    .slice(0, PASSES_NAMED)
    .map(([pass, n]) => `${all === 1 ? '' : n === all ? 'all ' : `${n} `}in ${pass.replace('.', ' ')}`);
  const rest = sorted.slice(PASSES_NAMED);
  const others = rest.reduce((sum, [, n]) => sum + n, 0);
  return [
    ...named,
    ...(others
      ? [`${others} in ${rest.length === 1 ? rest[0][0].replace('.', ' ') : `${rest.length} other passes`}`]
      : []),
  ].join(', ');
}

/** What the picture lacks of the same light, where there are enough of them to tell. */
function tellUnmet({ at, input }: FireflyCase): string {
  const unmet = unmetIn(at, input.picture.width);
  if (!unmet || at.length < ENOUGH_MET || unmet.share - 2 * unmet.error < UNMET) return '';
  return ` About ${percent(unmet.share)} (± ${percent(2 * unmet.error)}) of this light falls where the picture has none of it yet: once it is sampled directly, those places get brighter by what was missing.`;
}

function tell(of: FireflyCase) {
  const { at, here, region, ways, kind, own, curve, sheet, energy } = of;
  const [first] = ways;
  const told = ways.slice(0, WAYS_TOLD).map(({ told: way, pixels }) => `${pixels} came by ${way}`);
  const more = ways.length > WAYS_TOLD ? `, the rest in ${ways.length - WAYS_TOLD} other ways` : '';
  const enough = samplesNeeded(here, region, sheet.samples);
  const chosen = enoughOf(curve);
  const held = energy >= 0.005 ? `, holding ${percent(energy)} of the light` : '';
  return {
    sentence: `${at.length === 1 ? 'One firefly' : `${at.length} fireflies`}${held}: ${byPass(ways, at.length)}.`,
    headline: `Light found by chance: ${first.told}`,
    why: `${told.join('; ')}${more}. With samples alone it would take about ${Number(enough.toPrecision(2)).toLocaleString('en')} per pixel; anything less makes each one fainter and finds more of them. A clamp of ${tellClamp(chosen.clamp)} on ${TOLD_KIND[kind]} leaves ${percent(chosen.left)} of the ${own.length} found this way and takes ${percent(chosen.taken)} of the picture’s light.${tellUnmet(of)}`,
  };
}
