/**
 * Seeds that never meet: a prediction must not know the random numbers of the trial that proves it.
 * Sheets usually hold small seeds; pilots and trials take odd and even numbers of the upper half.
 */
const UPPER_HALF = 2 ** 31;

/** @param n a number of its own for each pilot, below 2^30 */
export const pilotSeed = (n: number): number => UPPER_HALF + 2 * n + 1;
/** @param n a number of its own for each trial, below 2^30 */
export const trialSeed = (n: number): number => UPPER_HALF + 2 * n;
