import type { Triple } from './placement.ts';

/** Unit axes across a unit direction, right-handed with it. Source: Duff et al., "Building an Orthonormal Basis, Revisited", 2017. */
export function axesAcross([x, y, z]: Triple): { right: Triple; up: Triple } {
  const sign = z < 0 ? -1 : 1;
  const a = -1 / (sign + z);
  const b = x * y * a;
  return { right: [1 + sign * x * x * a, sign * b, -sign * x], up: [b, sign + y * y * a, -y] };
}
