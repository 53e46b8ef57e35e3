/** Cosine transforms of 8 × 8 pixels back to halves. */
import { HALF_TO_FLOAT, halfOf } from '../../../data/half.ts';
import type { ExrType } from '../header.ts';

export interface DctComponent {
  /** Rows of `width` values of the type. */
  out: Uint8Array;
  width: number;
  height: number;
  type: ExrType;
  /** What each half stands for; null: itself. */
  toLinear: Uint16Array | null;
}

const END = 0xff00;

/** Where in a block each value of the zigzag stands. Source: ITU-T T.81, figure A.6. */
const ZIGZAG = zigzag();
function zigzag(): Uint8Array {
  const out = new Uint8Array(64);
  let [x, y] = [0, 0];
  let up = true;
  for (let k = 0; k < 64; k++) {
    out[k] = y * 8 + x;
    if (up) {
      if (x === 7) [y, up] = [y + 1, false];
      else if (y === 0) [x, up] = [x + 1, false];
      else [x, y] = [x + 1, y - 1];
    } else if (y === 7) [x, up] = [x + 1, true];
    else if (x === 0) [y, up] = [y + 1, true];
    else [x, y] = [x - 1, y + 1];
  }
  return out;
}

/** Of the transform: value of frequency k at place n. */
const COSINE = Float64Array.from({ length: 64 }, (_, i) => {
  const [n, k] = [i >> 3, i & 7];
  return (k === 0 ? Math.SQRT1_2 : 1) * 0.5 * Math.cos(((2 * n + 1) * k * Math.PI) / 16);
});

/**
 * @param components one, or three that are red, green and blue as luminance and two differences
 * @param at how far `ac` and `dc` were read; moved on
 */
export function unpackDct(
  components: DctComponent[],
  ac: Uint16Array,
  dc: Uint16Array,
  at: { ac: number; dc: number },
): void {
  const { width, height } = components[0];
  const [across, down] = [Math.ceil(width / 8), Math.ceil(height / 8)];
  const blocks = across * down;
  if (at.dc + blocks * components.length > dc.length) throw new RangeError('there are too few blocks in the chunk');
  const data = components.map(() => new Float32Array(64));
  const scratch = new Float32Array(64);
  const views = components.map(({ out }) => new DataView(out.buffer, out.byteOffset, out.byteLength));
  for (let block = 0; block < blocks; block++) {
    components.forEach((_, c) => {
      const values = data[c].fill(0);
      values[0] = HALF_TO_FLOAT[dc[at.dc + c * blocks + block]];
      if (readAc(ac, at, values)) inverse(values, scratch);
      else values.fill(values[0] * 0.125);
    });
    if (components.length === 3) toColours(data[0], data[1], data[2]);
    const [x0, y0] = [(block % across) * 8, Math.floor(block / across) * 8];
    components.forEach(({ type, toLinear }, c) => {
      for (let y = y0; y < Math.min(height, y0 + 8); y++)
        for (let x = x0; x < Math.min(width, x0 + 8); x++) {
          const bits = halfOf(data[c][(y - y0) * 8 + x - x0]);
          const half = toLinear ? toLinear[bits] : bits;
          if (type === 'half') views[c].setUint16((y * width + x) * 2, half, true);
          else views[c].setFloat32((y * width + x) * 4, HALF_TO_FLOAT[half], true);
        }
    });
  }
  at.dc += blocks * components.length;
}

/** Puts the values after the first where they stand. @returns whether any is not 0 */
function readAc(ac: Uint16Array, at: { ac: number }, values: Float32Array): boolean {
  let any = false;
  for (let k = 1; k < 64;) {
    if (at.ac >= ac.length) throw new RangeError('a block is cut off');
    const value = ac[at.ac++];
    if (value === END) return any;
    if (value >> 8 === 0xff) k += value & 0xff;
    else {
      values[ZIGZAG[k++]] = HALF_TO_FLOAT[value];
      any = true;
    }
  }
  return any;
}

function inverse(values: Float32Array, scratch: Float32Array): void {
  for (let row = 0; row < 64; row += 8)
    for (let n = 0; n < 8; n++) {
      let sum = 0;
      for (let k = 0; k < 8; k++) sum += COSINE[n * 8 + k] * values[row + k];
      scratch[row + n] = sum;
    }
  for (let column = 0; column < 8; column++)
    for (let n = 0; n < 8; n++) {
      let sum = 0;
      for (let k = 0; k < 8; k++) sum += COSINE[n * 8 + k] * scratch[k * 8 + column];
      values[n * 8 + column] = sum;
    }
}

/** Source: ITU-R BT.709, luminance and colour differences. */
function toColours(a: Float32Array, b: Float32Array, c: Float32Array): void {
  for (let i = 0; i < 64; i++) {
    const [y, cb, cr] = [a[i], b[i], c[i]];
    a[i] = y + 1.5747 * cr;
    b[i] = y - 0.1873 * cb - 0.4682 * cr;
    c[i] = y + 1.8556 * cb;
  }
}
