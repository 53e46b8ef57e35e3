/**
 * Radiance pictures (RGBE, run-length coded or flat) to linear textures. Sources: Ward, "Real Pixels", Graphics
 * Gems II, 1991; the Radiance file formats document.
 */
import { MOST_PIXELS } from '../data/limits.ts';
import type { Texture } from '../data/texture.ts';

/** Widths that the newer coding can have. */
const [NARROWEST, WIDEST] = [8, 0x7fff];

/** @param where the file's name in messages. Throws a RangeError that says what is wrong with the bytes. */
export function readHdrTexture(bytes: Uint8Array, where: string): Texture {
  const head = String.fromCharCode(...bytes.subarray(0, 4000));
  const match = /^#\?[^\n]*\n([\s\S]*?)\n\n?([-+])Y (\d+) ([-+])X (\d+)\n/.exec(head);
  if (!match) throw new RangeError(`${where}: does not begin as a Radiance picture does`);
  const [, fields, down, , across] = match;
  if (/FORMAT=(?!32-bit_rle_rgbe)/.test(fields))
    throw new RangeError(`${where}: is of ${/FORMAT=([^\n]*)/.exec(fields)![1]}; only 32-bit_rle_rgbe is read`);
  if (down !== '-' || across !== '+')
    throw new RangeError(`${where}: its rows run ${down}Y ${across}X; only -Y +X is read`);
  const [width, height] = [Number(match[5]), Number(match[3])];
  if (!(width * height > 0) || width * height > MOST_PIXELS)
    throw new RangeError(`${where}: states ${width} × ${height} pixels, which cannot be`);
  const exposure = [...fields.matchAll(/^EXPOSURE=\s*([-+.\deE]+)/gm)].reduce((e, [, value]) => e * Number(value), 1);
  const texels = new Float32Array(width * height * 3);
  const row = new Uint8Array(width * 4);
  let at = match[0].length;
  for (let y = 0; y < height; y++) {
    at = readRow(bytes, at, row, width);
    if (at < 0) throw new RangeError(`${where}: is cut off or broken in row ${y} of ${height}`);
    for (let x = 0; x < width; x++) {
      const exponent = row[x * 4 + 3];
      const scale = exponent ? 2 ** (exponent - 136) / exposure : 0;
      // Half a step, as Ward's decoder has it.
      for (let c = 0; c < 3; c++) texels[(y * width + x) * 3 + c] = scale && (row[x * 4 + c] + 0.5) * scale;
    }
  }
  return { width, height, texels, alpha: null };
}

/**
 * A picture with rows run-length coded, or flat where they are too narrow or too wide for that.
 * @param texels linear R, G, B, rows from the top; what is below 0 or no number becomes 0
 */
export function writeHdr(width: number, height: number, texels: ArrayLike<number>): Uint8Array {
  const head = new TextEncoder().encode(`#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${height} +X ${width}\n`);
  const out: number[] = [...head];
  const row = new Uint8Array(width * 4);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) putRgbe(row, x * 4, texels, (y * width + x) * 3);
    if (width < NARROWEST || width > WIDEST) {
      for (const byte of row) out.push(byte);
      continue;
    }
    out.push(2, 2, width >> 8, width & 255);
    for (let c = 0; c < 4; c++) putRuns(row, c, width, out);
  }
  return Uint8Array.from(out);
}

/** Mantissas of three values with one exponent, cut down as Ward's coder does. */
function putRgbe(row: Uint8Array, at: number, texels: ArrayLike<number>, from: number): void {
  const value = (c: number) => (texels[from + c] > 0 && Number.isFinite(texels[from + c]) ? texels[from + c] : 0);
  const most = Math.max(value(0), value(1), value(2));
  if (most < 1e-32) {
    row.fill(0, at, at + 4);
    return;
  }
  const exponent = Math.min(127, Math.floor(Math.log2(most)) + 1);
  for (let c = 0; c < 3; c++) row[at + c] = Math.min(255, Math.floor(value(c) * 2 ** (8 - exponent)));
  row[at + 3] = exponent + 128;
}

/** A run is at least so long: shorter ones take more bytes than they save. */
const SHORTEST_RUN = 4;

function putRuns(row: Uint8Array, c: number, width: number, out: number[]): void {
  const at = (x: number) => row[x * 4 + c];
  const runAt = (x: number) => {
    let length = 1;
    while (length < 127 && x + length < width && at(x + length) === at(x)) length++;
    return length;
  };
  for (let x = 0; x < width;) {
    const run = runAt(x);
    if (run >= SHORTEST_RUN) {
      out.push(128 + run, at(x));
      x += run;
      continue;
    }
    let end = x;
    while (end < width && end - x < 128 && runAt(end) < SHORTEST_RUN) end++;
    out.push(end - x);
    for (; x < end; x++) out.push(at(x));
  }
}

/** @returns where the next row begins; −1 when this one is broken */
function readRow(bytes: Uint8Array, from: number, row: Uint8Array, width: number): number {
  let at = from;
  const isNew = width >= NARROWEST && width <= WIDEST && bytes[at] === 2 && bytes[at + 1] === 2 && bytes[at + 2] < 128;
  if (!isNew) return readOldRow(bytes, at, row, width);
  if (((bytes[at + 2] << 8) | bytes[at + 3]) !== width) return -1;
  at += 4;
  for (let c = 0; c < 4; c++)
    for (let x = 0; x < width;) {
      if (at + 1 >= bytes.length) return -1;
      const code = bytes[at++];
      const isRun = code > 128;
      const count = isRun ? code - 128 : code;
      if (count === 0 || x + count > width || (!isRun && at + count > bytes.length)) return -1;
      for (let k = 0; k < count; k++, x++) row[x * 4 + c] = isRun ? bytes[at] : bytes[at + k];
      at += isRun ? 1 : count;
    }
  return at;
}

/** Four bytes per pixel; one of (1, 1, 1, n) repeats the pixel before it n times. */
function readOldRow(bytes: Uint8Array, from: number, row: Uint8Array, width: number): number {
  let at = from;
  let shift = 0;
  for (let x = 0; x < width; at += 4) {
    if (at + 4 > bytes.length) return -1;
    const isRun = bytes[at] === 1 && bytes[at + 1] === 1 && bytes[at + 2] === 1;
    if (!isRun) {
      row.set(bytes.subarray(at, at + 4), x++ * 4);
      shift = 0;
      continue;
    }
    const count = bytes[at + 3] << shift;
    if (x === 0 || x + count > width) return -1;
    for (let k = 0; k < count; k++, x++) row.copyWithin(x * 4, x * 4 - 4, x * 4);
    shift += 8;
  }
  return at;
}
