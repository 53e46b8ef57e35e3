/**
 * How a picture is: figures of each channel, and what is wrong with it in sentences.
 *
 * @example
 * const { channels, findings } = healthOf({ width, height, planes, types: new Map() });
 */
import { coloursOf, layersOf, type Layer } from '../formats/layers.ts';

export interface ChannelHealth {
  name: string;
  /** Over finite values; 0 where there are none. */
  min: number;
  max: number;
  mean: number;
  nan: number;
  infinite: number;
  negative: number;
  /** Pixels of the first few values that are no numbers. */
  places: { x: number; y: number }[];
}

export interface PictureHealth {
  channels: ChannelHealth[];
  findings: HealthFinding[];
}

export interface HealthFinding {
  id: 'not-finite' | 'negative' | 'alpha-range' | 'black-pass' | 'passes-do-not-add-up' | 'passes-add-up';
  severity: 'stop' | 'caution' | 'note';
  sentence: string;
  channels: string[];
}

export interface HealthInput {
  width: number;
  height: number;
  planes: Map<string, ArrayLike<number>>;
  /** Number format of each channel, where a step of it counts. */
  types: Map<string, 'half' | 'float' | 'uint'>;
}

const MOST_PLACES = 5;

export function healthOf(input: HealthInput): PictureHealth {
  const channels = [...input.planes].map(([name, plane]) => channelHealth(name, plane, input.width));
  const layers = layersOf(input.planes.keys());
  return { channels, findings: findingsOf(input, channels, layers) };
}

export function channelHealth(name: string, plane: ArrayLike<number>, width: number): ChannelHealth {
  let [min, max, sum, nan, infinite, negative] = [Infinity, -Infinity, 0, 0, 0, 0];
  const places: ChannelHealth['places'] = [];
  for (let i = 0; i < plane.length; i++) {
    const value = plane[i];
    if (value - value !== 0) {
      if (Number.isNaN(value)) nan += 1;
      else infinite += 1;
      if (places.length < MOST_PLACES) places.push({ x: i % width, y: Math.floor(i / width) });
      continue;
    }
    if (value < min) min = value;
    if (value > max) max = value;
    if (value < 0) negative += 1;
    sum += value;
  }
  const finite = plane.length - nan - infinite;
  return { name, min: finite ? min : 0, max: finite ? max : 0, mean: finite ? sum / finite : 0, nan, infinite, negative, places }; // prettier-ignore
}

function findingsOf(input: HealthInput, channels: ChannelHealth[], layers: Layer[]): HealthFinding[] {
  const of = new Map(channels.map((channel) => [channel.name, channel]));
  const findings: HealthFinding[] = [];
  const bad = channels.filter(({ nan, infinite }) => nan + infinite > 0);
  if (bad.length) {
    const [{ name, nan, infinite, places }] = bad;
    findings.push({
      id: 'not-finite',
      severity: 'stop',
      sentence: `${name} has ${nan} values that are no numbers and ${infinite} that are infinite, the first at ${places[0].x}, ${places[0].y}${bad.length > 1 ? `; ${bad.length - 1} further channels have such, too` : ''}.`,
      channels: bad.map((channel) => channel.name),
    });
  }
  const lit = layers.filter(({ role }) => role === 'beauty' || role === 'light' || role === 'light group');
  const below = lit.flatMap((layer) => (coloursOf(layer) ?? []).filter((name) => of.get(name)!.negative > 0));
  if (below.length) {
    const worst = below.map((name) => of.get(name)!).sort((a, b) => a.min - b.min)[0];
    findings.push({
      id: 'negative',
      severity: 'caution',
      sentence: `${below.length} channels of light go below 0, ${worst.name} down to ${worst.min.toPrecision(3)} in ${worst.negative} pixels: filters with negative lobes (Mitchell, Lanczos) do that beside bright edges.`,
      channels: below,
    });
  }
  for (const { role, channels: names } of layers) {
    const alpha = role === 'beauty' ? names.find((name) => /(^|\.)(a|alpha)$/i.test(name)) : undefined;
    const health = alpha && of.get(alpha);
    if (health && (health.min < 0 || health.max > 1.001))
      findings.push({ id: 'alpha-range', severity: 'caution', sentence: `${alpha} runs from ${health.min.toPrecision(3)} to ${health.max.toPrecision(3)}; coverage is from 0 to 1.`, channels: [alpha] }); // prettier-ignore
  }
  for (const layer of lit) {
    const names = coloursOf(layer);
    if (!names || names.some((name) => of.get(name)!.max !== 0 || of.get(name)!.min !== 0)) continue;
    findings.push({ id: 'black-pass', severity: 'note', sentence: `${layer.name || 'The beauty'} is black all over.`, channels: names }); // prettier-ignore
  }
  const sum = sumCheck(input, layers);
  if (sum) findings.push(sum);
  return findings;
}

/** Whether the light passes add up to the beauty, each channel allowed half a step of its number format. */
function sumCheck({ planes, types, width }: HealthInput, layers: Layer[]): HealthFinding | null {
  const beauty = layers.find(({ role }) => role === 'beauty');
  const whole = beauty && coloursOf(beauty);
  const parts = leaves(layers.filter((layer) => layer.role === 'light' && coloursOf(layer)));
  if (!whole || parts.length < 2) return null;
  let off = 0;
  let worst = 0;
  let place = 0;
  const stepOf = (name: string, value: number): number => {
    if (types.get(name) !== 'half') return Math.abs(value) * 2 ** -23;
    return Math.max(2 ** -25, Math.abs(value) * 2 ** -11);
  };
  for (let i = 0; i < planes.get(whole[0])!.length; i++) {
    let isOff = false;
    for (let c = 0; c < 3; c++) {
      const wanted = planes.get(whole[c])![i];
      let sum = 0;
      let allowed = stepOf(whole[c], wanted);
      for (const part of parts) {
        const name = coloursOf(part)![c];
        const value = planes.get(name)![i];
        sum += value;
        allowed += stepOf(name, value);
      }
      const difference = Math.abs(sum - wanted);
      if (!(difference > allowed * 1.01)) continue;
      isOff = true;
      if (difference > worst) [worst, place] = [difference, i];
    }
    off += Number(isOff);
  }
  const names = parts.map(({ name }) => name);
  if (off === 0)
    return { id: 'passes-add-up', severity: 'note', sentence: `${parts.length} light passes add up to the beauty in every pixel.`, channels: names }; // prettier-ignore
  return {
    id: 'passes-do-not-add-up',
    severity: 'caution',
    sentence: `${parts.length} light passes (${names.slice(0, 6).join(', ')}${names.length > 6 ? ' …' : ''}) do not add up to the beauty in ${off} pixels, by up to ${worst.toPrecision(3)} at ${place % width}, ${Math.floor(place / width)}.`,
    channels: names,
  };
}

/** Passes that no other one is a part of: of `diffuse` and `diffuse.direct` the latter. */
const leaves = (layers: Layer[]): Layer[] =>
  layers.filter(({ name }) => !layers.some((other) => other.name.startsWith(`${name}.`) || other.name.startsWith(`${name}_`))); // prettier-ignore
