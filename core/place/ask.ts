/**
 * A place is asked: per light what arrives, what stands between, and which settings keep a shadow away that nature would
 * throw. Counterfactuals are not looked up: rays are traced through everything, and the light is summed again with each
 * setting put right, alone and in pairs.
 *
 * @example
 * const answer = askPlace(walk, place, { settings: settingsOf(sheet), pixel: [240, 135] });
 * answer.lights[0].missing?.cures[0].switches; // ['shadow-distance']
 */
import { luminance } from '../data/colour.ts';
import { toInt } from '../data/numbers.ts';
import type { Triple } from '../data/placement.ts';
import { DIFFUSE_RAY } from '../geometry/ray-kinds.ts';
import { EACH_AT_FIRST } from '../lights/light-tree.ts';
import { DISTANT_CAP } from '../lights/distant.ts';
import { SPHERE_CENTRE, SPHERE_RADIUS } from '../lights/sphere.ts';
import {
  LIGHT_DISTANT,
  LIGHT_FLAGS,
  LIGHT_KIND,
  LIGHT_REACH_DISTANCE,
  LIGHT_SAMPLES,
  LIGHT_SKY,
  LIGHT_SPHERE,
  LIGHT_STRIDE,
  LIGHT_VISIBILITY,
  LINKED,
} from '../lights/table.ts';
import { passOf } from '../render/film/passes.ts';
import { tracerOf } from '../render/path/tracer.ts';
import type { CompiledScene, RenderSettings } from '../render/scene/scene.ts';
import { arrivingWith, unshadowed, type LightWalk, type Walk, type WalkedRay } from './light-walk.ts';
import type { Place } from './surface-walk.ts';
import { raysForEdge, type EdgeLight } from './edge-rays.ts';
import { penumbraWidth } from './penumbra.ts';
import { shadowTint, type ShadowTint } from './shadow-tint.ts';
import { ALL_SWITCHES, SHADOW_COLOUR, SHARED_SWITCHES, switchesIn, type SwitchId } from './switches.ts';

/** Rays to a light, and to the environment, which is all around. */
const RAYS = 64;
const SKY_RAYS = 256;
/** Lights that are gone through in full, by what they would bring; and rays by which that is told. */
const MOST_LIGHTS = 24;
const LOOK = 4;
/** Groups of 4 samples by which indirect light is told. */
const GROUPS = 16;
/** Share of a light below which a difference is nothing. */
const NOTHING = 0.02;
/** Of what is missing, what the switches of a cure must bring back. */
const CURED = 0.9;

/** Why a light brings nothing, whatever stands between. */
export type NotLit = 'faces-away' | 'turned-away' | 'out-of-reach' | 'linked-away' | 'not-for-diffuse';

export interface Blocker {
  /** Number of the object. */
  object: number;
  /** Share of the light that would be there without it, 0–1. */
  share: number;
  /** From the place to its nearest surface on the way, and a point there. */
  metres: number;
  at: Triple;
  /** It holds light back as rendered; otherwise these keep it from doing so. */
  blocks: boolean;
  switches: SwitchId[];
}

export interface Cure {
  switches: SwitchId[];
  /** Irradiance with these put right, of this light and of all; luminance, W/m². */
  arriving: number;
  direct: number;
}

export interface LightAtPlace {
  /** Row of the scene's table. */
  light: number;
  notLit: NotLit | null;
  /** Metres, the mean; null: far. */
  metres: number | null;
  /** Unit, towards its middle. */
  direction: Triple | null;
  /** Degrees between the surface and the light: 90 straight above it. */
  elevation: number | null;
  /** Irradiance, luminance, W/m²: with nothing between, as rendered, and with every shadow that nature throws. */
  unshadowed: number;
  arriving: number;
  natural: number;
  /** Degrees it is wide as seen from here; null: all around. */
  angle: number | null;
  /** What stands before it, most of it first. */
  blockers: Blocker[];
  /** Of the shadow's edge here, on the surface in the light's direction, by the blocker that holds back most. */
  penumbra: { metres: number; pixels: number } | null;
  /** Stops between this place in full shadow of the light and in all of it. */
  contrast: number | null;
  /** Shadow rays per pixel that keep the edge of its shadow below the noise target here, and those that there are; null: nothing stands before it, or it is one of many that are chosen from. */
  edgeRays: { needed: number; now: number } | null;
  /** The colour of what arrives of it, where that is not grey. */
  tint: ShadowTint | null;
  /** A shadow that nature throws here and the render does not. */
  missing: { share: number; cures: Cure[] } | null;
}

