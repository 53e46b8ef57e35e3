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
/** Usual step from the first ring of texels around a plateau to the second, over that from the third to the fourth: 1 on a slope, less where it levels out. */
const STEEP = 0.9;
/** Of the range: on a plateau. */
const ON = 1 / 1000;
const RINGS = 4;

/**
 * @param covered a byte a texel that is worn
 * @param map its ends, and the level that is flat by design, which is never cut
 */
export function cutOff(
  heights: Float32Array,
  width: number,
  covered: Uint8Array,
  { least, most, flat }: { least: number; most: number; flat: { value: number } | null },
): CutOff | null {
  const range = most - least;
  for (const end of ['high', 'low'] as const) {
    const value = end === 'high' ? most : least;
    const isLimit = value === 1 || value === 0;
    if (!isLimit || range === 0 || (flat && Math.abs(flat.value - value) <= 0.02 * range)) continue;
    const rings = ringsAround(heights, width, covered, value, ON * range);
    const share = rings.on / rings.worn;
    if (share < LEAST || share > MOST) continue;
    const [near, far] = [1, 3].map((ring) => usualStep(heights, width, rings.ring, ring));
    if (near > 0 && far > 0 && near >= STEEP * far) return { end, share };
  }
  return null;
}

/** Rings of texels around a plateau by number, 0 on it; 255 further out or not worn. */
function ringsAround(heights: Float32Array, width: number, covered: Uint8Array, value: number, within: number) {
  const ring = new Uint8Array(heights.length).fill(255);
  let [on, worn] = [0, 0];
  heights.forEach((height, i) => {
    if (!covered[i]) return;
    worn += 1;
    if (Math.abs(height - value) > within) return;
    ring[i] = 0;
    on += 1;
  });
  for (let k = 1; k <= RINGS; k++)
    for (let i = 0; i < ring.length; i++) {
      if (ring[i] !== 255 || !covered[i]) continue;
      if (neighbours(i, width, ring.length).some((j) => ring[j] === k - 1)) ring[i] = k;
    }
  return { ring, on, worn };
}

/** The median: where rays of a shape run together a few steps are as large as they come. */
function usualStep(heights: Float32Array, width: number, ring: Uint8Array, from: number): number {
  const steps: number[] = [];
  for (let i = 0; i < ring.length; i++) {
    if (ring[i] !== from) continue;
    for (const j of neighbours(i, width, ring.length)) {
      if (ring[j] !== from + 1) continue;
      steps.push(Math.abs(heights[i] - heights[j]));
    }
  }
  return steps.sort((a, b) => a - b)[steps.length >> 1] ?? 0;
}

const neighbours = (i: number, width: number, count: number): number[] =>
  [i % width ? i - 1 : -1, (i + 1) % width ? i + 1 : -1, i - width, i + width].filter((j) => j >= 0 && j < count);
