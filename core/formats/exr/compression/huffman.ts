/**
 * Canonical Huffman codes of 16-bit values with runs, as PIZ and DWA have them: a table of code lengths, six bits
 * each with runs of zeros, then the codes, highest bit first. Source: the OpenEXR file layout document.
 */
const SYMBOLS = 65537;
const LONGEST = 58;
/** Lengths of codes that at most 2³¹ values can have (Fibonacci): what is longer is no table. */
const LONGEST_REAL = 46;
const SHORT_RUN = 59;
const LONG_RUN = 63;
const FAST = 14;

/** A table of codes as it is read, and where the codes are that it is for. */
export interface Codes {
  bytes: Uint8Array;
  /** Of `bytes`, where they begin, and how many bits they have. */
  begin: number;
  bits: number;
  /** Stands before the number of times that the last value comes again. */
  runSymbol: number;
  /** By length: first code, its place among all that are sorted by length, and how many there are. */
  firstCode: Float64Array;
  firstPlace: Float64Array;
  counts: Float64Array;
  sorted: Uint32Array;
  longest: number;
  /** By the next 14 bits: what they stand for and how long it is, 0 where it is longer. */
  fastSymbol: Uint32Array;
  fastLength: Uint8Array;
}

/** @throws RangeError saying what does not fit */
export function readCodes(bytes: Uint8Array): Codes {
  if (bytes.length < 20) throw new RangeError('a table of codes is cut off');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [first, last, bits] = [view.getUint32(0, true), view.getUint32(4, true), view.getUint32(12, true)];
  if (first >= SYMBOLS || last >= SYMBOLS || first > last) throw new RangeError('a table of codes names no values');
  const lengths = new Uint8Array(SYMBOLS);
  const begin = readLengths(bytes, first, last, lengths);
  if (bits > (bytes.length - begin) * 8) throw new RangeError('codes lead beyond the chunk');
  const table = canonical(lengths);
  return { bytes, begin, bits, runSymbol: last, ...table, ...fastTable(table) };
}

/**
 * @param count values that must come out
 * @throws RangeError saying what does not fit
 */
export const unpackHuffman = (bytes: Uint8Array, count: number): Uint16Array =>
  count === 0 ? new Uint16Array(0) : decode(readCodes(bytes), count);

/** @returns where the codes begin */
function readLengths(bytes: Uint8Array, first: number, last: number, lengths: Uint8Array): number {
  let at = 20;
  let held = 0;
  let have = 0;
  const take = (n: number): number => {
    while (have < n) {
      if (at >= bytes.length) throw new RangeError('a table of codes is cut off');
      held = ((held << 8) | bytes[at++]) & 0xffffff;
      have += 8;
    }
    have -= n;
    return (held >> have) & ((1 << n) - 1);
  };
  for (let symbol = first; symbol <= last; symbol++) {
    const length = take(6);
    if (length < SHORT_RUN) {
      lengths[symbol] = length;
      continue;
    }
    const run = length === LONG_RUN ? take(8) + 6 : length - SHORT_RUN + 2;
    if (symbol + run > last + 1) throw new RangeError('a table of codes has too many');
    symbol += run - 1;
  }
  return at;
}

/** What is wrong with codes that cannot be followed, by what the kernel returns, from 1 on. */
export const PROBLEMS = [
  'a code stands for no value',
  'codes end before all values came out',
  'a run of values leads beyond the chunk',
] as const;

/** @throws RangeError saying what does not fit */
export function decode(codes: Codes, count: number): Uint16Array {
  const { bytes, begin, bits, runSymbol, firstCode, firstPlace, counts, sorted, longest, fastSymbol, fastLength } =
    codes;
  const out = new Uint16Array(count);
  const end = begin + ((bits + 7) >> 3);
  let at = begin;
  let held = 0;
  let have = 0;
  let to = 0;
  while (to < count) {
    while (have <= 24) {
      // Past the end there are zeros, which no code that is cut off may live on: the bits are counted below.
      held = (held << 8) | (at < end ? bytes[at] : 0);
      at += 1;
      have += 8;
    }
    const peek = (held >>> (have - FAST)) & 0x3fff;
    let symbol: number;
    const length = fastLength[peek];
    if (length > 0) {
      symbol = fastSymbol[peek];
      have -= length;
    } else {
      // A longer code, bit by bit; longer codes come before shorter ones.
      let code = peek;
      let n = FAST;
      have -= FAST;
      for (;;) {
        if (have === 0) {
          held = at < end ? bytes[at] : 0;
          at += 1;
          have = 8;
        }
        have -= 1;
        code = code * 2 + ((held >>> have) & 1);
        n += 1;
        if (n > longest) throw new RangeError(PROBLEMS[0]);
        if (counts[n] > 0 && code >= firstCode[n] && code < firstCode[n] + counts[n]) break;
      }
      symbol = sorted[firstPlace[n] + code - firstCode[n]];
    }
    if ((at - begin) * 8 - have > bits) throw new RangeError(PROBLEMS[1]);
    if (symbol !== runSymbol) {
      out[to++] = symbol;
      continue;
    }
    if (have < 8) {
      held = (held << 8) | (at < end ? bytes[at] : 0);
      at += 1;
      have += 8;
    }
    have -= 8;
    const run = (held >>> have) & 255;
    if (to === 0 || to + run > count) throw new RangeError(PROBLEMS[2]);
    out.fill(out[to - 1], to, to + run);
    to += run;
  }
  return out;
}

/** Codes of each length follow each other, from the longest, which begin at 0. */
function canonical(lengths: Uint8Array) {
  const counts = new Float64Array(LONGEST + 1);
  let longest = 0;
  for (const length of lengths) {
    counts[length] += 1;
    if (length > longest) longest = length;
  }
  if (longest > LONGEST_REAL) throw new RangeError(`a code of ${longest} bits stands in a table`);
  counts[0] = 0;
  const firstCode = new Float64Array(LONGEST + 1);
  const firstPlace = new Float64Array(LONGEST + 1);
  let code = 0;
  for (let n = LONGEST; n > 0; n--) {
    const next = Math.floor((code + counts[n]) / 2);
    firstCode[n] = code;
    code = next;
  }
  let place = 0;
  for (let n = 1; n <= LONGEST; n++) {
    firstPlace[n] = place;
    place += counts[n];
  }
  const sorted = new Uint32Array(place);
  const next = firstPlace.slice();
  for (let symbol = 0; symbol < lengths.length; symbol++)
    if (lengths[symbol] > 0) sorted[next[lengths[symbol]]++] = symbol;
  return { firstCode, firstPlace, counts, sorted, longest };
}

/** What the next bits stand for, where they begin with a short code. */
function fastTable({ firstCode, firstPlace, counts, sorted, longest }: ReturnType<typeof canonical>) {
  const fastSymbol = new Uint32Array(1 << FAST);
  const fastLength = new Uint8Array(1 << FAST);
  for (let n = 1; n <= Math.min(FAST, longest); n++)
    for (let k = 0; k < counts[n]; k++) {
      const from = (firstCode[n] + k) * 2 ** (FAST - n);
      const to = from + 2 ** (FAST - n);
      if (to > 1 << FAST) throw new RangeError('a table of codes has more than there can be');
      fastSymbol.fill(sorted[firstPlace[n] + k], from, to);
      fastLength.fill(n, from, to);
    }
  return { fastSymbol, fastLength };
}
