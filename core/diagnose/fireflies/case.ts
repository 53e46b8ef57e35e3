/** What the fireflies of a picture have in common: the lights they came from, the glass around those, how they went. */
import type { Picture } from '../../data/picture.ts';
import { channel } from '../../data/picture.ts';
import type { Sheet, ShotDocument } from '../../document/schema.ts';
import { boxOf, furthest, holds, worldTriangles, type Box } from '../../geometry/instance-places.ts';
import { equivalentSpheres, type Sphere } from '../../lights/equivalent-spheres.ts';
import { IS_GLASS, type CompiledScene } from '../../render/scene/scene.ts';
import { eventsOf } from '../../render/path/signature.ts';

/** A light that fireflies came from. */
export interface Glow {
  /** Id in the document's lights; null for surfaces that emit by their material. */
  light: string | null;
  /** Objects that shine with it. */
  objects: string[];
  /** Material that emits, of the objects above. */
  material: string | null;
  /** Spheres of the same power; none where it has no surface. */
  spheres: Sphere[];
  /** Largest extent, metres. */
  size: number;
  /** Distance from its middle to the far end of the glass around it, metres; null: nothing is around it. */
  shellReach: number | null;
}

export interface FireflyCase {
  document: ShotDocument;
  sheet: Sheet;
  scene: CompiledScene;
  glows: Glow[];
  /** Objects of glass that stand around a glow, or that many of the paths went through. */
  shells: string[];
  /** Shares of the fireflies, 0–1. */
  share: {
    /** Mirrored after a diffuse or fog event. */
    mirroredAfter: number;
    /** The light was met right after a reflection; after passing glass. */
    lastMirrored: number;
    lastThrough: number;
  };
}

/** Share of the paths from which on a body of glass, or a light, is told as a cause. */
const OFTEN = 0.1;
/** Lights that are looked at. */
const MOST_GLOWS = 6;

export function caseOf(
  { document, sheet, scene, picture }: { document: ShotDocument; sheet: Sheet; scene: CompiledScene; picture: Picture },
  at: number[],
): FireflyCase {
  const [paths, lights, first, second] = ['path', 'light', 'first', 'second'].map((part) => channel(picture, `brightest.${part}`)); // prettier-ignore
  const counts = new Map<number, number>();
  const through = new Map<number, number>();
  const share = { mirroredAfter: 0, lastMirrored: 0, lastThrough: 0 };
  for (const i of at) {
    const events = eventsOf(paths[i]);
    const row = lights[i] - 1;
    if (row >= 0) counts.set(row, (counts.get(row) ?? 0) + 1);
    [first[i], second[i]].forEach((object, k) => {
      if (object > 0 && events[k] === 'transmission') through.set(object - 1, (through.get(object - 1) ?? 0) + 1);
    });
    const bounce = events.findIndex((event) => event === 'diffuse' || event === 'volume');
    if (bounce >= 0 && events.indexOf('specular', bounce) >= 0) share.mirroredAfter += 1 / at.length;
    if (events.at(-1) === 'specular') share.lastMirrored += 1 / at.length;
    if (events.at(-1) === 'transmission') share.lastThrough += 1 / at.length;
  }
  const glass = boxesOfGlass(scene);
  const often = [...counts].filter(([, n]) => n >= OFTEN * at.length).sort((a, b) => b[1] - a[1]);
  const around = new Set<number>();
  const glows = often.slice(0, MOST_GLOWS).map(([row]) => glowOf(document, scene, row, glass, around));
  for (const [object, n] of through) if (n >= OFTEN * at.length) around.add(object);
  return {
    document, sheet, scene, glows, share,
    shells: [...around].map((object) => scene.objectIds[object]).sort(),
  }; // prettier-ignore
}

function glowOf(
  document: ShotDocument,
  scene: CompiledScene,
  row: number,
  glass: Map<number, Box>,
  around: Set<number>,
): Glow {
  const id = scene.lightIds[row];
  const corners: number[] = [];
  const objects = new Set<number>();
  scene.instanceLight.forEach((light, instance) => {
    if (light !== row) return;
    objects.add(scene.instanceObject[instance]);
    for (const v of worldTriangles(scene.geometry, instance)) corners.push(v);
  });
  const isLight = Object.hasOwn(document.lights, id);
  const spec = isLight ? document.lights[id] : null;
  // A light without a mesh stands where its transform has it.
  const box = corners.length ? boxOf(corners) : spec ? boxOf(spec.transform.slice(12, 15)) : null;
  let shellReach: number | null = null;
  if (box) {
    const middle = box.min.map((v, a) => (v + box.max[a]) / 2);
    for (const [object, shell] of glass) {
      if (!holds(shell, box) || objects.has(object)) continue;
      around.add(object);
      shellReach = Math.max(shellReach ?? 0, furthest(shell, middle));
    }
  }
  const ids = [...objects].map((object) => scene.objectIds[object]);
  const materials = new Set(ids.map((object) => document.objects[object].material));
  return {
    light: isLight ? id : null,
    objects: ids,
    material: !isLight && materials.size === 1 ? [...materials][0] : null,
    spheres: corners.length ? equivalentSpheres(corners) : [],
    size: box ? Math.max(...box.max.map((v, a) => v - box.min[a])) : 0,
    shellReach,
  };
}

/** Boxes of all glass, by object. */
function boxesOfGlass(scene: CompiledScene): Map<number, Box> {
  const out = new Map<number, Box>();
  scene.instanceFlags.forEach((flags, instance) => {
    if ((flags & IS_GLASS) !== 0)
      out.set(scene.instanceObject[instance], boxOf(worldTriangles(scene.geometry, instance)));
  });
  return out;
}
