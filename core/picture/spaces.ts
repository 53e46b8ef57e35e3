/**
 * Spaces that linear values can be in, by their primaries and white, and the way from each to Rec.709, which displays
 * are taken to show. Whites are adapted by Bradford's matrix. Sources: SMPTE RP 177 (matrices from primaries), Lam 1985
 * (Bradford), ITU-R BT.709 and BT.2020, SMPTE RP 431-2 and ST 2065-1, ACES S-2014-004 (AP1).
 *
 * @example
 * const [r, g, b] = times(toRec709(SPACES.acescg.chromaticities), [1, 0.5, 0.2]);
 */

/** x and y of red, green, blue and white, as the EXR attribute has them. */
export type Chromaticities = readonly [number, number, number, number, number, number, number, number];
/** Row-major. */
export type Matrix3 = readonly number[];

const D65 = [0.3127, 0.329] as const;
const ACES_WHITE = [0.32168, 0.33767] as const;

export const SPACES = {
  rec709: { name: 'Rec.709', chromaticities: [0.64, 0.33, 0.3, 0.6, 0.15, 0.06, ...D65] },
  p3: { name: 'P3, D65', chromaticities: [0.68, 0.32, 0.265, 0.69, 0.15, 0.06, ...D65] },
  rec2020: { name: 'Rec.2020', chromaticities: [0.708, 0.292, 0.17, 0.797, 0.131, 0.046, ...D65] },
  acescg: { name: 'ACEScg', chromaticities: [0.713, 0.293, 0.165, 0.83, 0.128, 0.044, ...ACES_WHITE] },
  aces: { name: 'ACES 2065-1', chromaticities: [0.7347, 0.2653, 0, 1, 0.0001, -0.077, ...ACES_WHITE] },
} as const satisfies Record<string, { name: string; chromaticities: Chromaticities }>;
export type SpaceId = keyof typeof SPACES;

/** The space whose primaries these are, to four digits; null for others. */
export function spaceOf(chromaticities: ArrayLike<number>): SpaceId | null {
  const ids = Object.keys(SPACES) as SpaceId[];
  return ids.find((id) => SPACES[id].chromaticities.every((v, i) => Math.abs(v - chromaticities[i]) < 6e-4)) ?? null;
}

export function toRec709(from: Chromaticities): Matrix3 {
  const toXyz = xyzFrom(from);
  const adapted = product(adaptation(whiteOf(from), whiteOf(SPACES.rec709.chromaticities)), toXyz);
  return product(inverse(xyzFrom(SPACES.rec709.chromaticities)), adapted);
}

const BRADFORD: Matrix3 = [0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296];

function adaptation(from: number[], to: number[]): Matrix3 {
  const [a, b] = [times(BRADFORD, from), times(BRADFORD, to)];
  const scale = [b[0] / a[0], 0, 0, 0, b[1] / a[1], 0, 0, 0, b[2] / a[2]];
  return product(inverse(BRADFORD), product(scale, BRADFORD));
}

const whiteOf = (c: Chromaticities) => [c[6] / c[7], 1, (1 - c[6] - c[7]) / c[7]];

function xyzFrom(c: Chromaticities): Matrix3 {
  const columns = [0, 2, 4].map((i) => [c[i] / c[i + 1], 1, (1 - c[i] - c[i + 1]) / c[i + 1]]);
  const primaries = [0, 1, 2].flatMap((row) => columns.map((column) => column[row]));
  const scale = times(inverse(primaries), whiteOf(c));
  return primaries.map((v, i) => v * scale[i % 3]);
}

export const times = (m: Matrix3, v: ArrayLike<number>): number[] =>
  [0, 3, 6].map((row) => m[row] * v[0] + m[row + 1] * v[1] + m[row + 2] * v[2]);

const product = (a: Matrix3, b: Matrix3): Matrix3 =>
  Array.from({ length: 9 }, (_, i) => {
    const [row, column] = [Math.floor(i / 3) * 3, i % 3];
    return a[row] * b[column] + a[row + 1] * b[column + 3] + a[row + 2] * b[column + 6];
  });

function inverse([a, b, c, d, e, f, g, h, i]: Matrix3): Matrix3 {
  const k = 1 / (a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g));
  return [e * i - f * h, c * h - b * i, b * f - c * e, f * g - d * i, a * i - c * g, c * d - a * f, d * h - e * g, b * g - a * h, a * e - b * d].map((v) => v * k); // prettier-ignore
}
