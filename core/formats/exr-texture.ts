/** The first picture of an EXR file as a linear texture: its beauty, or what colours it has; grey where it has but one channel. What is no number stays: who uses it tells. */
import type { Texture } from '../data/texture.ts';
import { coloursOf, layersOf } from './layers.ts';
import { readExr } from './exr/read.ts';
import { inflate } from './inflate.ts';

/** @param where the file's name in messages. Throws a RangeError that says what is wrong with the bytes. */
export function readExrTexture(bytes: Uint8Array, where: string): Texture {
  const { parts } = readExr(bytes, where, { inflate });
  const part = parts.find(({ planes }) => planes.size > 0);
  if (!part) throw new RangeError(`${where}: holds no flat picture`);
  if (part.missingChunks)
    throw new RangeError(`${where}: is cut short: ${part.missingChunks} chunks are missing or broken`);
  const layers = layersOf(part.planes.keys());
  const lit = layers.find((layer) => layer.role === 'beauty' && coloursOf(layer)) ?? layers.find(coloursOf);
  const names = (lit && coloursOf(lit)) ?? [0, 1, 2].map(() => part.channels[0].name);
  const alphaName = lit?.channels.find((name) => /(^|\.)(a|alpha)$/i.test(name));
  const { width, height } = part;
  const texels = new Float32Array(width * height * 3);
  names.forEach((name, c) => {
    const plane = part.planes.get(name)!;
    for (let i = 0; i < plane.length; i++) texels[i * 3 + c] = plane[i];
  });
  const own = alphaName === undefined ? null : part.planes.get(alphaName)!;
  const alpha = own && Float32Array.from(own, (a) => Math.min(1, Math.max(0, a || 0)));
  return { width, height, texels, alpha: alpha?.every((a) => a === 1) ? null : alpha };
}
