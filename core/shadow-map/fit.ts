/**
 * Settings of depth maps that fit a camera: the least distances that reach everything that is seen, the fewest texels that are no
 * larger than a pixel, the least bias that leaves no surface in its own shadow; and what gives way where all cannot be had.
 */
import { percentile } from '../picture/measured.ts';
import type { PreviewShadowsSpec } from '../document/schema.ts';
import type { Triple } from '../data/placement.ts';
import type { SurfaceWalk } from '../place/surface-walk.ts';
import { filterOf } from './filters/registry.ts';
import { simulate } from './simulate.ts';
import { framesOf, kindOfMaps, texelAt, type MapFrame } from './frames.ts';
import { onWay, type TracedShadows } from './trace.ts';

export interface FittedShadows {
  spec: PreviewShadowsSpec;
  /** Texels in pixels, of the place that 95 of 100 are finer than. */
  texel: number;
  /** No set of maps within reach has texels as small as pixels. */
  givesWay: boolean;
  /** Metres along the camera's axis from which on texels are no larger than pixels, where it gives way; null: nowhere. */
  fineFrom: number | null;
}

/** Texels on a side that are tried; more is more than previews are given. */
const RESOLUTIONS = [512, 1024, 2048, 4096];
const CASCADES = [1, 2, 3, 4];
const BLENDS = [0, 0.25, 0.5, 0.75, 0.9, 1];
const BITS = 24;
/** Room over what is needed, so that nothing lies on the edge. */
const ROOM = 1.02;
/** Places whose texels are looked at while sets are tried. */
const LOOKED_AT = 1500;

/** @returns null where the light shines on nothing that is seen */
export function fitShadows(walk: SurfaceWalk, traced: TracedShadows, from: PreviewShadowsSpec): FittedShadows | null {
  const { isFaced, depth } = traced;
  const faced = [...isFaced.keys()].filter((k) => isFaced[k] === 1);
  if (faced.length === 0) return null;
  const isSun = kindOfMaps(walk.scene, traced.light) === 'sun';
  const reached: PreviewShadowsSpec = {
    ...from,
    depthBits: Math.max(from.depthBits, BITS),
    mapDistance: up(ROOM * faced.reduce((most, k) => Math.max(most, depth[k]), 0)),
  };
  if (!isSun) Object.assign(reached, lampReach(walk, traced, faced, from));
  const looked = faced.filter((_, i) => i % Math.ceil(faced.length / LOOKED_AT) === 0);
  const { spec, texel } = fewestTexels(walk, traced, looked, reached, isSun);
  const whole = isSun ? { ...spec, lightDistance: sunReach(walk, traced, faced, spec) } : spec;
  const frames = framesOf(walk.scene, traced.light, whole);
  const { isWide } = filterOf(whole.filter);
  return {
    spec: withoutLeaks(walk, traced, {
      ...whole,
      // Half a texel's diagonal, and what the filter takes in beyond it.
      slopeBias: up(Math.SQRT1_2 + (isWide ? Math.SQRT2 * (whole.softness + 0.5) : 0)),
      bias: up(2 * frames.reduce((most, frame) => Math.max(most, stepOf(frame, whole)), 0)),
    }),
    texel,
    givesWay: texel > 1,
    fineFrom: texel > 1 ? fineFrom(traced, looked, texelsOf(walk, traced, looked, whole)) : null,
  };
}

/** What 32-bit floats bear, from Annen et al. 2008, section 4.2. */
const SHARPEST = 80;
const CUTS = [0.2, 0.4];
/** Share of what is lit that may leak. */
const LEAKING = 0.002;

/** The same filter made tight, as little as it takes; percentage-closer where it leaks all the same. */
function withoutLeaks(walk: SurfaceWalk, traced: TracedShadows, spec: PreviewShadowsSpec): PreviewShadowsSpec {
  const tries: Partial<PreviewShadowsSpec>[] =
    spec.filter === 'variance'
      ? CUTS.filter((cut) => cut > spec.leakCut).map((leakCut) => ({ leakCut }))
      : [{ exponent: Math.max(spec.exponent, SHARPEST) }];
  if (!filterOf(spec.filter).leaks) return spec;
  for (const change of [{}, ...tries]) {
    const own = { ...spec, ...change };
    const leak = simulate(walk, traced, own).reasons.find(({ id }) => id === 'leak');
    if (!leak || leak.share < LEAKING) return own;
  }
  return { ...spec, filter: 'percentage-closer' };
}

