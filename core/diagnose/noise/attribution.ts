/** Whose the visible noise is: shares by pass, by light, by dial, by object and by tone, and what each dial costs. */
import type { ShareBar } from '../../contracts/finding.ts';
import { channel, type Region } from '../../data/picture.ts';
import { objectNames } from '../../document/object-names.ts';
import { cropPlane, luminancePlane } from '../../picture/measured.ts';
import type { PlannedKind } from '../../predict/sample-plan.ts';
import { LIGHT_PASSES } from '../../render/film/passes.ts';
import type { RenderInput } from '../family.ts';
import { lightName } from '../../place/light-name.ts';
import { passName } from '../words.ts';
import type { Plans } from './plans.ts';

export interface Share {
  label: string;
  share: number;
}

/** Parts that are told by name; the rest stands together. */
const TOLD = 4;
/** Display tones at which shadows end and highlights begin, without shadow boost: a fifth and two thirds of white. */
const SHADOWS = 0.2 ** 2.2;
const HIGHLIGHTS = 0.66 ** 2.2;

const DIAL: Record<PlannedKind | 'camera', string> = {
  camera: 'samples per pixel',
  light: 'light samples',
  diffuse: 'diffuse samples',
  specular: 'reflection samples',
  transmission: 'transmission samples',
  volume: 'volume samples',
};

/** Parts as shares of their sum, the greatest first. */
export function shares(parts: Share[]): Share[] {
  const all = parts.reduce((sum, { share }) => sum + Math.max(0, share), 0);
  if (!(all > 0)) return [];
  return parts
    .map(({ label, share }) => ({ label, share: Math.max(0, share) / all }))
    .filter(({ share }) => share > 0)
    .sort((a, b) => b.share - a.share);
}

/** Light passes by their share of the weighted variance. Passes covary, so shares are of their sum. */
export function byPass({ picture }: RenderInput, region: Region, weights: ArrayLike<number>): Share[] {
  return shares(
    LIGHT_PASSES.slice(1).map((pass) => {
      const sigma = cropPlane(picture, channel(picture, `error.${pass}`), region);
      return { label: pass, share: sigma.reduce((sum, s, i) => sum + weights[i] * s * s, 0) };
    }),
  );
}

export function barsOf({ input, region, weights, byLight, model }: Plans): ShareBar[] {
  const { scene, document } = input;
  const ofDials = (parts: Record<string, number>) => shares(Object.entries(parts).map(([dial, share]) => ({ label: DIAL[dial as PlannedKind], share }))); // prettier-ignore
  const lights = [...byLight].map((share, row) => ({ label: lightName(input, row), share }));
  const names = objectNames(document);
  const squares = squaresOf(input, region, weights);
  const objects = sumBy(squares, cropPlane(input.picture, channel(input.picture, 'object'), region));
  const y = cropPlane(input.picture, luminancePlane(input.picture, 'beauty'), region);
  const tone = (v: number) => (v < SHADOWS ? 'shadows' : v < HIGHLIGHTS ? 'midtones' : 'highlights');
  const tones = new Map<string, number>();
  squares.forEach((s, i) => tones.set(tone(y[i]), (tones.get(tone(y[i])) ?? 0) + s));
  const bars: ShareBar[] = [
    { label: 'pass', parts: byPass(input, region, weights).map(({ label, share }) => ({ label: passName(label), share })) }, // prettier-ignore
    { label: 'light', parts: scene.lightCount > 0 ? shares(lights) : [] },
    { label: 'dial', parts: ofDials(model.parts) },
    { label: 'object', parts: shares([...objects].map(([id, share]) => ({ label: names[id - 1] ?? 'nothing met', share }))) }, // prettier-ignore
    { label: 'tone', parts: shares([...tones].map(([label, share]) => ({ label, share }))) },
    { label: 'rays', parts: ofDials(model.cost) },
  ];
  return bars.filter(({ parts }) => parts.length > 0).map(({ label, parts }) => ({ label, parts: together(parts) }));
}

/** Squared visible noise of each pixel. */
function squaresOf({ picture }: RenderInput, region: Region, weights: ArrayLike<number>): Float32Array {
  return cropPlane(picture, channel(picture, 'error.beauty'), region).map((s, i) => weights[i] * s * s);
}

function sumBy(values: Float32Array, ids: Float32Array): Map<number, number> {
  const sums = new Map<number, number>();
  values.forEach((v, i) => sums.set(ids[i], (sums.get(ids[i]) ?? 0) + v));
  return sums;
}

function together(parts: Share[]): Share[] {
  if (parts.length <= TOLD + 1) return parts;
  const rest = parts.slice(TOLD).reduce((sum, { share }) => sum + share, 0);
  return [...parts.slice(0, TOLD), { label: `${parts.length - TOLD} others`, share: rest }];
}
