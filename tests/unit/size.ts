/** Checks that gain from more samples run small in `npm test` and whole in `npm run verify`. */
export const atSize = <T>(small: T, whole: T): T => (process.env.DUSTING_VERIFY === 'full' ? whole : small);

/** A small generator with a seed, so that a failing check fails again. Source: mulberry32, public domain. */
export function randomNumbers(seed: number): () => number {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A unit direction, even over the sphere. */
export function randomDirection(random: () => number): [number, number, number] {
  const z = 2 * random() - 1;
  const phi = 2 * Math.PI * random();
  const r = Math.sqrt(1 - z * z);
  return [r * Math.cos(phi), r * Math.sin(phi), z];
}
