/**
 * Where bodies of glass meet: a liquid whose face coincides with that of its vessel, or leaves a gap of air before it. Light must
 * cross from one to the other: at coinciding faces rounding decides which comes first, and a film of air mirrors.
 */
import { channel } from '../../data/picture.ts';
import { multiply, scaling, translation, type Transform } from '../../data/transform.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { objectNames } from '../../document/object-names.ts';
import { LightWalk } from '../../place/light-walk.ts';
import { percentile } from '../../picture/measured.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { meshShape, type MeshShape } from '../mesh-shape.ts';
import { maskOf, regionOf } from '../regions.ts';

export interface ContactCase extends Case {
  kind: 'contact';
  /** Faces at one place, or a gap between them. */
  how: 'coincident' | 'gap';
  document: ShotDocument;
  /** Keys and names: what stands inside, and what it stands in. */
  inner: { id: string; name: string };
  outer: { id: string; name: string };
  /** Metres between them along what is seen, the median; 0 where they coincide. */
  gap: number;
  /** Where the inner one stands, larger by so much that both overlap. */
  grown: Transform;
}

/** Pixels of glass that are looked through, about; rays of a body that must show it, and their share. */
const LOOKED = 3000;
const LEAST = 12;
const SHARE = 0.05;
/** Metres between faces that coincide, and a gap that nobody would model on purpose, as a share of the inner body's extent. */
const COINCIDENT = 2e-6;
const NARROW = 0.04;
/** What the inner body reaches into the outer one, as a share of its extent. */
const INTO = 0.004;

export function contactCases({ document, scene, sheet, picture }: RenderInput): ContactCase[] {
  const isGlass = scene.objectIds.map((id) => document.materials[document.objects[id].material].transmission >= 0.5 && !document.objects[id].thin); // prettier-ignore
  if (isGlass.filter(Boolean).length < 2) return [];
  const numbers = channel(picture, 'object');
  const pixels = [...numbers.keys()].filter((i) => numbers[i] > 0 && isGlass[numbers[i] - 1]);
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const step = Math.max(1, Math.floor(pixels.length / LOOKED));
  const rays = new Map<number, number>();
  const pairs = new Map<string, { inner: number; outer: number; how: ContactCase['how']; gaps: number[]; pixels: number[] }>(); // prettier-ignore
  const shapes = new Map<number, MeshShape | null>();
  const shapeOf = (object: number) => {
    if (!shapes.has(object)) shapes.set(object, meshShape(scene, object));
    return shapes.get(object)!;
  };
  for (let k = 0; k < pixels.length; k += step) {
    const i = pixels[k];
    const faces = walk.glassOn(i % picture.width, Math.floor(i / picture.width));
    for (const object of new Set(faces.map((face) => face.object))) rays.set(object, (rays.get(object) ?? 0) + 1);
    for (let f = 0; f + 1 < faces.length; f++) {
      const [a, b] = [faces[f], faces[f + 1]];
      if (a.object === b.object || !isGlass[a.object] || !isGlass[b.object]) continue;
      const gap = b.metres - a.metres;
      const [inner, outer] = isWithin(shapeOf(a.object), shapeOf(b.object)) ? [a, b] : [b, a];
      if (!isWithin(shapeOf(inner.object), shapeOf(outer.object))) continue;
      // From one into the other: at one place in either order, across air out of the first and into the second.
      const isAcross = !a.isEntering && b.isEntering;
      const how = gap <= COINCIDENT * Math.max(1, a.metres) ? (a.isEntering === b.isEntering ? null : 'coincident') : isAcross && gap < NARROW * longest(shapeOf(inner.object)!) ? 'gap' : null; // prettier-ignore
      if (!how) continue;
      const key = `${how} ${inner.object} ${outer.object}`;
      const pair = pairs.get(key) ?? { inner: inner.object, outer: outer.object, how, gaps: [], pixels: [] };
      pairs.set(key, pair);
      pair.gaps.push(gap);
      pair.pixels.push(i);
    }
  }
  const names = objectNames(document);
  return [...pairs.values()]
    .filter(({ inner, pixels: own }) => own.length >= Math.max(LEAST, SHARE * rays.get(inner)!))
    .map(({ inner, outer, how, gaps, pixels: own }): ContactCase => {
      const gap = how === 'gap' ? percentile(gaps, 0.5) : 0;
      const [innerId, outerId] = [inner, outer].map((object) => scene.objectIds[object]);
      const mask = maskOf(picture, own);
      return {
        key: `glass.contact ${innerId} ${outerId}`,
        kind: 'contact',
        how,
        severity: 'caution',
        region: regionOf(picture, mask),
        mask,
        passes: ['transmission.direct', 'transmission.indirect'],
        objects: [names[inner], names[outer]],
        document,
        inner: { id: innerId, name: names[inner] },
        outer: { id: outerId, name: names[outer] },
        gap,
        grown: grown(document.objects[innerId].transform, shapeOf(inner)!, gap),
      };
    });
}

const longest = ({ min, max }: MeshShape): number => Math.max(...min.map((v, a) => max[a] - v));

const isWithin = (inner: MeshShape | null, outer: MeshShape | null): boolean =>
  inner !== null && outer !== null && longest(inner) <= longest(outer) && inner.min.every((v, a) => v >= outer.min[a] - 1e-6) && inner.max.every((v, a) => v <= outer.max[a] + 1e-6); // prettier-ignore

/** Larger about its middle, by the gap and a little more on every side. */
function grown(transform: Transform, { min, max }: MeshShape, gap: number): Transform {
  const middle = min.map((v, a) => (v + max[a]) / 2);
  const factors = min.map((v, a) => 1 + 2 * (gap / Math.max(1e-9, max[a] - v) + INTO));
  const [x, y, z] = middle;
  return multiply(translation(x, y, z), multiply(scaling(factors[0], factors[1], factors[2]), multiply(translation(-x, -y, -z), transform))); // prettier-ignore
}
