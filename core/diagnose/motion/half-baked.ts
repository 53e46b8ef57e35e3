/**
 * Transforms that were baked in half-way: the scale of one of several like objects has gone into its vertices, and its maps, which
 * are placed by the object's space, were left. What they paint is finer or coarser on it than on its siblings.
 */
import type { Mesh } from '../../data/mesh.ts';
import { determinant, multiply, scaling, translation, type Transform } from '../../data/transform.ts';
import { MAP_SLOTS } from '../../document/check-references.ts';
import type { AnyMapSpec, MapSpec, ShotDocument } from '../../document/schema.ts';
import type { ControlValues } from '../../document/set-values.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, pixelsByObject, regionOf } from '../regions.ts';

export interface BakedCase extends Case {
  kind: 'baked';
  name: string;
  /** What has the same shape, and its scale in its transform. */
  sibling: string;
  maps: string[];
  /** Scale of the sibling's transform, and of the vertices here against the sibling's. */
  scale: number;
  baked: number;
  /** Size of the pattern here over its size on the sibling, world space. */
  jump: number;
  /** The sibling's mesh, with the scale back in the transform: what is seen stands where it stood. */
  values: ControlValues;
}

/** Pixels of an object that is seen. */
const SEEN = 40;
/** Factor on a scale below which no one sees the pattern jump, and by which what was baked may differ from the siblings' scale. */
const JUMP = 1.25;
const LIKE = 1.5;
/** Off the sibling's shape, over its size. */
const SAME = 1e-3;

export function bakedCases(input: RenderInput): BakedCase[] {
  const { document, picture, assets } = input;
  const pixels = pixelsByObject(document, picture);
  const out: BakedCase[] = [];
  for (const [material, maps] of patterned(document)) {
    const worn = Object.keys(document.objects).filter((id) => document.objects[id].material === material && document.objects[id].mesh !== null); // prettier-ignore
    for (const id of worn) {
      const object = document.objects[id];
      const own = pixels.get(id) ?? [];
      // A cache has meshes of its own, which the sibling's scale does not fit.
      const isCache = object.keys.some(({ mesh }) => mesh !== null);
      if (isCache || own.length < SEEN || far(scaleOf(object.transform), 1, 1 + 1e-3)) continue;
      for (const other of worn) {
        const sibling = document.objects[other];
        const scale = scaleOf(sibling.transform);
        const [mesh, its] = [assets.meshes.get(object.mesh!), assets.meshes.get(sibling.mesh!)];
        if (!far(scale, 1, JUMP) || !mesh || !its || mesh === its) continue;
        const fit = sameShape(mesh, its);
        if (!fit || !far(fit.factor, 1, JUMP) || far(fit.factor, scale, LIKE)) continue;
        const mask = maskOf(picture, own);
        const nameOf = (key: string) => document.objects[key].name || key;
        const back = (transform: Transform) => multiply(transform, multiply(translation(...fit.offset), scaling(fit.factor, fit.factor, fit.factor))); // prettier-ignore
        out.push({
          key: `motion.half-baked ${id}`,
          kind: 'baked',
          severity: 'caution',
          region: regionOf(picture, mask),
          mask,
          passes: ['albedo', 'beauty'],
          objects: [nameOf(id)],
          name: nameOf(id),
          sibling: nameOf(other),
          maps,
          scale,
          baked: fit.factor,
          jump: 1 / scale,
          values: {
            [`/objects/${id}/mesh`]: sibling.mesh,
            [`/objects/${id}/transform`]: back(object.transform),
            ...(object.keys.length > 0 && { [`/objects/${id}/keys`]: object.keys.map((key) => ({ ...key, transform: back(key.transform) })) }), // prettier-ignore
          },
        });
        break;
      }
    }
  }
  return out;
}

/** Materials with maps that are placed by the object's space, and the names of those. */
const patterned = ({ materials, maps }: ShotDocument): [string, string[]][] =>
  Object.entries(materials).flatMap(([material, spec]): [string, string[]][] => {
    const own = MAP_SLOTS.flatMap((slot) => {
      const id = spec[slot];
      const map = id === null ? null : maps[id];
      return map && isOfObject(map) ? [map.name || id!] : [];
    });
    return own.length ? [[material, [...new Set(own)]]] : [];
  });

const isOfObject = (map: AnyMapSpec): map is MapSpec =>
  map.kind === 'noise-object' || map.kind === 'waves' || (map.kind === 'gradient' && 'xyz'.includes(map.axis));

const scaleOf = (transform: Transform): number => Math.cbrt(Math.abs(determinant(transform)));
/** Whether two scales differ by more than a factor. */
const far = (a: number, b: number, factor: number): boolean => Math.abs(Math.log(a / b)) > Math.log(factor);

/** @returns how much larger a mesh is than another of the same shape, and what is added once that is scaled; null: it is another shape */
function sameShape(mesh: Mesh, of: Mesh): { factor: number; offset: [number, number, number] } | null {
  const [a, b] = [mesh.positions, of.positions];
  if (a.length !== b.length || mesh.indices.length !== of.indices.length) return null;
  const [own, its] = [boundsOf(a), boundsOf(b)];
  const axis = its.size.indexOf(Math.max(...its.size));
  const factor = own.size[axis] / its.size[axis];
  if (!(factor > 0 && factor < Infinity)) return null;
  const offset = own.middle.map((c, k) => c - factor * its.middle[k]) as [number, number, number];
  const bound = SAME * own.size[axis];
  for (let i = 0; i < a.length; i++) if (Math.abs(a[i] - factor * b[i] - offset[i % 3]) > bound) return null;
  return { factor, offset };
}

function boundsOf(positions: Float32Array): { size: number[]; middle: number[] } {
  const [min, max] = [[Infinity, Infinity, Infinity], [-Infinity, -Infinity, -Infinity]]; // prettier-ignore
  for (let i = 0; i < positions.length; i++) {
    min[i % 3] = Math.min(min[i % 3], positions[i]);
    max[i % 3] = Math.max(max[i % 3], positions[i]);
  }
  return { size: max.map((v, k) => v - min[k]), middle: max.map((v, k) => (v + min[k]) / 2) };
}
