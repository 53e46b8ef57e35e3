/**
 * PXR24: rows of each channel as differences, their bytes apart, then zlib; floats have 24 bits.
 * Source: the OpenEXR file layout document.
 */
import { runsOf } from '../blocks.ts';
import type { Unpack } from './compression.ts';

const PLANES = { uint: 4, half: 2, float: 3 };

export const unpackPxr24: Unpack = ({ bytes, block, channels, size, inflate }) => {
  const packed = inflate(bytes, size);
  const out = new Uint8Array(size);
  const view = new DataView(out.buffer);
  let at = 0;
  let to = 0;
  const runs = runsOf(channels, block);
  for (let y = block.minY; y <= block.maxY; y++)
    for (const { channel, nx } of runs) {
      if (channel.ySampling > 1 && y % channel.ySampling !== 0) continue;
      const planes = PLANES[channel.type];
      if (at + nx * planes > packed.length) throw new RangeError('a row leads beyond the chunk');
      let pixel = 0;
      for (let x = 0; x < nx; x++) {
        const p = at + x;
        if (planes === 2) {
          pixel = (pixel + ((packed[p] << 8) | packed[p + nx])) & 0xffff;
          view.setUint16(to, pixel, true);
          to += 2;
          continue;
        }
        const low = planes === 4 ? packed[p + 3 * nx] : 0;
        pixel = (pixel + ((packed[p] << 24) | (packed[p + nx] << 16) | (packed[p + 2 * nx] << 8) | low)) | 0;
        view.setInt32(to, pixel, true);
        to += 4;
      }
      at += nx * planes;
    }
  return out;
};