export interface PlaceAnswer {
  place: Place;
  lights: LightAtPlace[];
  /** Irradiance of all lights as rendered, and of what bounces; luminance, W/m². The latter null: not known here. */
  direct: number;
  indirect: number | null;
  /** Lights left out for bringing least, and the share of all light they would bring unshadowed. */
  leftOut: { lights: number; share: number };
}

export interface AskOptions {
  /** With which indirect light is told; none without. */
  settings?: RenderSettings;
  /** Noise that is good enough, display steps of 255; with which rays for clean edges are told, none without. */
  noiseTarget?: number;
  /** Full-frame pixel, whole. */
  pixel?: [number, number];
  /** Rows of lights; all by default. */
  lights?: readonly number[];
  /** Rays to each light; 64 by default. */
  rays?: number;
}

export function askPlace(walk: LightWalk, place: Place, options: AskOptions = {}): PlaceAnswer {
  const { scene } = walk;
  const { settings, pixel, rays = RAYS } = options;
  const rows = options.lights ?? Array.from({ length: scene.lightCount }, (_, row) => row);
  const { chosen, leftOut } = choose(walk, place, rows);
  const raysTo = (row: number) => (kindOf(scene, row) === LIGHT_SKY ? rays * (SKY_RAYS / RAYS) : rays);
  const walked = chosen.map((row) => ({ row, ...walk.towards(place, row, raysTo(row)) }));
  const served = walked.map(({ row, rays }) => ({ row, rays: whyNotServed(scene, place, row, rays) ? [] : rays }));
  const direct = served.reduce((sum, { rays }) => sum + arrivingWith(rays, 0), 0);
  const indirect = settings && pixel && place.through.length === 0 ? indirectAt(scene, settings, pixel, direct) : null;
  return {
    place,
    lights: walked.map((one) => lightAt(scene, place, one.row, one, served, direct + (indirect ?? 0), options)),
    direct,
    indirect,
    leftOut,
  };
}

const kindOf = (scene: CompiledScene, row: number): number => toInt(scene.lights[row * LIGHT_STRIDE + LIGHT_KIND]);

/** The lights that bring most, should there be many. */
function choose(walk: LightWalk, place: Place, rows: readonly number[]) {
  if (rows.length <= MOST_LIGHTS) return { chosen: [...rows], leftOut: { lights: 0, share: 0 } };
  const brought = rows.map((row) => ({ row, value: unshadowed(walk.towards(place, row, LOOK).rays) }));
  const all = brought.reduce((sum, { value }) => sum + value, 0);
  const sorted = [...brought].sort((a, b) => b.value - a.value || a.row - b.row);
  const rest = sorted.slice(MOST_LIGHTS);
  return {
    chosen: sorted.slice(0, MOST_LIGHTS).map(({ row }) => row).sort((a, b) => a - b),
    leftOut: { lights: rest.length, share: all > 0 ? rest.reduce((sum, { value }) => sum + value, 0) / all : 0 },
  }; // prettier-ignore
}

/** What bounces here, by the ratio of both in the diffuse light of the pixel. */
function indirectAt(scene: CompiledScene, settings: RenderSettings, [x, y]: [number, number], direct: number) {
  const tracer = tracerOf(scene, settings);
  const sums = [0, 0];
  for (let group = 0; group < GROUPS; group++) {
    tracer.group(x, y, group);
    [true, false].forEach((isDirect, k) => {
      const o = passOf(0, isDirect) * 3;
      sums[k] += luminance(tracer.sums[o], tracer.sums[o + 1], tracer.sums[o + 2]);
    });
  }
  return sums[0] > 0 ? (direct * sums[1]) / sums[0] : null;
}

