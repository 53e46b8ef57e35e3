/** Noise in words: whose it is, and why. */
import type { FigureValue } from '../../contracts/figures.ts';
import type { Remedy } from '../../contracts/finding.ts';
import { channel } from '../../data/picture.ts';
import { frameChangeOf, tellTimes, valueIn } from '../../figures/effect.ts';
import { ESTIMATED, hasErrors } from '../../picture/known-errors.ts';
import { cropPlane, luminancePlane } from '../../picture/measured.ts';
import type { CauseId } from '../catalogue.ts';
import type { Explained, Words } from '../family.ts';
import { lightName } from '../../place/light-name.ts';
import { capital, passName, percent } from '../words.ts';
import { shares } from './attribution.ts';
import type { BrightCase } from './bright-noise.ts';
import type { NoiseCase, OverCase } from './case.ts';
import type { SpareCase } from './spare.ts';

type Told = Partial<Record<CauseId, { headline: string; why: string }>>;

const BY_SAMPLES: Told = {
  'noise.light-samples': { headline: 'too few light samples', why: 'More samples per light would lower most of it: they resolve soft shadows.' },
  'noise.diffuse-samples': { headline: 'too few diffuse samples', why: 'More diffuse samples would lower most of it.' },
  'noise.specular-samples': { headline: 'too few reflection samples', why: 'More reflection samples would lower most of it.' },
  'noise.transmission-samples': { headline: 'what is seen through glass', why: 'More transmission samples would lower most of it.' },
  'noise.volume-samples': { headline: 'too few volume samples', why: 'More volume samples would lower most of it.' },
  'noise.pixel-samples': { headline: 'too few samples per pixel', why: 'No single kind of sample is worth raising alone: for the same noise, more samples per pixel cost no more.' },
}; // prettier-ignore
/** Causes that are proved by leaving them out. */
const PROVED: Partial<Record<string, string>> = {
  'noise.fine-texture': 'texture finer than pixels',
  'noise.sharp-filter': 'a sharp pixel filter',
  'noise.motion-blur': 'motion blur',
  'noise.depth-of-field': 'depth of field',
  'noise.occlusion-samples': 'too few occlusion samples',
};
/** A pixel is at an edge where another object has this share of it. */
const EDGE = 0.02;
/** Share of the noise from which on edges, or one light, are told. */
const MOST = 0.6;
/** Share of the light from which on it is said that clamps hide noise. */
const CLAMPED = 0.01;

export function tell(of: NoiseCase, causes: Explained, remedies: Remedy[]): Words {
  if (of.kind === 'bright') return tellBright(of);
  return of.kind === 'spare' ? tellSpare(of, remedies) : tellOver(of, causes, remedies);
}

function tellOver(of: OverCase, causes: Explained, remedies: Remedy[]): Words {
  const { plans, now, target, input } = of;
  const [worst] = of.shares;
  const { headline, why } = kindOf(of, causes);
  const named = of.shares.slice(1, 3).filter(({ share }) => share >= 0.005);
  const others = named.length ? `${capital(named.map(({ label, share }) => `${passName(label)} has ${percent(share)}`).join(', '))}. ` : ''; // prettier-ignore
  const [first] = remedies;
  const times = (plans.plain(plans.scale).samples / input.sheet.samples).toFixed(1);
  const rays = first?.predicted && first.id !== 'target' ? frameChangeOf(first.predicted, 'rays') : null;
  const cheaper = rays === null ? '' : `, or ${tellTimes(rays)} of the frame’s rays by the first of these`;
  return {
    sentence: `Noise in ${passName(worst.label)}: ${now.toFixed(1)} of 255, target ${target.toFixed(1)}.`,
    headline: `${percent(worst.share)} of the noise here is ${passName(worst.label)}: ${headline}`,
    why: `${others}${why} Four times the samples halve the noise; the target asks for ×${times} everywhere${cheaper}.${clampedBy(of)}${hasErrors(input.picture) ? '' : ` ${ESTIMATED}`}`,
  };
}

