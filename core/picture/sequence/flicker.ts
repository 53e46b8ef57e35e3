/**
 * What moves between two frames where nothing moves: grain that is new in every frame boils, grain that stays put does
 * not. Of two pictures with independent noise of deviation σ the difference has the variance 2σ²; where the noise is the
 * same in both, none.
 *
 * @example
 * const { boiling } = flickerOf(frame1, frame2, sigma1, 1920, 1080, null);   // 0 static … 1 new in every frame
 */
import { visibleGrain } from '../../data/grain.ts';

export interface Flicker {
  /** Share of pixels that are taken to stand still, 0–1. */
  still: number;
  /** Root mean square of the change of still pixels, by √2: the deviation of noise that is new in each frame; linear. */
  temporal: number;
  /** The same as a person sees it: steps of 255 with shadows boosted. */
  visible: number;
  /** Variance that is new by variance that is there, 0–1; null where the noise is not known. */
  boiling: number | null;
  /** Stops that still pixels became brighter all together. */
  jump: number;
}

/** Blocks that are judged as one, pixels. */
const BLOCK = 8;
/** A block stands still whose mean changed by no more than so many deviations of a mean of its pixels. */
const DEVIATIONS = 4;
/** Pixels that moved less stand still. */
const MOST_MOTION = 0.1;

/**
 * @param sigma deviation of the noise of a pixel, measured or estimated; null where nobody knows: motion must be given
 * @param motion pixels that what is seen moved, across and down; null: told by blocks whose mean stays
 */
export function flickerOf(
  a: ArrayLike<number>,
  b: ArrayLike<number>,
  sigma: ArrayLike<number> | null,
  width: number,
  height: number,
  motion: { x: ArrayLike<number>; y: ArrayLike<number> } | null,
): Flicker {
  const gain = motion ? 1 : medianRatio(a, b, width, height);
  let [still, squares, seen, expected, sumA, sumB, all] = [0, 0, 0, 0, 0, 0, 0];
  for (let top = 0; top < height; top += BLOCK)
    for (let left = 0; left < width; left += BLOCK) {
      const [bottom, right] = [Math.min(height, top + BLOCK), Math.min(width, left + BLOCK)];
      let [count, change, variance] = [0, 0, 0];
      for (let y = top; y < bottom; y++)
        for (let x = left; x < right; x++) {
          const i = y * width + x;
          const difference = b[i] / gain - a[i];
          if (difference - difference !== 0) continue;
          count += 1;
          change += difference;
          variance += sigma ? sigma[i] ** 2 : difference ** 2 / 2;
        }
      all += (bottom - top) * (right - left);
      // The mean of n differences has the variance 2σ²/n.
      const isStill = count > 0 && Math.abs(change / count) <= DEVIATIONS * Math.sqrt((2 * variance) / count / count);
      if (!motion && !isStill) continue;
      for (let y = top; y < bottom; y++)
        for (let x = left; x < right; x++) {
          const i = y * width + x;
          if (motion && Math.hypot(motion.x[i], motion.y[i]) > MOST_MOTION) continue;
          const difference = b[i] / gain - a[i];
          if (difference - difference !== 0) continue;
          still += 1;
          squares += difference ** 2 / 2;
          seen += visibleGrain(a[i], Math.abs(difference) * Math.SQRT1_2) ** 2;
          expected += sigma ? sigma[i] ** 2 : 0;
          sumA += a[i];
          sumB += b[i];
        }
    }
  return {
    still: all ? still / all : 0,
    temporal: still ? Math.sqrt(squares / still) : 0,
    visible: still ? Math.sqrt(seen / still) : 0,
    boiling: sigma && expected > 0 ? Math.min(1, squares / expected) : null,
    jump: sumA > 0 && sumB > 0 ? Math.log2(sumB / sumA) : 0,
  };
}

/** By how much all became brighter: a change of exposure is no motion. */
function medianRatio(a: ArrayLike<number>, b: ArrayLike<number>, width: number, height: number): number {
  const ratios: number[] = [];
  for (let top = 0; top + BLOCK <= height; top += BLOCK)
    for (let left = 0; left + BLOCK <= width; left += BLOCK) {
      let [p, q] = [0, 0];
      for (let y = top; y < top + BLOCK; y++)
        for (let x = left; x < left + BLOCK; x++) {
          p += a[y * width + x];
          q += b[y * width + x];
        }
      if (p > 0 && q > 0 && Number.isFinite(p + q)) ratios.push(q / p);
    }
  ratios.sort((x, y) => x - y);
  return ratios[ratios.length >> 1] ?? 1;
}

/** Stops from the frames around it from which a frame jumps. */
export const JUMP_STOPS = 0.1;

/** Three frames or more that differ by less than half of a jump, in stops. */
const isSteady = (stops: number[]): boolean =>
  stops.length >= 3 && Math.max(...stops) - Math.min(...stops) <= JUMP_STOPS / 2;

/**
 * Frames whose brightness no two of the frames around them explain, with the stops they are off: a slow rise is no jump,
 * and the neighbours of a jump are none. The first and the last frame have one side only, and are judged where that is steady.
 */
export function jumpsIn(frames: { frame: number; shown: number }[]): { frame: number; stops: number }[] {
  const at = (i: number) => (frames[i]?.shown > 0 ? Math.log2(frames[i].shown) : NaN);
  return frames.flatMap(({ frame }, i) => {
    const between = [(at(i - 1) + at(i + 1)) / 2, (at(i - 2) + at(i + 2)) / 2];
    const onwards = [2 * at(i - 1) - at(i - 2), 2 * at(i + 1) - at(i + 2)];
    const off = [...between, ...onwards]
      .filter((expected) => !Number.isNaN(expected))
      .map((expected) => at(i) - expected);
    // As bright as a frame beside it: that one may jump.
    if ([i - 1, i + 1].some((k) => Math.abs(at(i) - at(k)) < JUMP_STOPS)) return [];
    const isEnd = i === 0 || i === frames.length - 1;
    if (isEnd ? !isSteady(frames.flatMap((_, k) => (k === i ? [] : [at(k)]))) : off.length < 2) return [];
    const stops = off.reduce((least, one) => (Math.abs(one) < Math.abs(least) ? one : least));
    return Math.abs(stops) >= JUMP_STOPS ? [{ frame, stops }] : [];
  });
}
