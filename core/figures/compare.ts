/**
 * What a change does, told by its two sides.
 *
 * @example
 * const effect = compareSides({ before, after, mask: null, names: objectNames(document) });
 * changeOf(effect, 'brightness'); // 0.4, stops
 */
import type { Effect, FigureValue } from '../contracts/figures.ts';
import type { Comparison, Figure } from './figure.ts';
import { FIGURES } from './registry.ts';
import { seenIn } from './seen-in.ts';

export interface Compared extends Pick<Comparison, 'before' | 'after' | 'mask' | 'names'> {
  film?: Comparison['film'];
  /** Those that are measured; all by default. */
  figures?: readonly Figure[];
}

/** @returns each figure that both sides tell; those that need a picture are left out where nothing was rendered */
export function compareSides({ film = null, figures = FIGURES, ...sides }: Compared): Effect {
  const { before, after } = sides;
  const seen = before.picture && after.picture ? seenIn(before.picture, after.picture) : { pass: 'beauty', share: 0 };
  const comparison: Comparison = { ...sides, ...seen, film };
  return { figures: figures.flatMap((figure) => valueOf(figure, comparison) ?? []) };
}

function valueOf(figure: Figure, comparison: Comparison): FigureValue | null {
  if ('compare' in figure) {
    const isRendered = comparison.before.picture !== null && comparison.after.picture !== null;
    return isRendered ? { id: figure.id, ...figure.compare(comparison) } : null;
  }
  const [before, after] = [comparison.before, comparison.after].map((side) => figure.measure(side, comparison));
  if (before === null && after === null) return null;
  return { id: figure.id, before, after };
}
