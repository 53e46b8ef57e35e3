/**
 * Noise of a picture by itself: how much is seen with shadows boosted, which pass carries it, and how many times the samples
 * it would take to be clean. Variance of means falls as 1/N.
 */
import type { FigureValue } from '../../contracts/figures.ts';
import { readNoise, type NoiseReading } from '../../picture/noise-reading.ts';
import {
  noiseOf,
  noiseStep,
  seenVariance,
  seenWeights,
  ZONES,
  type PictureNoise,
  type Zone,
  type ZoneNoise,
} from '../../picture/noise.ts';
import { kindOfPass } from '../../picture/settings-record.ts';
import type { CauseId } from '../catalogue.ts';
import type { Case, Proposal, Reading } from '../family.ts';
import type { PictureInput } from '../picture-input.ts';
import { percent } from '../words.ts';
import { inNumbers } from './plan-in-numbers.ts';

export interface PictureNoiseCase extends Case {
  input: PictureInput;
  reading: NoiseReading;
  noise: PictureNoise;
  /** The zone where most is seen, and how much that is, display steps. */
  worst: Zone | null;
  shown: number;
  /** It is seen more without shadow boost than with it. */
  isBright: boolean;
  /** Variances that are seen, by pass, most first. */
  sources: { pass: string; share: number }[];
}

/** Display steps with shadows boosted: what is hard to see, and what anybody sees. */
const CLEAN = 2;
const SEEN = 5;
/** Share of the picture below which a zone is no matter. */
const SMALL = 0.02;
/** Passes that are told. */
const MOST_PASSES = 6;

const BY_KIND: Record<string, CauseId> = {
  light: 'noise.light-samples',
  diffuse: 'noise.diffuse-samples',
  specular: 'noise.specular-samples',
  transmission: 'noise.transmission-samples',
  volume: 'noise.volume-samples',
};

/** The cause that a pass points to: which samples would lower its noise. */
const causeOf = (pass: string): CauseId => BY_KIND[kindOfPass(pass) ?? ''] ?? 'noise.pixel-samples';
const shareOf = (id: CauseId, { sources }: PictureNoiseCase): number | null => {
  if (sources.length === 0) return id === 'noise.pixel-samples' ? 1 : null;
  return sources.reduce((sum, { pass, share }) => sum + (causeOf(pass) === id ? share : 0), 0) || null;
};

export const inPictures: Reading<PictureInput, PictureNoiseCase> = {
  cases: casesOf,
  causes: [...Object.values(BY_KIND), 'noise.pixel-samples' as const].map((id) => ({
    id,
    share: (of) => shareOf(id, of),
  })),
  remedies: [carrierAlone, everything],
  tell({ shown, worst, isBright, sources, reading }) {
    const look = isBright ? 'without shadow boost' : 'with shadows boosted';
    const [carrier] = sources;
    const told = carrier ? `; ${carrier.pass} carries ${percent(carrier.share)} of it` : '';
    return {
      sentence:
        shown < CLEAN
          ? `Clean: noise ${shown.toFixed(1)} of 255 ${look} is hard to see${told}.`
          : `Noise ${shown.toFixed(1)} of 255 in the ${worst ?? 'picture'} ${look}${told}.`,
      headline: carrier ? `Too few samples in ${carrier.pass}` : 'Too few samples',
      why: `How the noise was read: ${reading.told}.`,
    };
  },
  evidence: ({ sources, noise }) => [
    ...(sources.length > 1
      ? [{ kind: 'shares' as const, title: 'Passes that carry it', bars: [{ label: 'pass', parts: sources.map(({ pass, share }) => ({ label: pass, share })) }] }]
      : []),
    {
      kind: 'table',
      title: 'Noise by tone, of 255',
      columns: ['tone', 'share of the picture', 'shadows boosted', 'as it is'],
      rows: ZONES.map((zone) => [zone, percent(noise.zones[zone].share), +noise.zones[zone].grain.toFixed(2), +noise.zones[zone].plain.toFixed(2)]),
    },
  ], // prettier-ignore
  measured: ({ noise: { all, isEstimated }, reading: { method, told } }) => ({
    sigma: all.sigma,
    typicalSigma: all.typical,
    steps: all.grain,
    isEstimated,
    method,
    how: told,
  }),
};

/** With shadows boosted or as the picture is, whichever shows more. */
const shownIn = ({ grain, plain }: ZoneNoise): number => Math.max(grain, plain);

function casesOf(input: PictureInput): PictureNoiseCase[] {
  const { width, height, luminance, sigma } = input;
  const reading = readNoise(input);
  const noise = noiseOf(luminance, sigma, width, height, reading.model);
  if (!(noise.all.sigma > 0)) return [];
  const { zones } = noise;
  const [worst] = ZONES.filter((zone) => zones[zone].share > SMALL).sort(
    (a, b) => shownIn(zones[b]) - shownIn(zones[a]),
  );
  const told = worst ? zones[worst] : noise.all;
  const shown = shownIn(told);
  const sources = sourcesOf(input);
  return [
    {
      key: 'noise',
      severity: shown >= SEEN ? 'caution' : 'note',
      region: { x: 0, y: 0, width, height },
      mask: null,
      passes: sources.map(({ pass }) => pass),
      input,
      reading,
      noise,
      worst: worst ?? null,
      shown,
      isBright: told.plain > told.grain,
      sources,
    },
  ];
}

function sourcesOf({ passes, luminance, width, height }: PictureInput): { pass: string; share: number }[] {
  const weights = seenWeights(luminance, noiseStep(width, height));
  const found = [...passes].map(([pass, plane]) => ({ pass, seen: seenVariance(plane, weights, null, width, height) })); // prettier-ignore
  const sum = found.reduce((all, { seen }) => all + seen, 0);
  if (!(sum > 0)) return [];
  return found
    .map(({ pass, seen }) => ({ pass, share: seen / sum }))
    .sort((a, b) => b.share - a.share)
    .slice(0, MOST_PASSES);
}

/** More samples of the pass that carries it. The rest stays as it is: what one pass can give is its own share. */
function carrierAlone(of: PictureNoiseCase): Proposal | null {
  const { shown, sources } = of;
  const [carrier] = sources;
  const wanted = (CLEAN / shown) ** 2;
  const rest = carrier ? 1 - carrier.share : 1;
  return shown > CLEAN && carrier && wanted > rest ? plan(of, carrier.share / (wanted - rest), carrier.pass) : null;
}

function everything(of: PictureNoiseCase): Proposal | null {
  return of.shown > CLEAN ? plan(of, (of.shown / CLEAN) ** 2, null) : null;
}

/** In factors; in numbers as well where it is known what the settings were. */
function plan({ shown, input: { renderedWith } }: PictureNoiseCase, factor: number, pass: string | null): Proposal {
  const told = renderedWith && inNumbers(renderedWith, factor, pass);
  const title = `${factor >= 10 ? factor.toFixed(0) : factor.toFixed(1)} × the samples of ${pass === null ? 'everything' : `${pass}, the rest as they are`}`;
  const forecast: FigureValue[] = [
    { id: 'noise', before: shown, after: CLEAN },
    ...(pass === null ? [{ id: 'rays', before: 1, after: factor }] : []),
  ];
  const numbers = { samplesFactor: factor, ...(told ? { samples: told.to } : {}) };
  const note = told?.note ? ` (${told.note})` : '';
  return {
    id: pass === null ? 'everything' : 'carrier',
    title: told ? `${title}: ${told.name} ${told.from} → ${told.to}${note}` : title,
    change: null,
    forecast,
    numbers,
  };
}
