/**
 * A tree over the lights that shadow rays aim at, by which one of many is chosen: what a node may bring to a place is told
 * by its power, its middle and its size.
 *
 * Source: Conty Estevez & Kulla, "Importance Sampling of Many Lights with Adaptive Tree Splitting", 2018; without their
 * bounds of orientation.
 */
import { luminance } from '../data/colour.ts';
import type { i32 } from '../data/numbers.ts';
import type { Texture } from '../data/texture.ts';
import { DISTANT_CAP } from './distant.ts';
import { EMITTER_STRIDE, MESH_COUNT, MESH_FIRST, type Emitters } from './mesh-light.ts';
import { QUAD_AREA, QUAD_PLACE, QUAD_U, QUAD_V } from './quad.ts';
import { skyRadiance, type Sky } from './sky.ts';
import { SPHERE_CENTRE, SPHERE_RADIUS } from './sphere.ts';
import {
  FAR,
  LIGHT_DISTANT,
  LIGHT_FLAGS,
  LIGHT_KIND,
  LIGHT_MESH,
  LIGHT_RADIANCE,
  LIGHT_RECTANGLE,
  LIGHT_SPHERE,
  LIGHT_STRIDE,
  SAMPLED,
} from './table.ts';

export interface LightTree {
  /** Lights that are aimed at. */
  count: i32;
  /** `TREE_STRIDE` numbers a node, the root first: see the TREE_… offsets. */
  nodes: Float64Array;
  /** Per node: its two children; of a leaf −1 − its light, and −1. */
  links: Int32Array;
  /** Per node: the node above it, −1 for the root. */
  parents: Int32Array;
  /** Per node, which stand in depth-first order: the one after all that are below it. */
  after: Int32Array;
  /** Per light: its leaf, or −1. */
  leaves: Int32Array;
  /** Lights that are far, and what each brings to any place, as luminance of irradiance. */
  far: Int32Array;
  farPower: Float64Array;
}

/** Lights that the first hit samples each on its own; of more, as many are chosen. */
export const EACH_AT_FIRST = 16;
/** The same of later events, which choose one: with two, a ray less each was as noisy at equal rays. */
export const EACH_LATER = 2;

export const TREE_STRIDE = 5;
export const TREE_CENTRE = 0;
/** Squared radius of the sphere around it, below which distances tell nothing. */
export const TREE_RADIUS2 = 3;
/** Luminance of intensity: over the squared distance it is that of irradiance. */
export const TREE_POWER = 4;

interface Item {
  light: number;
  power: number;
  min: number[];
  max: number[];
}

interface LightsOfScene {
  lights: Float64Array;
  lightCount: number;
  emitters: Emitters;
  sky: Sky;
  chains: Texture[][];
  /** Per light: area times luminance of what a mesh emits. */
  meshPower: Map<number, number>;
}

export function compileLightTree({ lights, lightCount, emitters, sky, chains, meshPower }: LightsOfScene): LightTree {
  const items: Item[] = [];
  const far: number[] = [];
  const farPower: number[] = [];
  for (let light = 0; light < lightCount; light++) {
    const o = light * LIGHT_STRIDE;
    const flags = lights[o + LIGHT_FLAGS];
    if ((flags & SAMPLED) === 0) continue;
    const bright = luminance(lights[o + LIGHT_RADIANCE], lights[o + LIGHT_RADIANCE + 1], lights[o + LIGHT_RADIANCE + 2]); // prettier-ignore
    if ((flags & FAR) !== 0) {
      far.push(light);
      farPower.push(lights[o + LIGHT_KIND] === LIGHT_DISTANT ? bright * discOf(lights[o + DISTANT_CAP]) : Math.PI * meanOf(sky, chains)); // prettier-ignore
    } else items.push({ light, ...boundsOf(lights, o, emitters), power: powerOf(lights, o, bright, meshPower.get(light) ?? 0) }); // prettier-ignore
  }
  const nodes: number[] = [];
  const links: number[] = [];
  const parents: number[] = [];
  const after: number[] = [];
  const leaves = new Int32Array(lightCount).fill(-1);
  const add = (list: Item[], parent: number): number => {
    const at = parents.length;
    parents.push(parent);
    links.push(-1, -1);
    const min = [0, 1, 2].map((a) => Math.min(...list.map((item) => item.min[a])));
    const max = [0, 1, 2].map((a) => Math.max(...list.map((item) => item.max[a])));
    const radius2 = min.reduce((sum, low, a) => sum + ((max[a] - low) / 2) ** 2, 0);
    nodes.push(
      ...min.map((low, a) => (low + max[a]) / 2),
      radius2,
      list.reduce((sum, { power }) => sum + power, 0),
    );
    if (list.length === 1) {
      links[at * 2] = -1 - list[0].light;
      leaves[list[0].light] = at;
      after[at] = at + 1;
      return at;
    }
    const [left, right] = parted(list);
    links[at * 2] = add(left, at);
    links[at * 2 + 1] = add(right, at);
    after[at] = parents.length;
    return at;
  };
  if (items.length) add(items, -1);
  return {
    count: items.length + far.length,
    nodes: Float64Array.from(nodes),
    links: Int32Array.from(links),
    parents: Int32Array.from(parents),
    after: Int32Array.from(after),
    leaves,
    far: Int32Array.from(far),
    farPower: Float64Array.from(farPower),
  };
}

