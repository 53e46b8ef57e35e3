/** Most pixels of one picture: 16384 × 8192, the largest environments that studios keep. What states more is refused by its header. */
export const MOST_PIXELS = 2 ** 27;
