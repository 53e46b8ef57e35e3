/**
 * DWAA and DWAB: colours as quantised cosine transforms of 8 × 8 pixels, alpha as runs, everything else as it is.
 * Source: the OpenEXR file layout document and the reference it points to for this compression.
 */
import { halfOf } from '../../../data/half.ts';
import { BYTES_OF, runsOf, type ChannelRun } from '../blocks.ts';
import type { ExrType } from '../header.ts';
import { restored } from './byte-order.ts';
import { needSize, type PackedBlock, type Unpack } from './compression.ts';
import { unpackDct } from './dct.ts';
import { unpackHuffman } from './huffman.ts';
import { unpackRuns } from './rle.ts';

const AS_IS = 0;
const LOSSY = 1;
const RUNS = 2;
const TYPES: ExrType[] = ['uint', 'half', 'float'];

/** What becomes of a channel, by the last part of its name. */
interface Rule {
  suffix: string;
  scheme: number;
  type: ExrType;
  /** Place in red, green and blue; −1: alone. */
  colour: number;
  anyCase: boolean;
}

interface Plan extends ChannelRun {
  scheme: number;
  colour: number;
  /** What its name begins with, to find the other colours of the same layer. */
  layer: string;
  out: Uint8Array;
}

const HEADER = 88;

export const unpackDwa: Unpack = (packed) => {
  const { bytes, channels, block, size } = packed;
  if (bytes.length < HEADER) throw new RangeError('a chunk is cut off');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const number = (k: number): number => {
    const value = view.getBigUint64(k * 8, true);
    if (value > 0xffffffffn) throw new RangeError('a chunk states sizes that cannot be');
    return Number(value);
  };
  const [version, rawBytes, rawPacked, acPacked, dcPacked, runsPacked, runsUnpacked, runsRaw, acCount, dcCount, acHow] = Array.from({ length: 11 }, (_, k) => number(k)); // prettier-ignore
  if (rawBytes > size || runsRaw > size || acCount > size || dcCount > size || runsUnpacked > 2 * size + 64)
    throw new RangeError('a chunk states more than it can hold');
  let at = HEADER;
  let rules = LEGACY;
  if (version >= 2) {
    const read = readRules(bytes, at);
    rules = read.rules;
    at = read.end;
  }
  const take = (count: number): Uint8Array => {
    if (at + count > bytes.length) throw new RangeError('a chunk is cut off');
    at += count;
    // Unpacking may change the bytes it is given.
    return bytes.slice(at - count, at);
  };
  const { inflate } = packed;
  const inflated = (part: Uint8Array, most: number) => (most > 0 ? needSize(inflate(part, most), most) : part);
  const asIs = inflated(take(rawPacked), rawBytes);
  const acBytes = take(acPacked);
  const ac = acHow === 0 ? unpackHuffman(acBytes, acCount) : halves(inflated(acBytes, acCount * 2));
  const dcBytes = take(dcPacked);
  const dc = dcCount > 0 ? halves(restored(inflated(dcBytes, dcCount * 2))) : new Uint16Array(0);
  const runBytes = take(runsPacked);
  const runs = runsRaw > 0 ? unpackRuns(inflated(runBytes, runsUnpacked), runsRaw) : new Uint8Array(0);

  const plans = runsOf(channels, block).map((run): Plan => {
    const dot = run.channel.name.lastIndexOf('.');
    const suffix = run.channel.name.slice(dot + 1);
    const rule = rules.find(
      (one) =>
        one.type === run.channel.type &&
        (one.anyCase ? one.suffix.toLowerCase() === suffix.toLowerCase() : one.suffix === suffix),
    );
    return {
      ...run,
      scheme: rule?.scheme ?? AS_IS,
      colour: rule?.scheme === LOSSY ? rule.colour : -1,
      layer: run.channel.name.slice(0, dot + 1),
      out: new Uint8Array(run.nx * run.ny * BYTES_OF[run.channel.type]),
    };
  });
  lossy(plans, ac, dc);
  let asIsAt = 0;
  let runsAt = 0;
  for (const { scheme, out, channel, nx, ny } of plans) {
    if (scheme === AS_IS) {
      if (asIsAt + out.length > asIs.length) throw new RangeError('a channel leads beyond the chunk');
      out.set(asIs.subarray(asIsAt, asIsAt + out.length));
      asIsAt += out.length;
    } else if (scheme === RUNS) {
      if (runsAt + out.length > runs.length) throw new RangeError('a channel leads beyond the chunk');
      // The first bytes of all pixels, then the second ones.
      const step = BYTES_OF[channel.type];
      const pixels = nx * ny;
      for (let b = 0; b < step; b++) for (let i = 0; i < pixels; i++) out[i * step + b] = runs[runsAt + b * pixels + i];
      runsAt += out.length;
    }
  }
  return inLinesOf(plans, packed);
};

