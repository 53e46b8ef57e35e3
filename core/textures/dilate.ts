/**
 * Rings of texels around what is painted on an image: each the mean of its painted neighbours, or of what they go on to.
 *
 * @example
 * dilate(image, painted, { rings: 8 });
 */
import type { Texture } from '../data/texture.ts';

/** A texel that is painted with the next ring. */
const NEXT = 2;

export interface DilateOptions {
  /** Texels around what is painted. */
  rings: number;
  /** Of those, the first that go on as what is painted rises or falls towards them; none by default. */
  sloping?: number;
}

/**
 * @param painted a byte a texel, 1 where there is something; is written to
 */
export function dilate(
  { width, height, texels }: Texture,
  painted: Uint8Array,
  { rings, sloping = 0 }: DilateOptions,
): void {
  let front: number[] = [];
  for (let i = 0; i < painted.length; i++) if (painted[i] === 1) addBare(i);
  for (let ring = 0; ring < rings && front.length > 0; ring++) {
    const own = front;
    front = [];
    for (const i of own) mean(i, ring < sloping);
    for (const i of own) painted[i] = 1;
    for (const i of own) addBare(i);
  }
  for (const i of front) painted[i] = 0;

  /** Neighbours that nothing is painted on are next, each once. */
  function addBare(i: number) {
    const [x, y] = [i % width, Math.floor(i / width)];
    for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++)
      for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
        const j = ny * width + nx;
        if (painted[j] !== 0) continue;
        painted[j] = NEXT;
        front.push(j);
      }
  }

  function mean(i: number, isSloping: boolean) {
    const [x, y] = [i % width, Math.floor(i / width)];
    let [r, g, b, n] = [0, 0, 0, 0];
    for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++)
      for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
        const j = ny * width + nx;
        if (painted[j] !== 1) continue;
        const [fx, fy] = [2 * nx - x, 2 * ny - y];
        const isInside = fx >= 0 && fy >= 0 && fx < width && fy < height;
        const behind = isSloping && isInside && painted[fy * width + fx] === 1 ? fy * width + fx : j;
        r += 2 * texels[3 * j] - texels[3 * behind];
        g += 2 * texels[3 * j + 1] - texels[3 * behind + 1];
        b += 2 * texels[3 * j + 2] - texels[3 * behind + 2];
        n += 1;
      }
    texels[3 * i] = r / n;
    texels[3 * i + 1] = g / n;
    texels[3 * i + 2] = b / n;
  }
}