/** π sin² of a disc's half angle; 1 for a direction alone, whose row holds its irradiance. */
const discOf = (cap: number): number => (cap > 0 ? Math.PI * cap * (2 - cap) : 1);

/** Mean luminance over directions that lie evenly on the sphere. */
function meanOf(sky: Sky, chains: Texture[][]): number {
  const out = new Float64Array(3);
  const directions = 256;
  let sum = 0;
  for (let k = 0; k < directions; k++) {
    const y = 1 - (2 * k + 1) / directions;
    const r = Math.sqrt(1 - y * y);
    const phi = k * Math.PI * (3 - Math.sqrt(5));
    skyRadiance(sky, chains, r * Math.cos(phi), y, r * Math.sin(phi), out);
    sum += luminance(out[0], out[1], out[2]);
  }
  return sum / directions;
}

function powerOf(lights: Float64Array, o: number, bright: number, meshPower: number): number {
  const kind = lights[o + LIGHT_KIND];
  if (kind === LIGHT_MESH) return meshPower;
  if (kind !== LIGHT_SPHERE) return bright * lights[o + QUAD_AREA];
  const radius = lights[o + SPHERE_RADIUS];
  return radius > 0 ? bright * Math.PI * radius * radius : bright;
}

function boundsOf(lights: Float64Array, o: number, { rows }: Emitters): Pick<Item, 'min' | 'max'> {
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  const reach = (a: number, value: number) => {
    min[a] = Math.min(min[a], value);
    max[a] = Math.max(max[a], value);
  };
  const kind = lights[o + LIGHT_KIND];
  for (let a = 0; a < 3; a++) {
    if (kind === LIGHT_SPHERE)
      for (const side of [-1, 1]) reach(a, lights[o + SPHERE_CENTRE + a] + side * lights[o + SPHERE_RADIUS]);
    else if (kind === LIGHT_MESH) {
      const first = lights[o + MESH_FIRST];
      for (let e = first * EMITTER_STRIDE; e < (first + lights[o + MESH_COUNT]) * EMITTER_STRIDE; e += EMITTER_STRIDE)
        for (const [u, v] of [[0, 0], [1, 0], [0, 1]]) reach(a, rows[e + a] + u * rows[e + 3 + a] + v * rows[e + 6 + a]); // prettier-ignore
    } else {
      // A rectangle's place is its corner, a disc's its middle.
      const low = kind === LIGHT_RECTANGLE ? 0 : -1;
      for (const u of [low, 1])
        for (const v of [low, 1]) reach(a, lights[o + QUAD_PLACE + a] + u * lights[o + QUAD_U + a] + v * lights[o + QUAD_V + a]); // prettier-ignore
    }
  }
  return { min, max };
}

/** Two parts along the axis and at the place where power times size is least. */
function parted(list: Item[]): [Item[], Item[]] {
  let best: [Item[], Item[]] = [list.slice(0, 1), list.slice(1)];
  let least = Infinity;
  for (let a = 0; a < 3; a++) {
    const sorted = [...list].sort((p, q) => p.min[a] + p.max[a] - q.min[a] - q.max[a] || p.light - q.light);
    const from = costs(sorted);
    const to = costs([...sorted].reverse());
    for (let k = 1; k < sorted.length; k++) {
      const cost = from[k - 1] + to[sorted.length - k - 1];
      if (cost < least) {
        least = cost;
        best = [sorted.slice(0, k), sorted.slice(k)];
      }
    }
  }
  return best;
}

/** Of the first 1, 2, … items together. */
function costs(items: Item[]): number[] {
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  let power = 0;
  return items.map((item) => {
    power += item.power;
    let size = 0;
    for (let a = 0; a < 3; a++) {
      min[a] = Math.min(min[a], item.min[a]);
      max[a] = Math.max(max[a], item.max[a]);
      size += (max[a] - min[a]) ** 2;
    }
    return power * size;
  });
}
