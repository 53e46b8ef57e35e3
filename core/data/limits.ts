/** Most pixels of one picture, brought in or rendered: 16384 × 8192, the largest environments that studios keep. What states more is refused before memory is taken. */
export const MOST_PIXELS = 2 ** 27;
