/**
 * What stands on a texture around its islands: dilated from their borders, and across each seam as the surface goes on there, so
 * that a filter which reads over a border reads the same on both sides.
 *
 * Tried and left: the nearest texel of the island alone. Both sides then read what lies half a texel inside, which differs by a
 * texel of the map's slope.
 */
import type { Texture } from '../data/texture.ts';
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
  dilate(out, covered.slice(), texels);
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

/**
 * Rings of texels around what is painted: each the mean of what its painted neighbours go on to, or, further out, of what they are.
 * @param painted is written to
 */
export function dilate({ width, height, texels }: Texture, painted: Uint8Array, rings: number): void {
  let front: number[] = [];
  for (let i = 0; i < painted.length; i++) if (painted[i] === 1) addBare(i);
  for (let ring = 0; ring < rings && front.length > 0; ring++) {
    const own = front;
    front = [];
    for (const i of own) mean(i, ring < SLOPING);
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

/** A texel that is painted with the next ring. */
const NEXT = 2;

/** Texels beyond the border on one side, from what lies inside the border on the other. */
function across(texture: Texture, covered: Uint8Array, nearest: Float32Array, { here, there, isAlike }: SeamOnTexture, reach: number) {
  const { width, height } = texture;
  const [x0, y0, x1, y1] = here;
  const [ux, uy] = [x1 - x0, y1 - y0];
  const length = Math.hypot(ux, uy);
  const [vx, vy] = [there[2] - there[0], there[3] - there[1]];
  if (length === 0 || Math.hypot(vx, vy) === 0) return;
  const out = [0, 0, 0];
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
      sample(texture, there[0] + along * vx - inward * vy, there[1] + along * vy + inward * vx, out);
      for (let c = 0; c < 3; c++) texture.texels[3 * i + c] = out[c];
    }
} // prettier-ignore

/** Bilinear, by texels from the top left corner. */
export function sample({ width, height, texels }: Texture, x: number, y: number, out: number[]): void {
  const [fx, fy] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
  const [ax, ay] = [x - 0.5 - fx, y - 0.5 - fy];
  const [x0, x1] = [wrapped(fx, width), wrapped(fx + 1, width)];
  const [y0, y1] = [wrapped(fy, height) * width, wrapped(fy + 1, height) * width];
  for (let c = 0; c < 3; c++)
    out[c] =
      (1 - ay) * ((1 - ax) * texels[3 * (y0 + x0) + c] + ax * texels[3 * (y0 + x1) + c]) +
      ay * ((1 - ax) * texels[3 * (y1 + x0) + c] + ax * texels[3 * (y1 + x1) + c]);
}