function whyNotServed(scene: CompiledScene, place: Place, row: number, rays: readonly WalkedRay[]): NotLit | null {
  const o = row * LIGHT_STRIDE;
  if ((toInt(scene.lights[o + LIGHT_FLAGS]) & LINKED) !== 0 && scene.lightLinks![row * scene.objectCount + place.object] === 0) return 'linked-away'; // prettier-ignore
  if ((toInt(scene.lights[o + LIGHT_VISIBILITY]) & DIFFUSE_RAY) === 0) return 'not-for-diffuse';
  const reach = scene.lights[o + LIGHT_REACH_DISTANCE];
  return rays.length > 0 && rays.every(({ metres }) => metres > reach) ? 'out-of-reach' : null;
}

/** Rays of each light that serves the place. */
type Served = { row: number; rays: WalkedRay[] }[];

function lightAt(
  scene: CompiledScene,
  place: Place,
  row: number,
  walk: Walk,
  served: Served,
  everything: number,
  { settings, noiseTarget }: AskOptions,
): LightAtPlace {
  const { rays } = walk;
  const notLit = whyNotLit(scene, place, row, walk);
  const full = unshadowed(rays);
  const arriving = notLit ? 0 : arrivingWith(rays, 0);
  const natural = notLit ? 0 : arrivingWith(rays, ALL_SWITCHES);
  const middle = rays.length > 0 ? meanDirection(rays) : null;
  const angle = middle && angleOf(scene, place, row, rays, middle);
  const metres = rays.length > 0 && rays.every((ray) => Number.isFinite(ray.metres)) ? rays.reduce((sum, ray) => sum + ray.metres, 0) / rays.length : null; // prettier-ignore
  const blockers = blockersOf(place, rays, full);
  const rest = Math.max(0, everything - arriving);
  const lost = full > 0 ? (arriving - natural) / full : 0;
  const cosine = middle ? dot(middle, place.normal) : 1;
  return {
    light: row,
    notLit,
    metres,
    direction: middle,
    elevation: middle && (Math.asin(Math.min(1, dot(middle, place.shadingNormal))) * 180) / Math.PI,
    unshadowed: full,
    arriving,
    natural,
    angle,
    blockers,
    penumbra: penumbraOf(place, blockers, angle, metres, cosine),
    contrast: full > 0 && !notLit && everything > 0 ? Math.log2((rest + full) / Math.max(rest, full * 1e-4)) : null,
    edgeRays: blockers.length > 0 && !notLit && angle !== null && settings && noiseTarget ? edgeRaysOf(scene, place, row, { light: full, rest, target: noiseTarget }, settings) : null, // prettier-ignore
    tint: notLit || full <= 0 ? null : shadowTint(throughOf(rays)),
    missing: lost > NOTHING ? { share: lost, cures: curesOf(row, rays, served, arriving, natural) } : null,
  };
}

/** Why a light brings nothing to a place, whatever stands between; null: it does. */
export function whyNotLit(
  scene: CompiledScene,
  place: Place,
  row: number,
  { rays, faced, shines }: Walk,
): NotLit | null {
  const unserved = whyNotServed(scene, place, row, rays);
  if (unserved) return unserved;
  if (rays.length > 0) return null;
  return shines === 0 && faced > 0 ? 'turned-away' : 'faces-away';
}

function blockersOf(place: Place, rays: readonly WalkedRay[], full: number): Blocker[] {
  const found = new Map<number, Blocker & { weight: number; bits: number }>();
  for (const { light, direction, hits } of rays) {
    const seen = new Map<number, number>();
    for (const hit of hits) {
      // A body is met twice; what it holds back counts once.
      seen.set(hit.object, 1 - (1 - (seen.get(hit.object) ?? 0)) * (1 - hit.block));
      const at = place.point.map((c, a) => c + direction[a] * hit.metres) as Triple;
      const known = found.get(hit.object);
      if (!known) {
        found.set(hit.object, { object: hit.object, share: 0, weight: 0, metres: hit.metres, at, blocks: hit.reasons === 0, switches: [], bits: hit.reasons }); // prettier-ignore
        continue;
      }
      known.blocks ||= hit.reasons === 0;
      known.bits |= hit.reasons;
      if (hit.metres < known.metres) Object.assign(known, { metres: hit.metres, at });
    }
    for (const [object, block] of seen) found.get(object)!.weight += light * block;
  }
  return [...found.values()]
    .map(({ weight, bits, blocks, ...rest }) => ({
      ...rest,
      blocks,
      share: weight / full,
      switches: blocks ? [] : switchesIn(bits).map(({ id }) => id),
    })) // prettier-ignore
    .sort((a, b) => b.share - a.share || a.metres - b.metres);
}

