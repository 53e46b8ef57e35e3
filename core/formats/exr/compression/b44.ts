/**
 * B44 and B44A: halves in blocks of 4 × 4 as 14 bytes, flat blocks of B44A as 3; other types as they are.
 * Source: the OpenEXR file layout document.
 */
import { HALF_TO_FLOAT, halfOf } from '../../../data/half.ts';
import { BYTES_OF, inLines, runsOf } from '../blocks.ts';
import type { Unpack } from './compression.ts';

/** Shifts from here on mark a flat block. */
const FLAT = 13 << 2;

export const unpackB44: Unpack = ({ bytes, block, channels, size }) => {
  const planar = new Uint8Array(size);
  const view = new DataView(planar.buffer);
  const values = new Uint16Array(16);
  let at = 0;
  let to = 0;
  for (const { channel, nx, ny } of runsOf(channels, block)) {
    const length = nx * ny * BYTES_OF[channel.type];
    if (channel.type !== 'half') {
      if (at + length > bytes.length) throw new RangeError('a channel leads beyond the chunk');
      planar.set(bytes.subarray(at, at + length), to);
      at += length;
      to += length;
      continue;
    }
    for (let y = 0; y < ny; y += 4)
      for (let x = 0; x < nx; x += 4) {
        if (at + 3 > bytes.length) throw new RangeError('a block leads beyond the chunk');
        if (bytes[at + 2] >= FLAT) {
          values.fill(signed((bytes[at] << 8) | bytes[at + 1]));
          at += 3;
        } else {
          if (at + 14 > bytes.length) throw new RangeError('a block leads beyond the chunk');
          unpack14(bytes, at, values);
          at += 14;
        }
        if (channel.isPerceptual) for (let k = 0; k < 16; k++) values[k] = EXPONENTIAL[values[k]];
        for (let j = 0; j < Math.min(4, ny - y); j++)
          for (let i = 0; i < Math.min(4, nx - x); i++)
            view.setUint16(to + ((y + j) * nx + x + i) * 2, values[j * 4 + i], true);
      }
    to += length;
  }
  return inLines(planar, channels, block);
};

/** Bits in an order in which greater halves are greater numbers, back to those of the half. */
const signed = (ordered: number): number => (ordered & 0x8000 ? ordered & 0x7fff : ~ordered & 0xffff);

/** The first value, and differences of 6 bits: down the first column, then across each row. */
function unpack14(b: Uint8Array, at: number, out: Uint16Array): void {
  const shift = b[at + 2] >> 2;
  const bias = 0x20 << shift;
  const six = (k: number): number => {
    // Six bits each from bit 22 of the block on.
    const bit = 22 + k * 6;
    const byte = at + (bit >> 3);
    return (((b[byte] << 8) | (b[byte + 1] ?? 0)) >> (10 - (bit & 7))) & 0x3f;
  };
  out[0] = (b[at] << 8) | b[at + 1];
  let k = 0;
  for (let row = 1; row < 4; row++) out[row * 4] = out[row * 4 - 4] + (six(k++) << shift) - bias;
  for (let column = 1; column < 4; column++)
    for (let row = 0; row < 4; row++) out[row * 4 + column] = out[row * 4 + column - 1] + (six(k++) << shift) - bias;
  for (let i = 0; i < 16; i++) out[i] = signed(out[i]);
}

/** Channels that are kept as eight times their logarithm. */
const EXPONENTIAL = Uint16Array.from(HALF_TO_FLOAT, (value) =>
  Number.isFinite(value) ? (value >= 8 * Math.log(65504) ? 0x7bff : halfOf(Math.exp(value / 8))) : 0,
);