/** Colours of a layer that has all three go through the transform together; other lossy channels alone, after them. */
function lossy(plans: Plan[], ac: Uint16Array, dc: Uint16Array): void {
  const at = { ac: 0, dc: 0 };
  const sets = new Map<string, (Plan | undefined)[]>();
  for (const plan of plans) {
    if (plan.colour < 0) continue;
    const set = sets.get(plan.layer) ?? [undefined, undefined, undefined];
    set[plan.colour] = plan;
    sets.set(plan.layer, set);
  }
  const done = new Set<Plan>();
  for (const set of sets.values()) {
    const [r, g, b] = set;
    if (!r || !g || !b) continue;
    const isOne = [g, b].every(
      ({ channel }) => channel.xSampling === r.channel.xSampling && channel.ySampling === r.channel.ySampling,
    );
    if (!isOne) continue;
    unpackDct([r, g, b].map(component), ac, dc, at);
    for (const plan of [r, g, b]) done.add(plan);
  }
  for (const plan of plans) if (plan.scheme === LOSSY && !done.has(plan)) unpackDct([component(plan)], ac, dc, at);
}

const component = ({ out, nx, ny, channel }: Plan) => ({
  out,
  width: nx,
  height: ny,
  type: channel.type,
  toLinear: channel.isPerceptual ? null : TO_LINEAR,
});

function inLinesOf(plans: Plan[], { block, size }: PackedBlock): Uint8Array {
  const out = new Uint8Array(size);
  const from = new Map(plans.map((plan) => [plan, 0]));
  let to = 0;
  for (let y = block.minY; y <= block.maxY; y++)
    for (const plan of plans) {
      const { channel, nx } = plan;
      if (channel.ySampling > 1 && y % channel.ySampling !== 0) continue;
      const length = nx * BYTES_OF[channel.type];
      const start = from.get(plan)!;
      out.set(plan.out.subarray(start, start + length), to);
      from.set(plan, start + length);
      to += length;
    }
  return out;
}

function readRules(bytes: Uint8Array, at: number): { rules: Rule[]; end: number } {
  const size = bytes[at] | (bytes[at + 1] << 8);
  const end = at + size;
  if (size < 2 || end > bytes.length) throw new RangeError('the rules of a chunk are cut off');
  const rules: Rule[] = [];
  for (let k = at + 2; k < end;) {
    const zero = bytes.subarray(k, end).indexOf(0);
    if (zero < 0 || k + zero + 2 >= end) throw new RangeError('the rules of a chunk are cut off');
    const suffix = new TextDecoder().decode(bytes.subarray(k, k + zero));
    const flags = bytes[k + zero + 1];
    const type = TYPES[bytes[k + zero + 2]];
    if (!type) throw new RangeError('a rule of a chunk names no type');
    rules.push({ suffix, scheme: (flags >> 2) & 3, type, colour: (flags >> 4) - 1, anyCase: (flags & 1) !== 0 });
    k += zero + 3;
  }
  return { rules, end };
}

/** Of files that do not bring their rules along. */
const LEGACY: Rule[] = [
  ...([['r', 0], ['red', 0], ['g', 1], ['grn', 1], ['green', 1], ['b', 2], ['blu', 2], ['blue', 2], ['y', -1], ['by', -1], ['ry', -1]] as const).flatMap(
    ([suffix, colour]) => (['half', 'float'] as const).map((type) => ({ suffix, scheme: LOSSY, type, colour, anyCase: true })),
  ),
  ...TYPES.map((type) => ({ suffix: 'a', scheme: RUNS, type, colour: -1, anyCase: true })),
]; // prettier-ignore

const halves = (bytes: Uint8Array): Uint16Array =>
  new Uint16Array(bytes.byteOffset & 1 ? bytes.slice().buffer : bytes.buffer, bytes.byteOffset & 1 ? 0 : bytes.byteOffset, bytes.length >> 1); // prettier-ignore

/** Halves that stand for themselves to the power 1/2.2, and beyond 1 for their logarithm, back to light. */
const TO_LINEAR = Uint16Array.from({ length: 65536 }, (_, bits) => {
  const exponent = (bits >> 10) & 31;
  if (exponent === 31) return 0;
  const fraction = bits & 1023;
  const value = exponent ? 2 ** (exponent - 15) * (1 + fraction / 1024) : 2 ** -24 * fraction;
  const light = value <= 1 ? value ** 2.2 : Math.exp(2.2 * (value - 1));
  return halfOf(Math.min(65504, light)) | (bits & 0x8000);
});
