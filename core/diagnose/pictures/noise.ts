/**
 * Noise of a picture: how much is seen after the shadow lift, which pass carries it, and how many times the samples
 * it would take to be clean. Variance of means falls as 1/N.
 */
import { readNoise } from '../../picture/noise-reading.ts';
import { noiseOf, seenVariance, ZONES } from '../../picture/noise.ts';
import { inNumbers, type RenderedWith } from './plan-in-numbers.ts';
import type { PictureDiagnosis, PictureFinding, PictureRemedy, PictureToDiagnose } from './picture-diagnosis.ts';

/** Display steps after the lift: what is hard to see, and what anybody sees. */
const CLEAN = 2;
const SEEN = 5;
/** Passes that are told. */
const MOST_PASSES = 6;

export const noise: PictureDiagnosis = {
  family: 'noise',
  examine(picture) {
    const { width, height, luminance, sigma } = picture;
    const { method, model, told: how } = readNoise(picture);
    const { all, zones, isEstimated } = noiseOf(luminance, sigma, width, height, model);
    const sources = sourcesOf(picture);
    const worst = ZONES.filter((zone) => zones[zone].share > 0.02).sort((a, b) => zones[b].grain - zones[a].grain)[0];
    const shown = worst ? zones[worst].grain : all.grain;
    const carrier = sources[0];
    const told = carrier ? `; ${carrier.pass} carries ${Math.round(carrier.share * 100)} % of it` : '';
    const sentence =
      shown < CLEAN
        ? `Clean: noise of ${shown.toFixed(1)} display steps after the lift is hard to see.`
        : `Noise of ${shown.toFixed(1)} display steps in the ${worst ?? 'picture'} after the lift${told}.`;
    const finding: PictureFinding = {
      family: 'noise',
      cause: carrier ? `too few samples in ${carrier.pass}` : 'too few samples',
      severity: shown >= SEEN ? 'caution' : 'note',
      sentence,
      where: {
        region: { x: 0, y: 0, width, height },
        pixels: width * height,
        objects: [],
        passes: sources.map(({ pass }) => pass),
      },
      evidence: {
        sigma: all.sigma,
        typicalSigma: all.typical,
        grain: all.grain,
        zones,
        isEstimated,
        method,
        how,
        sources,
      },
      remedies: shown > CLEAN ? remediesOf(shown, carrier, picture.renderedWith) : [],
    };
    return all.sigma > 0 ? [finding] : [];
  },
};

/** Variances that are seen, by pass, most first. */
function sourcesOf({ passes, luminance, width, height }: PictureToDiagnose): { pass: string; share: number }[] {
  const found = [...passes].map(([pass, plane]) => ({ pass, seen: seenVariance(plane, luminance, null, width, height) })); // prettier-ignore
  const sum = found.reduce((all, { seen }) => all + seen, 0);
  if (!(sum > 0)) return [];
  return found
    .map(({ pass, seen }) => ({ pass, share: seen / sum }))
    .sort((a, b) => b.share - a.share)
    .slice(0, MOST_PASSES);
}

/** In factors; in numbers as well where it is known what the settings were. */
function remediesOf(
  shown: number,
  carrier: { pass: string; share: number } | undefined,
  renderedWith: RenderedWith | null,
): PictureRemedy[] {
  const wanted = (CLEAN / shown) ** 2;
  const remedy = (factor: number, pass: string | null, predicted: Record<string, number>): PictureRemedy => {
    const told = renderedWith && inNumbers(renderedWith, factor, pass);
    const title = `${tell(factor)} × the samples of ${pass === null ? 'everything' : `${pass}, the rest as they are`}`;
    if (!told) return { title, patch: null, predicted: { ...predicted, samplesFactor: factor } };
    const note = told.note ? ` (${told.note})` : '';
    return {
      title: `${title}: ${told.name} ${told.from} → ${told.to}${note}`,
      patch: null,
      predicted: { ...predicted, samplesFactor: factor, samples: told.to },
    };
  };
  const remedies = [remedy(1 / wanted, null, { grain: CLEAN, costFactor: 1 / wanted })];
  // The rest stays as it is: what one pass can give is its own share.
  const rest = carrier ? 1 - carrier.share : 1;
  if (carrier && wanted > rest)
    remedies.unshift(remedy(carrier.share / (wanted - rest), carrier.pass, { grain: CLEAN }));
  return remedies;
}
const tell = (factor: number) => (factor >= 10 ? factor.toFixed(0) : factor.toFixed(1));
