/**
 * Look-ups in images: nearest, bilinear, or from a chain of halved copies (mips) by the width of what is
 * looked at. Source of mips: Williams, "Pyramidal Parametrics", 1983.
 * (0, 0) is the bottom left corner of the image.
 */
import { toInt, type i32 } from '../data/numbers.ts';
import type { Texture } from '../data/texture.ts';

export const REPEAT = 0;
export const CLAMP = 1;
export const MIRROR = 2;

export const NEAREST = 0;
export const BILINEAR = 1;
export const MIP = 2;

/** The image and its halved copies down to one texel, sides rounded up. */
export function mipChain(texture: Texture): Texture[] {
  const chain = [texture];
  for (let t = texture; t.width > 1 || t.height > 1; chain.push(t)) t = halve(t);
  return chain;
}

function halve({ width, height, texels, alpha }: Texture): Texture {
  const w = Math.ceil(width / 2);
  const h = Math.ceil(height / 2);
  const out: Texture = {
    width: w,
    height: h,
    texels: new Float32Array(w * h * 3),
    alpha: alpha && new Float32Array(w * h),
  };
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      for (let dy = 0; dy < 2; dy++)
        for (let dx = 0; dx < 2; dx++) {
          const from = Math.min(height - 1, y * 2 + dy) * width + Math.min(width - 1, x * 2 + dx);
          const to = y * w + x;
          for (let c = 0; c < 3; c++) out.texels[to * 3 + c] += texels[from * 3 + c] / 4;
          if (alpha) out.alpha![to] += alpha[from] / 4;
        }
  return out;
}

/**
 * Writes linear R, G, B and alpha to `out[0..3]`.
 * @param footprint width of what is looked at, in UV units; for mips
 */
export function sampleImage(
  chain: Texture[],
  u: number,
  v: number,
  filter: i32,
  wrap: i32,
  footprint: number,
  out: Float64Array,
): void {
  const [texture] = chain;
  if (filter === NEAREST) {
    nearest(texture, u, v, wrap, out);
    return;
  }
  const widest = Math.max(texture.width, texture.height);
  const level = filter === MIP ? Math.log(Math.max(1, footprint * widest)) / Math.LN2 : 0;
  if (!(level > 0)) {
    bilinear(texture, u, v, wrap, out);
    return;
  }
  const last = chain.length - 1;
  const floor = toInt(Math.floor(level));
  const low = floor < last ? floor : last;
  const high = low < last ? low + 1 : last;
  bilinear(chain[high], u, v, wrap, out);
  const r = out[0];
  const g = out[1];
  const b = out[2];
  const a = out[3];
  bilinear(chain[low], u, v, wrap, out);
  const w = Math.min(1, level - low);
  out[0] += w * (r - out[0]);
  out[1] += w * (g - out[1]);
  out[2] += w * (b - out[2]);
  out[3] += w * (a - out[3]);
}

/** A texel number that lies outside, brought inside. */
function wrapped(i: i32, n: i32, wrap: i32): i32 {
  if (i >= 0 && i < n) return i;
  if (wrap === CLAMP) return i < 0 ? 0 : n - 1;
  if (wrap === REPEAT) return ((i % n) + n) % n;
  const k = ((i % (2 * n)) + 2 * n) % (2 * n);
  return k < n ? k : 2 * n - 1 - k;
}

function nearest(texture: Texture, u: number, v: number, wrap: i32, out: Float64Array): void {
  const { width, height, texels, alpha } = texture;
  const x = wrapped(toInt(Math.floor(u * width)), width, wrap);
  const y = wrapped(toInt(Math.floor((1 - v) * height)), height, wrap);
  const i = y * width + x;
  out[0] = texels[i * 3];
  out[1] = texels[i * 3 + 1];
  out[2] = texels[i * 3 + 2];
  out[3] = alpha === null ? 1 : alpha[i];
}

function bilinear(texture: Texture, u: number, v: number, wrap: i32, out: Float64Array): void {
  const { width, height, texels, alpha } = texture;
  const x = u * width - 0.5;
  const y = (1 - v) * height - 0.5;
  const fx = toInt(Math.floor(x));
  const fy = toInt(Math.floor(y));
  const ax = x - fx;
  const ay = y - fy;
  const x0 = wrapped(fx, width, wrap);
  const x1 = wrapped(fx + 1, width, wrap);
  const y0 = wrapped(fy, height, wrap) * width;
  const y1 = wrapped(fy + 1, height, wrap) * width;
  const wp = (1 - ax) * (1 - ay);
  const wq = ax * (1 - ay);
  const wr = (1 - ax) * ay;
  const ws = ax * ay;
  const p = (y0 + x0) * 3;
  const q = (y0 + x1) * 3;
  const r = (y1 + x0) * 3;
  const s = (y1 + x1) * 3;
  out[0] = texels[p] * wp + texels[q] * wq + texels[r] * wr + texels[s] * ws;
  out[1] = texels[p + 1] * wp + texels[q + 1] * wq + texels[r + 1] * wr + texels[s + 1] * ws;
  out[2] = texels[p + 2] * wp + texels[q + 2] * wq + texels[r + 2] * wr + texels[s + 2] * ws;
  out[3] = alpha === null ? 1 : alpha[y0 + x0] * wp + alpha[y0 + x1] * wq + alpha[y1 + x0] * wr + alpha[y1 + x1] * ws;
}
