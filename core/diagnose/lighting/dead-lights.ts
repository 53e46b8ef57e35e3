/**
 * Lights that are on and light nothing of what is seen: turned away, out of reach, linked away, inside an object, or behind one. A light
 * that is meant to bounce lights nothing directly either: so it is left out in a small render, and only one that nobody misses
 * is told.
 */
import { changeOf } from '../../figures/effect.ts';
import { isDark } from '../../lights/is-dark.ts';
import { placesOver } from '../../place/grid.ts';
import { arrivingWith, LightWalk, unshadowed } from '../../place/light-walk.ts';
import type { Place } from '../../place/surface-walk.ts';
import { whyNotLit, type NotLit } from '../../place/ask.ts';
import { predictChanges } from '../../predict/predict-change.ts';
import { HAS_ALPHA, IS_SEE_THROUGH, settingsOf } from '../../render/scene/scene.ts';
import { SHADOW_RAY } from '../../geometry/ray-kinds.ts';
import type { Triple } from '../../data/placement.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { changesOf } from '../forecast.ts';
import type { Case, RenderInput } from '../family.ts';

export type Dead = Extract<NotLit, 'turned-away' | 'out-of-reach' | 'linked-away'> | 'inside-object' | 'blocked';

export interface DeadCase extends Case {
  kind: 'dead';
  document: ShotDocument;
  light: string;
  name: string;
  why: Dead;
  /** The object that it stands inside of, or that stands before it; null for other reasons. */
  by: string | null;
  /** Metres to the nearest of the places that it could light. */
  nearest: number;
  /** The middle of what is seen. */
  middle: Triple;
}

/** Places that are asked, about, and rays from each to a light. */
const PLACES = 150;
const RAYS = 8;
/** Lights that are gone through: more of them are no oversight. */
const MOST_LIGHTS = 200;
/** Share of light that what is opaque holds back, and of the rays to a light that one object must stop. */
const OPAQUE = 0.99;
const BY_ONE = 0.97;
/** Share of all light from which on a light is missed, and places that are asked about it. */
const STRONG = 0.5;
const ASKED = 20;
/** Stops by which the picture must not change without the light. */
const MISSED = 0.02;

export function deadCases(input: RenderInput): DeadCase[] {
  const { document, scene, picture, sheet } = input;
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const places = placesOver(walk, picture, PLACES).places.map(({ place }) => place);
  if (places.length === 0) return [];
  const middle = [0, 1, 2].map((a) => median(places.map(({ point }) => point[a]))) as Triple;
  const ids = Object.entries(document.lights).flatMap(([id, light]) => (light.hidden || isDark(light) ? [] : [id]));
  return ids.slice(0, MOST_LIGHTS).flatMap((id): DeadCase[] => {
    const row = scene.lightIds.indexOf(id);
    const found = row < 0 ? null : deadBecause(walk, row, places);
    if (!found || isMissed(input, id)) return [];
    return [
      {
        key: `lighting.dead ${id}`,
        kind: 'dead',
        // A lamp of the next room lights nothing by right; one that would be the strongest here is missed.
        severity: found.why === 'blocked' && !isStrong(walk, row, places) ? 'note' : 'caution',
        region: { x: 0, y: 0, width: picture.width, height: picture.height },
        mask: null,
        passes: ['beauty'],
        document,
        light: id,
        name: document.lights[id].name || id,
        middle,
        ...found,
      },
    ];
  });
}

/** Whether a light would bring as much as half of what all bring, with nothing in its way. */
function isStrong(walk: LightWalk, light: number, places: Place[]): boolean {
  let [own, all] = [0, 0];
  const step = Math.max(1, Math.floor(places.length / ASKED));
  for (let k = 0; k < places.length; k += step) {
    own += unshadowed(walk.towards(places[k], light, RAYS).rays);
    for (let row = 0; row < Math.min(MOST_LIGHTS, walk.scene.lightCount); row++) all += arrivingWith(walk.towards(places[k], row, RAYS).rays, 0); // prettier-ignore
  }
  return own >= STRONG * all;
}

/** Null for a light that lights some of the places, or is kept from them by something else. */
function deadBecause(walk: LightWalk, row: number, places: Place[]): Pick<DeadCase, 'why' | 'by' | 'nearest'> | null {
  const { scene } = walk;
  const reasons = new Set<NotLit>();
  let [isReached, nearest] = [false, Infinity];
  const stopped = new Map<number, number>();
  let count = 0;
  for (const place of places) {
    const walked = walk.towards(place, row, RAYS);
    const why = whyNotLit(scene, place, row, walked);
    for (const { metres, hits } of walked.rays) {
      nearest = Math.min(nearest, metres);
      count += 1;
      for (const object of new Set(hits.filter(({ reasons, block }) => reasons === 0 && block > OPAQUE).map((hit) => hit.object))) stopped.set(object, (stopped.get(object) ?? 0) + 1); // prettier-ignore
    }
    if (why === null) {
      isReached = true;
      if (walked.rays.some(({ share }) => share > 0)) return null;
    } else if (why !== 'faces-away') reasons.add(why);
  }
  if (isReached) {
    const inside = walk.insideOf(row);
    if (inside >= 0 && isShut(inside)) return { why: 'inside-object', by: scene.objectIds[inside], nearest };
    const [first] = [...stopped].sort((a, b) => b[1] - a[1]);
    return first && first[1] >= BY_ONE * count ? { why: 'blocked', by: scene.objectIds[first[0]], nearest } : null;
  }
  const [why] = reasons;
  return reasons.size === 1 && why !== 'not-for-diffuse' && why !== 'faces-away' ? { why, by: null, nearest } : null;

  /** Nothing gets out of it. */
  function isShut(object: number): boolean {
    const instance = scene.instanceObject.indexOf(object);
    const mask = scene.geometry.instanceMask[instance];
    return (mask & SHADOW_RAY) !== 0 && (scene.instanceFlags[instance] & (HAS_ALPHA | IS_SEE_THROUGH)) === 0;
  }
}

/** Whether the picture is another without the light: it may bounce. */
function isMissed(input: RenderInput, id: string): boolean {
  const { width, height } = input.picture;
  const of = { region: { x: 0, y: 0, width, height }, mask: null };
  const [effect] = predictChanges(changesOf(input, of), [input.vary({ [`/lights/${id}/hidden`]: true })]);
  return Math.abs(changeOf(effect, 'brightness') ?? 0) >= MISSED;
}

const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1];
