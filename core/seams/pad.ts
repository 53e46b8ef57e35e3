/**
 * What stands on a texture around its islands: dilated from their borders, and across each seam as the surface goes on there, so
 * that a filter which reads over a border reads the same on both sides.
 *
 * Tried and left: the nearest texel of the island alone. Both sides then read what lies half a texel inside, which differs by a
 * texel of the map's slope.
 */
import type { Texture } from '../data/texture.ts';
import { dilate } from '../textures/dilate.ts';
import { BILINEAR, REPEAT, sampleImage } from '../textures/image.ts';
import { seamsOnTexture, coverage, wrapped, type SeamOnTexture } from './islands.ts';
import type { WornShape } from './worn-shapes.ts';

export interface PadOptions {
  shapes: WornShape[];
  /** Texels around islands that are painted. */
  texels: number;
  /** Of those, how many are read across seams; all by default. */
  reach?: number;
  /** A byte a texel that counts as no island, though there is one. */
  unpainted?: Uint8Array;
}

/** What is read across a seam is read from what was painted across it before: it settles quickly. */
const ROUNDS = 3;

/** @returns a new texture; what lies on islands, but for the texels at their borders, is as it was */
export function padded(texture: Texture, { shapes, texels, reach = texels, unpainted }: PadOptions): Texture {
  const { width, height } = texture;
  const out = { ...texture, texels: texture.texels.slice() };
  const covered = wellInside(coverage(shapes, texture), texture);
  if (unpainted) covered.forEach((_, i) => unpainted[i] && (covered[i] = 0));
  dilate(out, covered.slice(), { rings: texels, sloping: SLOPING });
  const seams = seamsOnTexture(shapes);
  for (let round = 0; round < ROUNDS; round++) {
    const nearest = new Float32Array(width * height).fill(Infinity);
    for (const seam of seams) across(out, covered, nearest, seam, reach);
  }
  return out;
}

/** Without the texels at the borders: what was baked there has some of the background in it. */
export function wellInside(covered: Uint8Array, { width, height }: Pick<Texture, 'width' | 'height'>): Uint8Array {
  return covered.map((is, i) => {
    if (!is) return 0;
    const [x, y] = [i % width, Math.floor(i / width)];
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++)
        if (x + dx >= 0 && x + dx < width && y + dy >= 0 && y + dy < height && !covered[i + dy * width + dx]) return 0;
    return 1;
  });
}

/** Rings that go on as what is painted rises or falls towards them; further out that would lead anywhere. */
const SLOPING = 3;

/** Texels beyond the border on one side, from what lies inside the border on the other. */
function across(texture: Texture, covered: Uint8Array, nearest: Float32Array, { here, there, isAlike }: SeamOnTexture, reach: number) {
  const { width, height } = texture;
  const [x0, y0, x1, y1] = here;
  const [ux, uy] = [x1 - x0, y1 - y0];
  const length = Math.hypot(ux, uy);
  const [vx, vy] = [there[2] - there[0], there[3] - there[1]];
  if (length === 0 || Math.hypot(vx, vy) === 0) return;
  const out = new Float64Array(4);
  const own = [texture];
  for (let y = Math.floor(Math.min(y0, y1) - reach); y <= Math.max(y0, y1) + reach; y++)
    for (let x = Math.floor(Math.min(x0, x1) - reach); x <= Math.max(x0, x1) + reach; x++) {
      const i = wrapped(y, height) * width + wrapped(x, width);
      if (covered[i]) continue;
      const [px, py] = [x + 0.5 - x0, y + 0.5 - y0];
      const along = (px * ux + py * uy) / length ** 2;
      const aside = (ux * py - uy * px) / length ** 2;
      const inward = isAlike ? aside : -aside;
      const beyond = Math.max(0, -along, along - 1) * length;
      const distance = Math.hypot(aside * length, beyond);
      if (distance > reach || distance >= nearest[i]) continue;
      nearest[i] = distance;
      // The same way from the other side's border, turned and stretched with it: out on one side is in on the other.
      const [u, v] = [(there[0] + along * vx - inward * vy) / width, 1 - (there[1] + along * vy + inward * vx) / height];
      sampleImage(own, u, v, BILINEAR, REPEAT, 0, out);
      for (let c = 0; c < 3; c++) texture.texels[3 * i + c] = out[c];
    }
} // prettier-ignore
