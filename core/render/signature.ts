/**
 * A path's kinds of events in order, as one whole number that a 32-bit float can hold: base-5 digits, the first
 * event first, at most ten of them.
 *
 * @example
 * pathOf(extend(extend(0, DIFFUSE), TRANSMISSION));   // 'camera, diffuse, transmission'
 */
const MOST = 5 ** 9;
const NAMES = ['diffuse', 'specular', 'transmission', 'volume'];

export const extend = (signature: number, kind: number): number =>
  signature >= MOST ? signature : signature * 5 + kind + 1;

export function pathOf(signature: number): string {
  const events: string[] = [];
  for (let s = signature; s > 0; s = Math.floor(s / 5)) events.unshift(NAMES[(s % 5) - 1]);
  return ['camera', ...events].join(', ');
}
