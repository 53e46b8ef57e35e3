/**
 * Sine and cosine of an angle in turns, for directions drawn from two even numbers. The angle is brought to an eighth of a
 * turn without rounding, so that the results are good to the last digit or the one before.
 *
 * Source of the polynomials: FreeBSD msun, k_sin.c and k_cos.c (Sun Microsystems, 1993, freely granted).
 */
import { toInt } from './numbers.ts';

const EIGHTH = 0.7853981633974483;

/** Writes cosine and sine of `turns`, from 0 to below 1, to `out[0..1]`; without branches, which chance would mislead. */
export function turn(turns: number, out: Float64Array): void {
  const octant = toInt(turns * 8);
  const past = turns * 8 - octant;
  const part = (octant & 1) !== 0 ? 1 - past : past;
  const cos = nearCos(part);
  const sin = nearSin(part);
  const isSteep = ((octant + 1) & 2) !== 0;
  const x = isSteep ? sin : cos;
  const y = isSteep ? cos : sin;
  out[0] = ((octant + 2) & 4) !== 0 ? -x : x;
  out[1] = (octant & 4) !== 0 ? -y : y;
}

/** Of `part` eighths of a turn, 0 to 1. */
function nearSin(part: number): number {
  const x = part * EIGHTH;
  const z = x * x;
  const r =
    8.33333333332248946124e-3 +
    z *
      (-1.98412698298579493134e-4 +
        z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)));
  return x + z * x * (-1.66666666666666324348e-1 + z * r);
}

function nearCos(part: number): number {
  const x = part * EIGHTH;
  const z = x * x;
  const r =
    z *
    (4.16666666666666019037e-2 +
      z *
        (-1.38888888888741095749e-3 +
          z *
            (2.48015872894767294178e-5 +
              z * (-2.75573143513906633035e-7 + z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11)))));
  const half = 0.5 * z;
  const w = 1 - half;
  return w + (1 - w - half + z * r);
}
