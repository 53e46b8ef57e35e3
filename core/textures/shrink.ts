import type { Texture } from '../data/texture.ts';
import { mipChain } from './image.ts';

/** A texture halved so many times, by means of four texels; sides are rounded up. It is never less than one texel. */
export function shrunk(texture: Texture, times: number): Texture {
  const chain = mipChain(texture);
  return {
    ...chain[Math.min(times, chain.length - 1)],
    ...(texture.colourSpace && { colourSpace: texture.colourSpace }),
  };
}
