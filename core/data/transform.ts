/**
 * Affine transforms, column-major 4×4 as glTF writes them, in doubles.
 *
 * @example
 * const place = multiply(translation(0, 1, 0), rotationY(90));
 */
export type Transform = number[];

export const identity = (): Transform => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

// prettier-ignore
export const translation = (x: number, y: number, z: number): Transform => [
  1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1,
];

// prettier-ignore
export const scaling = (x: number, y: number, z: number): Transform => [
  x, 0, 0, 0, 0, y, 0, 0, 0, 0, z, 0, 0, 0, 0, 1,
];

/** Rotation about +Y, degrees, counter-clockwise seen from above. */
export function rotationY(degrees: number): Transform {
  const a = (degrees * Math.PI) / 180;
  return [Math.cos(a), 0, -Math.sin(a), 0, 0, 1, 0, 0, Math.sin(a), 0, Math.cos(a), 0, 0, 0, 0, 1];
}

/** Rotation about +X, degrees; positive turns +Y towards +Z. */
export function rotationX(degrees: number): Transform {
  const a = (degrees * Math.PI) / 180;
  return [1, 0, 0, 0, 0, Math.cos(a), Math.sin(a), 0, 0, -Math.sin(a), Math.cos(a), 0, 0, 0, 0, 1];
}

/** Rotation about +Z, degrees; positive turns +X towards +Y. */
export function rotationZ(degrees: number): Transform {
  const a = (degrees * Math.PI) / 180;
  return [Math.cos(a), Math.sin(a), 0, 0, -Math.sin(a), Math.cos(a), 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
}

/** The rotation of a unit quaternion. */
export function rotationOf(x: number, y: number, z: number, w: number): Transform {
  return [
    1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w), 0,
    2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w), 0,
    2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y), 0,
    0, 0, 0, 1,
  ]; // prettier-ignore
}

/** Volume that a unit cube has afterwards; negative when mirrored. */
export const determinant = ([a, b, c, , d, e, f, , g, h, i]: Transform): number =>
  a * (e * i - f * h) - d * (b * i - c * h) + g * (b * f - c * e);

/** a·b: first b, then a. */
export function multiply(a: Transform, b: Transform): Transform {
  const out = new Array<number>(16).fill(0);
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++)
      for (let k = 0; k < 4; k++) out[column * 4 + row] += a[k * 4 + row] * b[column * 4 + k];
  return out;
}

/** Inverse of an affine transform. Throws a RangeError when it flattens space. */
export function invert(m: Transform): Transform {
  const [a, b, c, , d, e, f, , g, h, i, , x, y, z] = m;
  const A = e * i - f * h;
  const B = c * h - b * i;
  const C = b * f - c * e;
  const determinant = a * A + d * B + g * C;
  if (!Number.isFinite(1 / determinant)) throw new RangeError('the transform flattens space and has no inverse');
  const s = 1 / determinant;
  const r = [
    A * s, B * s, C * s, 0,
    (f * g - d * i) * s, (a * i - c * g) * s, (c * d - a * f) * s, 0,
    (d * h - e * g) * s, (b * g - a * h) * s, (a * e - b * d) * s, 0,
    0, 0, 0, 1,
  ]; // prettier-ignore
  r[12] = -(r[0] * x + r[4] * y + r[8] * z);
  r[13] = -(r[1] * x + r[5] * y + r[9] * z);
  r[14] = -(r[2] * x + r[6] * y + r[10] * z);
  return r;
}

/** A frame at `from` that looks along its −Z at `to`, +Y up. */
export function lookAt(from: readonly number[], to: readonly number[]): Transform {
  let [zx, zy, zz] = [from[0] - to[0], from[1] - to[1], from[2] - to[2]];
  const zl = Math.hypot(zx, zy, zz);
  [zx, zy, zz] = [zx / zl, zy / zl, zz / zl];
  let [xx, xz] = [zz, -zx];
  const xl = Math.hypot(xx, xz);
  if (xl < 1e-12) throw new RangeError('cannot look straight up or down with +Y up');
  [xx, xz] = [xx / xl, xz / xl];
  const [yx, yy, yz] = [zy * xz, zz * xx - zx * xz, -zy * xx];
  return [xx, 0, xz, 0, yx, yy, yz, 0, zx, zy, zz, 0, from[0], from[1], from[2], 1];
}

