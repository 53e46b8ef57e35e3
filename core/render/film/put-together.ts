/**
 * Films of two renders that hold each other out, added into one. Every mean is a sum over the camera's samples, of which each found
 * something in one of the two alone: light, coverage and data add. Errors are those of independent parts. A pixel may have more
 * samples in one than in the other; it counts as having those of the first.
 */
import { BRIGHTEST, LIGHT_PASS_COUNT, MEAN_MATERIAL, MEAN_OBJECT, MEAN_RAYS } from './passes.ts';
import type { Film } from './film.ts';

/**
 * Adds `other` to `film`, in place.
 * @throws RangeError when they are not of the same pixels and layout
 */
export function addFilm(film: Film, other: Film): void {
  const [a, b] = [film, other].map(({ region: r, width }) => [r.x, r.y, r.width, r.height, width].join());
  if (a !== b) throw new RangeError('films that are put together must have the same pixels and passes');
  const { width } = film;
  for (let i = 0; i < film.counts.length; i++) {
    // Of the object and the material that most samples met.
    const own = film.means[i * width + MEAN_OBJECT];
    const its = other.means[i * width + MEAN_OBJECT];
    const ownMaterial = film.means[i * width + MEAN_MATERIAL];
    const itsMaterial = other.means[i * width + MEAN_MATERIAL];
    const n = film.counts[i];
    const m = other.counts[i];
    for (let k = 0; k < width; k++)
      film.means[i * width + k] += other.means[i * width + k] * (k === MEAN_RAYS && n > 0 ? m / n : 1);
    // Squared errors add: moments are those that give their sum at the samples of the first.
    const scale = n > 1 && m > 1 ? (n * (n - 1)) / (m * (m - 1)) : 1;
    for (let p = i * LIGHT_PASS_COUNT; p < (i + 1) * LIGHT_PASS_COUNT; p++) film.moments[p] += other.moments[p] * scale;
    for (let p = i * LIGHT_PASS_COUNT * 3; p < (i + 1) * LIGHT_PASS_COUNT * 3 && film.channelMoments.length; p++)
      film.channelMoments[p] += other.channelMoments[p] * scale;
    film.means[i * width + MEAN_OBJECT] = Math.max(own, its);
    film.means[i * width + MEAN_MATERIAL] = Math.max(ownMaterial, itsMaterial);
    if (its > own) film.ids[i * 2] = other.ids[i * 2];
    if (itsMaterial > ownMaterial) film.ids[i * 2 + 1] = other.ids[i * 2 + 1];
    if (other.brightest[i * BRIGHTEST] > film.brightest[i * BRIGHTEST])
      film.brightest.set(other.brightest.subarray(i * BRIGHTEST, (i + 1) * BRIGHTEST), i * BRIGHTEST);
    film.time[i] += other.time[i];
  }
  film.lines.forEach((share, k) => (film.lines[k] = Math.max(share, other.lines[k])));
}
