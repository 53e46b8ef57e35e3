/**
 * Maps that tint glass the wrong way up, or with a place of another object: by what they are on the surface, as the picture
 * shows it. Objects whose glass is tinted by the same run or image, and that are about as large, are held against each other;
 * a pane by itself against what it is looked through at.
 */
import { luminance } from '../../data/colour.ts';
import { channel } from '../../data/picture.ts';
import { objectNames } from '../../document/object-names.ts';
import type { MapSpec, ShotDocument } from '../../document/schema.ts';
import type { ControlValues } from '../../document/set-values.ts';
import { cornerOf, maskOfBlocks } from '../../place/grid.ts';
import { SurfaceWalk } from '../../place/surface-walk.ts';
import { percentile } from '../../picture/measured.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { meshShape } from '../mesh-shape.ts';
import { regionOf } from '../regions.ts';

export interface TintMapCase extends Case {
  kind: 'tint-map';
  fault: 'upside-down' | 'copied';
  name: string;
  /** Names of objects that are tinted alike; none: it is told by what stands behind. */
  like: string[];
  /** What its dark end hides; null: it is told by what is tinted alike. */
  hidden: Hidden | null;
  map: string;
  /** Luminance from the darkest to the lightest twentieth of what is seen of it, and of those alike. */
  span: number;
  usual: number;
  /** The map set right: for this object alone where others have it too. */
  values: ControlValues | null;
}

/** Names of things behind a pane, and the share of their light that its tint lets through: as it is, and turned over. */
export interface Hidden {
  names: string[];
  now: number;
  turned: number;
}

type PlacedMap = MapSpec & { kind: 'gradient' | 'image' };

interface Tinted {
  object: number;
  id: string;
  map: PlacedMap;
  mapId: string;
  /** Pixels that look through it, some way apart; UV there, and luminance of its tint, of that the ends. */
  pixels: number[];
  step: number;
  uvs: [number, number][];
  tint: number[];
  low: number;
  span: number;
  /** Correlation of the tint with the picture's rows: above 0 it is lighter further down. */
  down: number;
  size: number;
}

const GLASS = 0.5;
const FEWEST = 40;
/** Correlation from which on a run goes up or down the picture, span from which on it is one, and below which it is one tone. */
const [ALONG, RUN, TONE] = [0.6, 0.3, 0.12];
/** Of extents, the most by which objects alike differ. */
const ALIKE = 1.6;
/** What lets less through hides what is behind. */
const DARK = 0.1;
/** Share of the view through a pane that things must have, from which on something is what they stand before; and what they get, over what they would. */
const [THINGS, LARGE, WORSE] = [0.08, 0.25, 0.65];
/** Pixels of a picture that are looked at, about. */
const LOOKED = 12_000;

export function tintMapCases(input: RenderInput): TintMapCase[] {
  const tinted = tintedIn(input);
  const names = objectNames(input.document);
  const caseOf = (own: Tinted, fault: TintMapCase['fault'], rest: Pick<TintMapCase, 'like' | 'hidden' | 'usual' | 'values'>): TintMapCase => {
    const corners = own.pixels.map((i) => cornerOf({ x: i % input.picture.width, y: Math.floor(i / input.picture.width) }, own.step));
    const mask = maskOfBlocks(input.picture, own.step, corners);
    return { key: `glass.tint-map ${own.id}`, kind: 'tint-map', fault, severity: 'caution', region: regionOf(input.picture, mask), mask, passes: ['beauty', 'albedo'], objects: [names[own.object]], name: names[own.object], map: own.map.name || own.mapId, span: own.span, ...rest };
  };
  return tinted.flatMap((own): TintMapCase[] => {
    const alike = tinted.filter((other) => other !== own && isAlike(own, other));
    const like = alike.map(({ object }) => names[object]);
    const runs = alike.filter(({ span, down }) => span >= RUN && Math.abs(down) >= ALONG);
    const usual = runs.length ? percentile(runs.map(({ span }) => span), 0.5) : 0;
    if (own.span <= TONE && runs.length > 0) return [caseOf(own, 'copied', { like, hidden: null, usual, values: placedAs(input, own, runs[0]) })];
    if (own.span < RUN || Math.abs(own.down) < ALONG) return [];
    const against = runs.filter(({ down }) => down * own.down < 0).length;
    if (runs.length >= 2 && against > runs.length / 2) return [caseOf(own, 'upside-down', { like, hidden: null, usual, values: flipped(input.document, own) })];
    const hidden = runs.length === 0 ? hiddenBy(input, own) : null;
    return hidden ? [caseOf(own, 'upside-down', { like: [], hidden, usual: own.span, values: flipped(input.document, own) })] : [];
  });
} // prettier-ignore