/**
 * The place between two transforms, `w` from 0 (a) to 1 (b): position and scale straight, rotation along the
 * shortest arc. Sheared ones are mixed number by number. Source: Shoemake, "Animating Rotation with
 * Quaternion Curves", 1985.
 */
export function between(a: Transform, b: Transform, w: number): Transform {
  const [p, q] = [decompose(a), decompose(b)];
  if (!p || !q) return a.map((value, i) => value + w * (b[i] - value));
  const dot = p.turn.reduce((sum, c, i) => sum + c * q.turn[i], 0);
  const sign = dot < 0 ? -1 : 1;
  const angle = Math.acos(Math.min(1, Math.abs(dot)));
  const [wa, wb] =
    angle < 1e-6 ? [1 - w, w] : [Math.sin((1 - w) * angle) / Math.sin(angle), Math.sin(w * angle) / Math.sin(angle)];
  const [x, y, z, r] = normalised(p.turn.map((c, i) => wa * c + wb * sign * q.turn[i]));
  const scale = p.scale.map((c, i) => c + w * (q.scale[i] - c));
  const rows = [
    [1 - 2 * (y * y + z * z), 2 * (x * y + r * z), 2 * (x * z - r * y)],
    [2 * (x * y - r * z), 1 - 2 * (x * x + z * z), 2 * (y * z + r * x)],
    [2 * (x * z + r * y), 2 * (y * z - r * x), 1 - 2 * (x * x + y * y)],
  ];
  const columns = rows.flatMap((column, i) => [...column.map((c) => c * scale[i]), 0]);
  return [...columns, ...[12, 13, 14].map((i) => a[i] + w * (b[i] - a[i])), 1];
}

const normalised = (v: number[]): number[] => {
  const length = Math.hypot(...v);
  return v.map((c) => c / length);
};

/** Scale of the axes and rotation as a quaternion (x, y, z, w); null when sheared or flattened. */
function decompose(m: Transform): { scale: number[]; turn: number[] } | null {
  const axes = [m.slice(0, 3), m.slice(4, 7), m.slice(8, 11)];
  const scale = axes.map((v) => Math.hypot(...v));
  if (scale.some((s) => !(s > 0))) return null;
  const [x, y, z] = axes.map((v, i) => v.map((c) => c / scale[i]));
  const dot = (a: number[], b: number[]) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  if ([dot(x, y), dot(y, z), dot(z, x)].some((d) => Math.abs(d) > 1e-6)) return null;
  // A mirrored frame is a rotation with one axis turned round.
  const mirrored = dot([x[1] * y[2] - x[2] * y[1], x[2] * y[0] - x[0] * y[2], x[0] * y[1] - x[1] * y[0]], z) < 0;
  if (mirrored) {
    scale[2] = -scale[2];
    for (let i = 0; i < 3; i++) z[i] = -z[i];
  }
  const trace = x[0] + y[1] + z[2];
  const turn =
    trace > 0
      ? [y[2] - z[1], z[0] - x[2], x[1] - y[0], 1 + trace]
      : x[0] > y[1] && x[0] > z[2]
        ? [1 + x[0] - y[1] - z[2], x[1] + y[0], z[0] + x[2], y[2] - z[1]]
        : y[1] > z[2]
          ? [x[1] + y[0], 1 + y[1] - x[0] - z[2], y[2] + z[1], z[0] - x[2]]
          : [z[0] + x[2], y[2] + z[1], 1 + z[2] - x[0] - y[1], x[1] - y[0]];
  return { scale, turn: normalised(turn) };
}
