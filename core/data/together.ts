/**
 * Several transforms moved, turned and scaled as one, about their middle.
 *
 * @example
 * const lamps = [left, right].map(({ transform }) => transform);
 * const turned = movedTogether(lamps, { ...NOT_MOVED, rotation: [0, 90, 0] });   // a quarter turn about the vertical between them
 */
import { multiply, rotationX, rotationY, rotationZ, scaling, translation, type Transform } from './transform.ts';
import type { Triple } from './placement.ts';

export interface Together {
  /** Metres in the world. */
  offset: Triple;
  /** Degrees about X, Y and Z of the world, in the order of placements: Z first, then X, then Y. */
  rotation: Triple;
  /** Of sizes and of distances from the middle, above 0. */
  factor: number;
}

export const NOT_MOVED: Together = { offset: [0, 0, 0], rotation: [0, 0, 0], factor: 1 };

/** Mean of where they stand; of none the origin. */
export function middleOf(transforms: readonly Transform[]): Triple {
  const mean: Triple = [0, 0, 0];
  for (const m of transforms) for (let a = 0; a < 3; a++) mean[a] += m[12 + a] / transforms.length;
  return mean;
}

/**
 * @returns a transform for each, in order; what nothing is asked of keeps its bits, and what is only moved keeps those of its axes
 * @throws RangeError when the factor is not above 0
 */
export function movedTogether(transforms: readonly Transform[], { offset, rotation, factor }: Together): Transform[] {
  if (!(factor > 0)) throw new RangeError(`scale by ${factor}: a factor above 0 is expected`);
  const isMoved = offset.some((by) => by !== 0);
  if (factor === 1 && rotation.every((by) => by === 0))
    return transforms.map((m) => (isMoved ? m.map((c, i) => (i > 11 && i < 15 ? c + offset[i - 12] : c)) : [...m]));
  const [x, y, z] = rotation;
  const middle = middleOf(transforms);
  const turned = multiply(rotationY(y), multiply(rotationX(x), rotationZ(z)));
  const away = translation(-middle[0], -middle[1], -middle[2]);
  const back = translation(...(middle.map((c, a) => c + offset[a]) as Triple));
  const whole = multiply(back, multiply(turned, multiply(scaling(factor, factor, factor), away)));
  return transforms.map((m) => multiply(whole, m));
}