function tintedIn({ document, scene, sheet, picture }: RenderInput): Tinted[] {
  const maps = scene.objectIds.map((id) => {
    const { transmission, baseColourMap } = document.materials[document.objects[id].material];
    const map = transmission < GLASS || baseColourMap === null ? null : document.maps[baseColourMap];
    return map && (map.kind === 'gradient' || map.kind === 'image') ? { map, mapId: baseColourMap! } : null;
  });
  if (!maps.some(Boolean)) return [];
  const walk = new SurfaceWalk(scene, settingsOf(sheet));
  const isWanted = maps.map(Boolean);
  const step = Math.max(1, Math.round(Math.sqrt((picture.width * picture.height) / LOOKED)));
  const found = new Map<number, { pixels: number[]; tint: number[]; uvs: [number, number][] }>();
  for (let y = step >> 1; y < picture.height; y += step)
    for (let x = step >> 1; x < picture.width; x += step)
      for (const { object, colour, uv } of walk.tintsOn(x, y, isWanted)) {
        const own = found.get(object) ?? { pixels: [], tint: [], uvs: [] };
        found.set(object, own);
        own.pixels.push(y * picture.width + x);
        own.tint.push(luminance(...colour));
        own.uvs.push(uv);
      }
  return [...found].flatMap(([object, { pixels, tint, uvs }]): Tinted[] => {
    const shape = pixels.length < FEWEST ? null : meshShape(scene, object);
    if (!shape) return [];
    const [low, high] = [percentile(tint, 0.05), percentile(tint, 0.95)];
    const down = correlation(pixels.map((i) => Math.floor(i / picture.width)), tint); // prettier-ignore
    const size = Math.max(...shape.min.map((v, a) => shape.max[a] - v));
    return [{ object, id: scene.objectIds[object], ...maps[object]!, pixels, uvs, tint, step, low, span: high - low, down, size }]; // prettier-ignore
  });
}

/** Tinted by the same run of colours or the same image, and about as large. */
function isAlike(a: Tinted, b: Tinted): boolean {
  const what = ({ map }: Tinted) => JSON.stringify(map.kind === 'gradient' ? [map.axis, map.stops] : [map.texture]);
  return what(a) === what(b) && Math.max(a.size, b.size) <= ALIKE * Math.min(a.size, b.size);
}

/** Things that a run which is turned over would show much better, and how much of their light gets through, now and then. */
function hiddenBy(input: RenderInput, { pixels, tint, low, span }: Tinted): Hidden | null {
  if (low > DARK) return null;
  const { scene, document, sheet, picture } = input;
  const walk = new SurfaceWalk(scene, settingsOf(sheet));
  const behind: { object: number; tint: number }[] = [];
  const counts = new Map<number, number>();
  for (let k = 0; k < pixels.length; k++) {
    const object = walk.surfaceAt(pixels[k] % picture.width, Math.floor(pixels[k] / picture.width))?.object ?? -1;
    behind.push({ object, tint: Math.min(low + span, Math.max(low, tint[k])) });
    counts.set(object, (counts.get(object) ?? 0) + 1);
  }
  // What fills much of the view through it, or much of the picture, is what things stand before.
  const numbers = channel(picture, 'object');
  const seen = new Map<number, number>();
  for (const number of numbers) seen.set(number - 1, (seen.get(number - 1) ?? 0) + 1);
  const isThing = (object: number) =>
    object >= 0 && counts.get(object)! < LARGE * behind.length && (seen.get(object) ?? 0) < LARGE * numbers.length;
  const things = behind.filter(({ object }) => isThing(object));
  if (things.length < THINGS * behind.length) return null;
  const now = things.reduce((sum, one) => sum + one.tint / things.length, 0);
  const turned = 2 * low + span - now;
  if (now > WORSE * turned) return null;
  const names = objectNames(document);
  return { names: [...new Set(things.map(({ object }) => names[object]))], now, turned };
}

