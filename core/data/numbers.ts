/**
 * Kinds of number that WebAssembly tells apart and TypeScript does not, by the names that it has for them. What is compiled
 * for both (see `docs/kernels.md`) says `i32` where a whole number is meant: bits, counts, places in arrays.
 */

/** A whole number of 32 bits. */
export type i32 = number;
/** A double; the same as `number`, for what begins with a whole literal. */
export type f64 = number;

/** The whole number that a double holds, its fraction dropped; between −2³¹ and 2³¹. */
export const toInt = (x: number): i32 => x | 0;

/** The double of 32 bits taken without a sign. */
export const unsigned = (x: i32): number => x >>> 0;