/** Two digits, not less. */
function up(value: number): number {
  if (!(value > 0)) return 0;
  const unit = 10 ** (Math.floor(Math.log10(value)) - 1);
  return +(Math.ceil(value / unit) * unit).toPrecision(2);
}
/** Two digits, not more. */
function down(value: number): number {
  const unit = 10 ** (Math.floor(Math.log10(value)) - 1);
  return +(Math.floor(value / unit) * unit).toPrecision(2);
}

/** Near and far of a lamp's maps: just before the nearest caster, and as far as what it lights. */
function lampReach(walk: SurfaceWalk, traced: TracedShadows, faced: readonly number[], from: PreviewShadowsSpec): Pick<PreviewShadowsSpec, 'near' | 'lightDistance'> {
  const [frame] = framesOf(walk.scene, traced.light, from);
  let [near, far] = [Infinity, 0];
  for (const k of faced) {
    const { point } = traced.places[k].place;
    const metres = Math.hypot(...point.map((c, a) => c - frame.origin[a]));
    far = Math.max(far, metres);
    near = Math.min(near, Math.min(metres, metres - (traced.caster[k] === Infinity ? 0 : traced.caster[k])));
  }
  // An axis of a cube leans up to 55° from what it sees.
  return { near: Math.max(1e-4, down((near / ROOM) * 0.57)), lightDistance: up(ROOM * far) };
} // prettier-ignore

/** Metres that a sun's maps must begin before the middle of their cascade, to hold every caster and every place. */
function sunReach(walk: SurfaceWalk, traced: TracedShadows, faced: readonly number[], spec: PreviewShadowsSpec): number {
  const frames = framesOf(walk.scene, traced.light, { ...spec, lightDistance: 0 });
  const at: Triple = [0, 0, 0];
  let least = 0;
  for (const k of faced) {
    const frame = frames.find(({ to }) => traced.depth[k] <= to);
    if (!frame) continue;
    const beyond = traced.caster[k] === Infinity ? 0 : traced.caster[k];
    onWay(traced, k, beyond, at);
    least = Math.max(least, -at.reduce((sum, c, a) => sum + (c - frame.origin[a]) * frame.ahead[a], 0));
  }
  return up(ROOM * least) || spec.lightDistance;
} // prettier-ignore

function fewestTexels(walk: SurfaceWalk, traced: TracedShadows, looked: readonly number[], reached: PreviewShadowsSpec, isSun: boolean) {
  let best = { spec: reached, texel: Infinity, cost: Infinity };
  for (const resolution of RESOLUTIONS)
    for (const cascades of isSun ? CASCADES : [1])
      for (const splitBlend of cascades === 1 ? [reached.splitBlend] : BLENDS) {
        const spec = { ...reached, resolution, cascades, splitBlend };
        const texel = percentile(texelsOf(walk, traced, looked, spec), 0.95);
        const cost = cascades * resolution ** 2;
        const isBetter = best.texel > 1 ? texel < Math.min(best.texel, Math.max(1, best.texel * 0.98)) : texel <= 1 && cost < best.cost; // prettier-ignore
        if (isBetter) best = { spec, texel, cost };
      }
  return best;
} // prettier-ignore

/** Texels of places, in pixels. */
function texelsOf(walk: SurfaceWalk, traced: TracedShadows, looked: readonly number[], spec: PreviewShadowsSpec): number[] {
  const frames = framesOf(walk.scene, traced.light, spec);
  return looked.map((k) => {
    const { point, pixel } = traced.places[k].place;
    const metresIn = ({ origin, ahead }: MapFrame) => point.reduce((sum, c, a) => sum + (c - origin[a]) * ahead[a], 0);
    const frame = frames[0].isParallel
      ? (frames.find(({ to }) => traced.depth[k] <= to) ?? frames[frames.length - 1])
      : frames.reduce((a, b) => (metresIn(b) > metresIn(a) ? b : a));
    return texelAt(frame, spec.resolution, metresIn(frame)) / pixel;
  });
} // prettier-ignore

function stepOf({ near, far, isParallel }: MapFrame, { depthBits, filter }: PreviewShadowsSpec): number {
  const levels = 2 ** depthBits - 1;
  return isParallel || filterOf(filter).isLinear ? (far - near) / levels : (far * (far - near)) / (near * levels);
}

/** Least distance from which on 95 of 100 places are fine. */
function fineFrom({ depth }: TracedShadows, looked: readonly number[], texels: readonly number[]): number | null {
  const order = looked.map((k, i) => ({ depth: depth[k], isCoarse: texels[i] > 1 })).sort((a, b) => b.depth - a.depth);
  let [coarse, from] = [0, null as number | null];
  for (const [i, one] of order.entries()) {
    if (one.isCoarse) coarse++;
    if (coarse <= 0.05 * (i + 1)) from = one.depth;
  }
  return from;
}
