/** Colours to a file, in the format that its ending names. */
import { writeFile } from 'node:fs/promises';
import { deflateSync } from 'node:zlib';
import { writeExr } from '../core/formats/exr/write.ts';
import { extensionOf } from '../core/formats/paths.ts';
import { writeHdr } from '../core/formats/hdr.ts';
import { writePfm } from '../core/formats/pfm.ts';
import { writePng } from '../core/formats/png.ts';
import type { Colours } from '../core/picture/compare.ts';
import { viewColour } from '../core/picture/view.ts';
import { BadUse } from './bad-use.ts';

export const WRITABLE = ['exr', 'hdr', 'pfm', 'png'];

/** @throws BadUse when the ending names no format that is written */
export function needWritable(path: string, option: string): void {
  if (!WRITABLE.includes(extensionOf(path)))
    throw new BadUse(`${option} is "${path}"; it must end in .${WRITABLE.join(', .')}.`);
}

/** @param exposure stops; EXR, HDR and PFM are linear, PNG is sRGB */
export async function writePicture(
  path: string,
  picture: Colours,
  exposure: number,
  display: { width: number; height: number },
): Promise<void> {
  await writeFile(path, encoded(extensionOf(path), picture, exposure, display));
}

function encoded(
  kind: string,
  { x, y, width, height, planes }: Colours,
  exposure: number,
  display: { width: number; height: number },
): Uint8Array {
  const gain = 2 ** exposure;
  if (kind === 'png') {
    const rgba = new Uint8ClampedArray(width * height * 4);
    viewColour(planes[0], planes[1], planes[2], { exposure, gamma: 1 }, rgba);
    return writePng(width, height, Uint8Array.from({ length: width * height * 3 }, (_, i) => rgba[Math.floor(i / 3) * 4 + (i % 3)])); // prettier-ignore
  }
  const scaled = planes.map((plane) => Float32Array.from(plane, (v) => v * gain));
  if (kind === 'pfm' || kind === 'hdr') {
    const texels = Float32Array.from({ length: width * height * 3 }, (_, i) => scaled[i % 3][Math.floor(i / 3)]);
    return kind === 'pfm' ? writePfm(width, height, texels) : writeHdr(width, height, texels);
  }
  const channels = new Map(['R', 'G', 'B'].map((name, c) => [name, scaled[c]]));
  return writeExr({ width, height, x, y, channels }, { deflate: (bytes) => deflateSync(bytes), display, type: () => 'half' }); // prettier-ignore
}