/** What kind of noise it is: the dial that would lower most of it, where it stands, and what was proved to be guilty. */
function kindOf(
  { input, region, plans, shares: byPass }: OverCase,
  causes: Explained,
): { headline: string; why: string } {
  const [{ label: pass }] = byPass;
  const { picture, sheet } = input;
  const part = causes.find(({ id }) => Object.hasOwn(BY_SAMPLES, id))?.id as CauseId;
  const own = BY_SAMPLES[part]!;
  const isCamera = part === 'noise.pixel-samples';
  const coverage = cropPlane(picture, channel(picture, 'object.coverage'), region);
  const sigma = cropPlane(picture, channel(picture, 'error.beauty'), region);
  let [all, edges] = [0, 0];
  sigma.forEach((s, i) => {
    const variance = plans.weights[i] * s * s;
    all += variance;
    if (coverage[i] > 0 && coverage[i] < 1 - EDGE) edges += variance;
  });
  const isEdges = isCamera && edges > MOST * all;
  const [light] = shares([...plans.byLight].map((share, row) => ({ label: lightName(input, row), share })));
  const byLight = light && light.share >= MOST ? ` ${percent(light.share)} of it is light of ${light.label}.` : '';
  const words = (id: string) =>
    id === 'noise.sharp-filter' ? `a sharp pixel filter (${sheet.filter.kind})` : PROVED[id]!;
  const proved = causes.filter(({ id }) => PROVED[id]).map(({ id, share }) => ` ${percent(share)} goes with ${words(id)}.`).join(''); // prettier-ignore
  const [main] = causes;
  // What is mirrored or seen through glass has edges of its own, where the object before it has none.
  const isInside = isCamera && !isEdges && /^(specular|transmission)/.test(pass);
  const blurred = part === 'noise.specular-samples' && pass.startsWith('specular');
  const headline = PROVED[main.id]
    ? words(main.id)
    : isEdges
      ? 'edges and fine detail'
      : isInside
        ? 'edges and fine detail in what is mirrored or seen through'
        : blurred
          ? 'blurred reflections'
          : own.headline;
  const atEdges = isEdges ? ' Most of it is at edges: a wider pixel filter softens them too.' : '';
  return { headline, why: `${own.why}${proved}${byLight}${atEdges}` };
}

/** A clamp hides what it takes: more light that is found by chance would be noise again. */
function clampedBy({ input: { picture, sheet }, region }: OverCase): string {
  if (Object.values(sheet.clamps).every((clamp) => clamp === null)) return '';
  const sum = (plane: Float32Array) => cropPlane(picture, plane, region).reduce((all, value) => all + value, 0);
  const [taken, left] = [sum(channel(picture, 'clamped')), sum(luminancePlane(picture, 'beauty'))];
  const share = taken / (taken + left);
  return share >= CLAMPED ? ` Clamps take ${percent(share)} of the light here, and the noise that comes with it.` : '';
}

const tellBright = ({ steps, target, worst }: BrightCase): Words => ({
  sentence: `Noise in bright parts: ${steps.toFixed(1)} of 255, target ${target.toFixed(1)}.`,
  headline: `${percent(worst.share)} of it is ${passName(worst.label)}`,
  why: 'The shadow boost clips everything brighter than a quarter of white, noise included: look with the boost off. Four times the samples halve it.',
});

function tellSpare({ now, target }: SpareCase, [{ predicted }]: Remedy[]): Words {
  const ratio = ({ before, after }: Pick<FigureValue, 'before' | 'after'>) => after! / before!;
  const saved = 1 - ratio(valueIn(predicted!, 'rays')!);
  return {
    sentence: `More samples than needed: noise ${now.toFixed(1)} of 255 at its worst, ${target.toFixed(1)} is good enough.`,
    headline: `${percent(saved)} of the rays can be saved`,
    why: `The noisiest place of the frame would have noise ${valueIn(predicted!, 'noise')!.after!.toFixed(1)} of 255.`,
  };
}