/** The map turned over along the way it runs. */
function flipped(document: ShotDocument, own: Tinted): ControlValues | null {
  const { map } = own;
  if (map.kind === 'gradient' && map.axis !== 'u' && map.axis !== 'v') return null;
  const a = map.kind === 'gradient' && map.axis === 'u' ? 0 : 1;
  // F(R(θ) S x + o) with F mirroring one axis is R(−θ) S′ x + o′, S′ being negative on that axis.
  const part = (of: number[], at: (value: number) => number) => of.map((value, k) => (k === a ? at(value) : value));
  return withMap(document, own, { scale: part(map.scale, (s) => -s), offset: part(map.offset, (o) => 1 - o), rotation: -map.rotation }); // prettier-ignore
}

/** The map placed so that what is seen of this object has the part of the run that another has. */
function placedAs({ document }: RenderInput, own: Tinted, like: Tinted): ControlValues | null {
  const { map } = own;
  if (map.rotation !== 0 || like.map.rotation !== 0) return null;
  if (map.kind === 'gradient' && map.axis !== 'u' && map.axis !== 'v') return null;
  const placed = [0, 1].map((a) => {
    const [low, high] = uvRange(own, a);
    const there = uvRange(like, a).map((uv) => uv * like.map.scale[a] + like.map.offset[a]);
    const scale = high > low ? (there[1] - there[0]) / (high - low) : map.scale[a];
    return { scale, offset: there[0] - scale * low };
  });
  return withMap(document, own, { scale: placed.map(({ scale }) => round(scale)), offset: placed.map(({ offset }) => round(offset)) }); // prettier-ignore
}

function uvRange({ uvs }: Tinted, a: number): [number, number] {
  const own = uvs.map((uv) => uv[a]);
  return [percentile(own, 0.02), percentile(own, 0.98)];
}
const round = (value: number): number => Number(value.toPrecision(4));

/** Values that set a map for one object: in place where nothing else has it, else in a copy with a copy of the material. */
function withMap(document: ShotDocument, { id, mapId, map }: Tinted, set: Partial<PlacedMap>): ControlValues {
  const materialId = document.objects[id].material;
  const material = document.materials[materialId];
  const uses = Object.values(document.materials).flatMap((one) => Object.entries(one)).filter(([key, value]) => key.endsWith('Map') && value === mapId).length; // prettier-ignore
  const isOwn = Object.values(document.objects).filter((one) => one.material === materialId).length === 1;
  if (uses === 1 && isOwn) return Object.fromEntries(Object.entries(set).map(([key, value]) => [`/maps/${mapId}/${key}`, value])); // prettier-ignore
  const [newMap, newMaterial] = [freeKey(document.maps, `${mapId}-${id}`), freeKey(document.materials, `${materialId}-${id}`)]; // prettier-ignore
  return {
    [`/maps/${newMap}`]: { ...map, ...set },
    [`/materials/${newMaterial}`]: { ...material, baseColourMap: newMap },
    [`/objects/${id}/material`]: newMaterial,
  };
}

function freeKey(items: object, wanted: string): string {
  const base = wanted.replace(/[^A-Za-z0-9_.-]/g, '-').slice(0, 60);
  let key = base;
  for (let n = 2; Object.hasOwn(items, key); n++) key = `${base}-${n}`;
  return key;
}

function correlation(x: number[], y: ArrayLike<number>): number {
  const n = x.length;
  let [mx, my] = [0, 0];
  for (let k = 0; k < n; k++) [mx, my] = [mx + x[k] / n, my + y[k] / n];
  let [xx, yy, xy] = [0, 0, 0];
  for (let k = 0; k < n; k++) [xx, yy, xy] = [xx + (x[k] - mx) ** 2, yy + (y[k] - my) ** 2, xy + (x[k] - mx) * (y[k] - my)]; // prettier-ignore
  return xx > 0 && yy > 0 ? xy / Math.sqrt(xx * yy) : 0;
}