/** Switches that bring the shadow back, alone or in pairs, as few as do; all together where no two suffice. */
function curesOf(row: number, rays: readonly WalkedRay[], served: Served, arriving: number, natural: number): Cure[] {
  const hasTint = rays.some(({ tint, noShadow }) => tint > 0 && noShadow === 0);
  let bits = hasTint ? SHADOW_COLOUR : 0;
  const objects = new Set<number>();
  for (const { hits } of rays)
    for (const { reasons, object } of hits) {
      bits |= reasons;
      if (reasons) objects.add(object);
    }
  const single = switchesIn(bits);
  const goal = arriving - CURED * (arriving - natural);
  const cure = (put: typeof single): Cure => {
    const right = put.reduce((sum, { bit }) => sum | bit, 0);
    const of = (other: Served[number]) => arrivingWith(other.rays, other.row === row ? right : right & SHARED_SWITCHES, objects); // prettier-ignore
    return {
      switches: put.map(({ id }) => id),
      arriving: arrivingWith(rays, right),
      direct: served.reduce((sum, other) => sum + of(other), 0),
    };
  };
  const enough = single.map((one) => cure([one])).filter(({ arriving }) => arriving <= goal);
  if (enough.length > 0) return enough;
  const pairs = single.flatMap((one, k) => single.slice(k + 1).map((other) => cure([one, other])));
  const together = pairs.filter(({ arriving }) => arriving <= goal);
  return together.length > 0 ? together : [cure(single)];
}

/** Share of the light that arrives, by channel. */
function throughOf(rays: readonly WalkedRay[]): Triple {
  const all = unshadowed(rays);
  return [0, 1, 2].map((a) => rays.reduce((sum, { light, through }) => sum + light * through[a], 0) / all) as Triple;
}

function edgeRaysOf(
  scene: CompiledScene,
  { albedo }: Place,
  row: number,
  of: Omit<EdgeLight, 'albedo'>,
  settings: RenderSettings,
): LightAtPlace['edgeRays'] {
  if (scene.lightTree.count > EACH_AT_FIRST) return null;
  const now = settings.samples * settings.extraSamples.light * toInt(scene.lights[row * LIGHT_STRIDE + LIGHT_SAMPLES]);
  return { needed: raysForEdge({ ...of, albedo }), now };
}

function meanDirection(rays: readonly WalkedRay[]): Triple {
  const sum: Triple = [0, 0, 0];
  for (const { direction, light } of rays) for (let a = 0; a < 3; a++) sum[a] += direction[a] * light;
  const length = Math.hypot(...sum) || 1;
  return sum.map((c) => c / length) as Triple;
}

/** Degrees; in closed form where the light has one, else by the outermost of its rays. */
function angleOf(
  scene: CompiledScene,
  place: Place,
  row: number,
  rays: readonly WalkedRay[],
  middle: Triple,
): number | null {
  const { lights } = scene;
  const o = row * LIGHT_STRIDE;
  const degrees = (radians: number) => (radians * 180) / Math.PI;
  switch (kindOf(scene, row)) {
    case LIGHT_DISTANT:
      return degrees(2 * Math.acos(1 - lights[o + DISTANT_CAP]));
    case LIGHT_SPHERE: {
      const centre = Math.hypot(...place.point.map((c, a) => lights[o + SPHERE_CENTRE + a] - c));
      return degrees(2 * Math.asin(Math.min(1, lights[o + SPHERE_RADIUS] / centre)));
    }
    case LIGHT_SKY:
      return null;
    default:
      return degrees(2 * Math.acos(Math.min(...rays.map(({ direction }) => Math.min(1, dot(direction, middle))))));
  }
}

function penumbraOf(place: Place, blockers: Blocker[], angle: number | null, light: number | null, cosine: number) {
  const [blocker] = blockers;
  if (!blocker || angle === null) return null;
  const width = penumbraWidth({ angle, blocker: blocker.metres, light, cosine });
  return { metres: width, pixels: width / place.pixel };
}

const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
