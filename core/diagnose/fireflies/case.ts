/** What the fireflies of a picture have in common: the lights they came from, the glass around those, how they went. */
import { channel } from '../../data/picture.ts';
import type { Sheet, ShotDocument } from '../../document/schema.ts';
import { boxOf, furthest, holds, worldTriangles, type Box } from '../../geometry/instance-places.ts';
import { equivalentSpheres, type Sphere } from '../../lights/equivalent-spheres.ts';
import { IS_GLASS, type CompiledScene } from '../../render/scene/scene.ts';
import { eventsOf } from '../../render/path/signature.ts';
import type { CauseId } from '../catalogue.ts';
import type { Case, RenderInput } from '../family.ts';
import type { ClampKind, ClampPoint } from './clamp-curve.ts';
import type { Way } from './ways.ts';

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

/** What remedies are proposed by. */
export interface Common {
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
  /** Of the fireflies, those that each cause explains, 0–1: each has one. */
  byCause: Map<CauseId, number>;
}

export interface FireflyCase extends Common, Case {
  input: RenderInput;
  /** Numbers of their pixels, and how many of those lie in the region. */
  at: number[];
  here: number;
  /** Ways that light came, the commonest first. */
  ways: Way[];
  /** What clamps most of them, those that it is for, and what clamps of that kind would leave and take. */
  kind: ClampKind;
  own: number[];
  curve: ClampPoint[];
  /** Share of the picture's light that stands in them, 0–1. */
  energy: number;
}

/** Share of the paths from which on a body of glass, or a light, is told as a cause. */
const OFTEN = 0.1;
/** Lights that are looked at. */
const MOST_GLOWS = 6;

/** @param at numbers of the fireflies */
export function commonOf({ document, sheet, scene, picture }: RenderInput, at: number[]): Common {
  const [paths, lights, first, second] = ['path', 'light', 'first', 'second'].map((part) => channel(picture, `brightest.${part}`)); // prettier-ignore
  const counts = new Map<number, number>();
  const bent = new Map<number, Bent>();
  const through = new Map<number, number>();
  const share = { mirroredAfter: 0, lastMirrored: 0, lastThrough: 0 };
  for (const i of at) {
    const events = eventsOf(paths[i]);
    bent.set(i, bentBy(events));
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
  const glowOfRow = new Map(often.slice(0, MOST_GLOWS).map(([row], k) => [row, glows[k]]));
  const byCause = new Map<CauseId, number>();
  for (const i of at) {
    const row = lights[i] - 1;
    const cause =
      row === scene.skyLight ? 'fireflies.bright-environment-pixel' : causeOf(glowOfRow.get(row), bent.get(i)!);
    byCause.set(cause, (byCause.get(cause) ?? 0) + 1 / at.length);
  }
  const shells = [...around].map((object) => scene.objectIds[object]).sort();
  return { document, sheet, scene, glows, share, shells, byCause };
}

/** Emitting meshes no larger than this are small, metres. */
export const SMALL = 0.5;

/** What light met on its way to the last surface that scattered it: where it went through glass, reflections are inside it or off it. */
type Bent = 'glass' | 'mirror' | null;

function bentBy(events: readonly string[]): Bent {
  const scattered = events.findLastIndex((event) => event === 'diffuse' || event === 'volume');
  const tail = events.slice(scattered + 1);
  return tail.includes('transmission') ? 'glass' : tail.includes('specular') ? 'mirror' : null;
}

/** Why one of them came about: by what its light is, and else by how it came. */
function causeOf(glow: Glow | undefined, bent: Bent): CauseId {
  if (glow && glow.shellReach !== null) return 'fireflies.emitter-in-shell';
  if (glow && glow.objects.length > 0 && glow.size <= SMALL) return 'fireflies.small-emitter';
  if (bent === 'glass') return 'fireflies.glass-caustic';
  return bent === 'mirror' ? 'fireflies.mirror-caustic' : 'fireflies.unclamped-bounce';
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
