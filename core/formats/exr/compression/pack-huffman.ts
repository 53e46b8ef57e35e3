/** Canonical Huffman codes of 16-bit values with runs, as `huffman.ts` reads them. */
const SHORT_RUN = 59;
const LONG_RUN = 63;
const LONGEST_ZEROS = 255 + 6;

export function packHuffman(values: Uint16Array): Uint8Array {
  if (values.length === 0) return new Uint8Array(0);
  const counts = new Float64Array(65537);
  for (const value of values) counts[value] += 1;
  const first = counts.findIndex((count) => count > 0);
  // The value after the last one stands for a run of the one before it.
  const run = counts.findLastIndex((count) => count > 0) + 1;
  counts[run] = 1;
  const lengths = codeLengths(counts);
  const codes = codesOf(lengths);
  const table = new Bits();
  for (let symbol = first; symbol <= run; symbol++) {
    let zeros = 0;
    while (symbol + zeros <= run && lengths[symbol + zeros] === 0 && zeros < LONGEST_ZEROS) zeros += 1;
    if (zeros >= 6) {
      table.put(LONG_RUN, 6);
      table.put(zeros - 6, 8);
    } else if (zeros >= 2) table.put(SHORT_RUN + zeros - 2, 6);
    else table.put(lengths[symbol], 6);
    if (zeros >= 2) symbol += zeros - 1;
  }
  const tableBytes = table.bytes();
  const data = new Bits();
  const put = (symbol: number) => data.put(codes[symbol], lengths[symbol]);
  for (let i = 0; i < values.length;) {
    const value = values[i];
    let more = 0;
    while (i + 1 + more < values.length && values[i + 1 + more] === value && more < 255) more += 1;
    put(value);
    if (lengths[run] + 8 < lengths[value] * more) {
      put(run);
      data.put(more, 8);
    } else for (let k = 0; k < more; k++) put(value);
    i += 1 + more;
  }
  const dataBytes = data.bytes();
  const out = new Uint8Array(20 + tableBytes.length + dataBytes.length);
  const view = new DataView(out.buffer);
  [first, run, tableBytes.length, data.count, 0].forEach((figure, i) => view.setUint32(i * 4, figure, true));
  out.set(tableBytes, 20);
  out.set(dataBytes, 20 + tableBytes.length);
  return out;
}

/** Lengths of an optimal code (Huffman 1952): the two rarest become one, by two queues over sorted counts. */
function codeLengths(counts: Float64Array): Uint8Array {
  const symbols: number[] = [];
  for (let symbol = 0; symbol < counts.length; symbol++) if (counts[symbol] > 0) symbols.push(symbol);
  symbols.sort((a, b) => counts[a] - counts[b]);
  const n = symbols.length;
  const weight = new Float64Array(2 * n - 1);
  const parent = new Int32Array(2 * n - 1);
  symbols.forEach((symbol, i) => (weight[i] = counts[symbol]));
  let leaf = 0;
  let inner = n;
  const rarest = (made: number): number => (leaf < n && (inner >= made || weight[leaf] <= weight[inner]) ? leaf++ : inner++); // prettier-ignore
  for (let made = n; made < 2 * n - 1; made++) {
    const [a, b] = [rarest(made), rarest(made)];
    weight[made] = weight[a] + weight[b];
    parent[a] = parent[b] = made;
  }
  const depth = new Uint8Array(2 * n - 1);
  for (let i = 2 * n - 3; i >= 0; i--) depth[i] = depth[parent[i]] + 1;
  const lengths = new Uint8Array(counts.length);
  symbols.forEach((symbol, i) => (lengths[symbol] = depth[i]));
  return lengths;
}

/** Codes of each length follow each other, from the longest, which begin at 0. */
function codesOf(lengths: Uint8Array): Float64Array {
  const counts = new Float64Array(60);
  for (const length of lengths) if (length > 0) counts[length] += 1;
  const next = new Float64Array(60);
  let code = 0;
  for (let n = 58; n > 0; n--) {
    next[n] = code;
    code = Math.floor((code + counts[n]) / 2);
  }
  // A loop: `from` with a function goes through an iterator, and was the slowest part of packing.
  const codes = new Float64Array(lengths.length);
  for (let symbol = 0; symbol < lengths.length; symbol++)
    if (lengths[symbol] > 0) codes[symbol] = next[lengths[symbol]]++;
  return codes;
}

/** Bits, the highest first. */
class Bits {
  count = 0;
  private held = 0;
  private have = 0;
  private readonly out: number[] = [];

  put(value: number, length: number): void {
    this.count += length;
    // In pieces that fit beside what is held.
    for (let left = length; left > 0;) {
      const n = Math.min(left, 16);
      const piece = Math.floor(value / 2 ** (left - n)) & ((1 << n) - 1);
      this.held = ((this.held << n) | piece) >>> 0;
      this.have += n;
      left -= n;
      while (this.have >= 8) {
        this.have -= 8;
        this.out.push((this.held >>> this.have) & 255);
      }
      this.held &= (1 << this.have) - 1;
    }
  }

  bytes(): Uint8Array {
    const rest = this.have ? 1 : 0;
    const out = new Uint8Array(this.out.length + rest);
    out.set(this.out);
    if (rest) out[out.length - 1] = this.held << (8 - this.have);
    return out;
  }
}
