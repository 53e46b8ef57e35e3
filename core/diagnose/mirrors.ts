/** Objects whose reflections are sharp enough to show edges, and what their normals are like from pixel to pixel. */
import { objectIds } from '../document/object-names.ts';
import { channel } from '../data/picture.ts';
import { luminancePlane } from '../picture/measured.ts';
import type { RenderInput } from './family.ts';

/** Passes that a picture must have. */
export const MIRROR_PASSES = ['beauty', 'specular.direct', 'specular.indirect', 'object', 'object.coverage', 'normal'];

export interface Mirror {
  /** Key in the document. */
  id: string;
  /** Pixels that it fills, full-frame numbers. */
  pixels: number[];
  /** Of its neighbouring pixels, those with the same normal, and those with one that is a little turned. */
  same: number;
  turned: number;
  pairs: number;
}

/** Roughness beyond which what is mirrored has no edges. */
const SHARP = 0.15;
/** Share of an object's light that is reflected before its reflections are looked at. */
const REFLECTED = 0.2;
/** Share of a pixel that the object fills: others have the normals of two. */
const WHOLE = 0.98;
const FEWEST = 100;
/** Chords between unit normals: the same within rounding; turned by half a degree, and by no more than 25, as at an edge that is meant. */
const SAME = 3e-4;
const [LITTLE, MEANT] = [0.5, 25].map((degrees) => 2 * Math.sin((degrees * Math.PI) / 360));

export function mirrorsOf({ document, picture }: RenderInput): Mirror[] {
  const ids = objectIds(document);
  const isSharp = ids.map((id) => document.materials[document.objects[id].material].roughness <= SHARP);
  const objects = channel(picture, 'object');
  const coverage = channel(picture, 'object.coverage');
  const all = luminancePlane(picture, 'beauty');
  const [direct, indirect] = ['specular.direct', 'specular.indirect'].map((pass) => luminancePlane(picture, pass));
  const found = new Map<number, number[]>();
  const light = new Map<number, { all: number; reflected: number }>();
  for (let i = 0; i < objects.length; i++) {
    const object = objects[i];
    if (object === 0 || !isSharp[object - 1] || coverage[i] < WHOLE) continue;
    if (!found.has(object)) {
      found.set(object, []);
      light.set(object, { all: 0, reflected: 0 });
    }
    found.get(object)!.push(i);
    const own = light.get(object)!;
    own.all += all[i];
    own.reflected += direct[i] + indirect[i];
  }
  return [...found]
    .filter(
      ([object, { length }]) => length >= FEWEST && light.get(object)!.reflected >= REFLECTED * light.get(object)!.all,
    )
    .map(([object, pixels]) => ({ id: ids[object - 1], pixels, ...turns(picture, pixels) }));
}

/** How often a pixel's normal is that of its neighbour to the right or below. */
function turns(
  { width, channels }: RenderInput['picture'],
  pixels: number[],
): Pick<Mirror, 'same' | 'turned' | 'pairs'> {
  const [nx, ny, nz] = ['X', 'Y', 'Z'].map((axis) => channels.get(`normal.${axis}`)!);
  const own = new Set(pixels);
  const out = { same: 0, turned: 0, pairs: 0 };
  for (const i of pixels)
    for (const j of [(i + 1) % width === 0 ? -1 : i + 1, i + width]) {
      if (!own.has(j)) continue;
      const chord = Math.hypot(nx[i] - nx[j], ny[i] - ny[j], nz[i] - nz[j]);
      out.pairs += 1;
      if (chord < SAME) out.same += 1;
      else if (chord > LITTLE && chord < MEANT) out.turned += 1;
    }
  return out;
}
