/** Where a prim stands in its parent. Source: OpenUSD, UsdGeomXformable, "xformOpOrder". */
import {
  identity,
  invert,
  multiply,
  rotationOf,
  rotationX,
  rotationY,
  rotationZ,
  scaling,
  translation,
  type Transform,
} from '../../data/transform.ts';
import { isAnimated, isNumbers, valueOf, wordsOf } from './access.ts';
import type { UsdPrim, UsdValue } from './layer.ts';

type Make = (values: ArrayLike<number>) => Transform;

const AXES: Record<string, (degrees: number) => Transform> = { X: rotationX, Y: rotationY, Z: rotationZ };

/** Turned about the axes in the order of the name: `XYZ` about X first. */
const turned =
  (order: string): Make =>
  (v) =>
    [...order].reduce((m, axis) => multiply(AXES[axis](v['XYZ'.indexOf(axis)]), m), identity());

const OPERATIONS: Record<string, { width: number; make: Make }> = {
  translate: { width: 3, make: (v) => translation(v[0], v[1], v[2]) },
  scale: { width: 3, make: (v) => scaling(v[0], v[1], v[2]) },
  rotateX: { width: 1, make: (v) => rotationX(v[0]) },
  rotateY: { width: 1, make: (v) => rotationY(v[0]) },
  rotateZ: { width: 1, make: (v) => rotationZ(v[0]) },
  ...Object.fromEntries(
    ['XYZ', 'XZY', 'YXZ', 'YZX', 'ZXY', 'ZYX'].map((order) => [`rotate${order}`, { width: 3, make: turned(order) }]),
  ),
  // Real part first.
  orient: { width: 4, make: (v) => rotationOf(v[1], v[2], v[3], v[0]) },
  transform: { width: 16, make: (v) => Array.from(v) },
};

export interface UsdPlace {
  local: Transform;
  /** The parents' transforms do not count. */
  fromRoot: boolean;
  moves: boolean;
  /** What could not be read, as phrases. */
  unknown: string[];
}

export function placeOf(prim: UsdPrim): UsdPlace {
  const place: UsdPlace = { local: identity(), fromRoot: false, moves: false, unknown: [] };
  for (const word of wordsOf(prim, 'xformOpOrder')) {
    if (word === '!resetXformStack!') {
      place.local = identity();
      place.fromRoot = true;
      continue;
    }
    const isInverse = word.startsWith('!invert!');
    const name = isInverse ? word.slice(8) : word;
    const [, kind] = name.split(':');
    const operation = Object.hasOwn(OPERATIONS, kind) ? OPERATIONS[kind] : null;
    const values = operation && asNumbers(valueOf(prim, name));
    if (!operation || !values || values.length < operation.width || !Array.from(values).every(Number.isFinite)) {
      place.unknown.push(`transform operation "${word}"`);
      continue;
    }
    const own = operation.make(values);
    place.local = multiply(place.local, isInverse ? invert(own) : own);
    place.moves ||= isAnimated(prim, name);
  }
  return place;
}

function asNumbers(value: UsdValue | undefined): ArrayLike<number> | null {
  if (typeof value === 'number') return [value];
  return isNumbers(value) ? value.values : null;
}
