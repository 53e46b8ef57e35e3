/**
 * Caches of deforming objects that were not written anew: meshes of different frames that are the same to the last bit, while those
 * around them move. A thing that rests has one mesh for all its frames, or meshes that differ in their last digits.
 */
import type { ObjectSpec } from '../../document/schema.ts';
import type { ControlValues } from '../../document/set-values.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, pixelsByObject, regionOf } from '../regions.ts';

export interface StaleCase extends Case {
  kind: 'stale';
  name: string;
  keys: number;
  /** Frames whose mesh is that of the key before them. */
  frames: number[];
  /** None of its meshes differs from another. */
  isWhole: boolean;
  /** Keys left out that hold a mesh of another frame, so that the ones around are blended. */
  values: ControlValues;
}

export function staleCases({ document, picture, assets }: RenderInput): StaleCase[] {
  const seen = pixelsByObject(document, picture);
  return Object.entries(document.objects).flatMap(([id, object]): StaleCase[] => {
    if (object.hidden || object.motion !== 'deforming' || object.keys.length < 2) return [];
    const meshes = object.keys.map(({ mesh }) => mesh ?? object.mesh ?? '');
    const bytes = meshes.map((mesh) => assets.meshes.get(mesh)?.positions);
    if (bytes.some((one) => !one)) return [];
    const stale = meshes.flatMap((mesh, k) => (k > 0 && mesh !== meshes[k - 1] && isSame(bytes[k]!, bytes[k - 1]!) ? [k] : [])); // prettier-ignore
    const isWhole = stale.length === meshes.length - 1;
    // What moves on neither side of a pause may rest; in a cache that moves all the way a pause of one frame is none.
    if (stale.length === 0 || (!isWhole && !stale.every((k) => isBetweenMoves(meshes, bytes as Float32Array[], k)))) return []; // prettier-ignore
    const pixels = seen.get(id);
    if (!pixels) return [];
    const mask = maskOf(picture, pixels);
    return [
      {
        key: `motion.stale-cache ${id}`,
        kind: 'stale',
        severity: 'caution',
        region: regionOf(picture, mask),
        mask,
        passes: ['motion', 'object'],
        objects: [object.name || id],
        name: object.name || id,
        keys: meshes.length,
        frames: stale.map((k) => object.keys[k].frame),
        isWhole,
        values: isWhole ? { [`/objects/${id}/motion`]: restOf(object) } : { [`/objects/${id}/keys`]: object.keys.filter((_, k) => !stale.includes(k)) }, // prettier-ignore
      },
    ];
  });
}

/** What the keys still tell where no mesh changes. */
const restOf = ({ keys }: ObjectSpec): ObjectSpec['motion'] =>
  keys.some(({ transform }) => transform.some((v, i) => v !== keys[0].transform[i])) ? 'transform' : 'static';

/** Whether the cache moves into the key before and out of this one; at its ends it may have come to rest. */
function isBetweenMoves(meshes: string[], bytes: Float32Array[], k: number): boolean {
  const moves = (a: number, b: number) => meshes[a] !== meshes[b] && !isSame(bytes[a], bytes[b]);
  return k >= 2 && k + 1 < meshes.length && moves(k - 2, k - 1) && moves(k, k + 1);
}

const isSame = (a: Float32Array, b: Float32Array): boolean =>
  a === b || (a.length === b.length && a.every((value, i) => value === b[i]));
