/**
 * Texels a side that an image over UV 0 to 1 needs to have one for each pixel of the final, where a camera sees it
 * largest. A triangle with area A in space and a in UV, at distance d, has √(A/a) metres to the UV unit, and a pixel
 * there is d·2·tan(fov/2)/height metres: their quotient is the texels. Slant is left out, which errs on the large side.
 *
 * @example
 * texelsNeeded(scene, document, ['ripples']).get('ripples');   // 1311.4
 */
import { faceNormal, faceStarts, type PolyMesh } from '../../data/poly-mesh.ts';
import { invert, multiply, type Transform } from '../../data/transform.ts';
import { MAP_SLOTS } from '../../document/check-references.ts';
import type { ShotDocument } from '../../document/schema.ts';
import type { Scene } from '../preflight/scene.ts';

export function texelsNeeded(scene: Scene, document: ShotDocument, maps: string[]): Map<string, number> {
  const camera = document.cameras[document.camera];
  const { width, height } = document.sheets.final;
  const tangent = Math.tan((camera.fieldOfView * Math.PI) / 360);
  const view: View = { toCamera: invert(camera.transform), tangent, aspect: width / height, pixel: (2 * tangent) / height }; // prettier-ignore
  const out = new Map<string, number>();
  for (const { node, poly } of scene.objects) {
    const spec = document.objects[node.path.slice(1)];
    const material = document.materials[spec.material];
    const worn = new Set(MAP_SLOTS.map((slot) => material[slot]).filter((id) => id !== null && maps.includes(id)));
    for (const id of worn) {
      const map = document.maps[id!];
      const most = map.kind === 'shared' ? 0 : mostTexels(poly, map.uvSet, node.world, view);
      if (most > 0) out.set(id!, Math.max(out.get(id!) ?? 0, most));
    }
  }
  return out;
}

interface View {
  toCamera: Transform;
  /** Of half the vertical angle. */
  tangent: number;
  aspect: number;
  /** Metres of a pixel, a metre away. */
  pixel: number;
}

function mostTexels(poly: PolyMesh, uvSet: number, world: Transform, view: View): number {
  const uvs = poly.uvs[uvSet];
  if (!uvs) return 0;
  const m = multiply(view.toCamera, world);
  const starts = faceStarts(poly);
  const placed: PolyMesh = { ...poly, points: poly.points.slice() };
  for (let i = 0; i < poly.points.length; i += 3)
    for (let a = 0; a < 3; a++)
      placed.points[i + a] = m[a] * poly.points[i] + m[4 + a] * poly.points[i + 1] + m[8 + a] * poly.points[i + 2] + m[12 + a]; // prettier-ignore
  let most = 0;
  for (let f = 0; f < poly.faceSizes.length; f++) {
    const size = poly.faceSizes[f];
    const near = nearestSeen(placed, starts[f], size, view);
    if (near === null) continue;
    const area = Math.hypot(...faceNormal(placed, starts[f], size)) / 2;
    let uvArea = 0;
    for (let k = 0; k < size; k++) {
      const p = uvs.indices[starts[f] + k] * 2;
      const q = uvs.indices[starts[f] + ((k + 1) % size)] * 2;
      uvArea += (uvs.values[p] * uvs.values[q + 1] - uvs.values[q] * uvs.values[p + 1]) / 2;
    }
    if (Math.abs(uvArea) < 1e-12 || area === 0) continue;
    most = Math.max(most, Math.sqrt(area / Math.abs(uvArea)) / (near * view.pixel));
  }
  return most;
}

/** Planes through the eye that bound the frame, as what is inside of them is above 0; and one just before the eye. */
const planesOf = ({ tangent, aspect }: View): ((p: number[]) => number)[] => [
  ([, , z]) => -z - NEAR,
  ([x, , z]) => -z * tangent * aspect - x,
  ([x, , z]) => -z * tangent * aspect + x,
  ([, y, z]) => -z * tangent - y,
  ([, y, z]) => -z * tangent + y,
];
/** Metres. */
const NEAR = 1e-4;

/**
 * Depth of the nearest place of a face in the frame; null when none is in it.
 * Source: Sutherland and Hodgman, Reentrant polygon clipping (1974).
 */
function nearestSeen({ points, corners }: PolyMesh, start: number, size: number, view: View): number | null {
  let polygon = Array.from({ length: size }, (_, k) => [...points.subarray(corners[start + k] * 3, corners[start + k] * 3 + 3)]); // prettier-ignore
  for (const inside of planesOf(view)) {
    polygon = polygon.flatMap((p, k) => {
      const q = polygon[(k + 1) % polygon.length];
      const [a, b] = [inside(p), inside(q)];
      const kept = a >= 0 ? [p] : [];
      return a >= 0 === b >= 0 ? kept : [...kept, p.map((v, c) => v + ((q[c] - v) * a) / (a - b))];
    });
    if (polygon.length === 0) return null;
  }
  return Math.min(...polygon.map(([, , z]) => -z));
}
