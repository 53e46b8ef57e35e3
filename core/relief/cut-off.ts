/**
 * Whether a map's peaks or hollows are cut off: plateaus at an end of what the format holds, to which the relief runs up at full
 * slope. One that was modelled flat is come to gently, or is most of the map.
 */
export interface CutOff {
  end: 'low' | 'high';
  /** Of what is worn. */
  share: number;
}

/** Shares of a plateau that is cut, not modelled. */
const [LEAST, MOST] = [0.02, 0.3];
/** Mean step to a plateau over the mean step elsewhere. */
const STEEP = 0.6;
/** Of the range: on a plateau, and what is a step at all. */
const ON = 1 / 1000;

/** @param covered a byte a texel that is worn. @param flat the level that is flat by design; it is never cut */
export function cutOff(heights: Float32Array, width: number, covered: Uint8Array, { least, most, flat }: { least: number; most: number; flat: { value: number } | null }): CutOff | null {
  const range = most - least;
  for (const end of ['high', 'low'] as const) {
    const value = end === 'high' ? most : least;
    const isLimit = value === 1 || value === 0;
    if (!isLimit || range === 0 || (flat && Math.abs(flat.value - value) <= 0.02 * range)) continue;
    const isOn = (i: number) => Math.abs(heights[i] - value) <= ON * range;
    let [worn, on, to, steps, between, others] = [0, 0, 0, 0, 0, 0];
    for (let i = 0; i < heights.length; i++) {
      if (!covered[i]) continue;
      worn += 1;
      on += Number(isOn(i));
      for (const j of [i + 1, i + width]) {
        if (j >= heights.length || !covered[j] || (j === i + 1 && j % width === 0)) continue;
        const step = Math.abs(heights[i] - heights[j]);
        if (isOn(i) !== isOn(j)) {
          to += step;
          steps += 1;
        } else if (!isOn(i) && step > ON * range) {
          between += step;
          others += 1;
        }
      }
    }
    const share = on / worn;
    // The last step to a plateau that is cut is half of a whole one.
    if (share >= LEAST && share <= MOST && steps > 0 && others > 0 && (2 * to) / steps >= STEEP * (between / others)) return { end, share };
  }
  return null;
} // prettier-ignore
