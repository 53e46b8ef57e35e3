/** Lights, emitting surfaces and the environment of a document → one table. */
import { placedAt } from '../../data/aim.ts';
import { sunDirection } from '../../data/placement.ts';
import { SUN_SIZE, sunIrradiance } from '../../lights/daylight.ts';
import type {
  EnvironmentSpec,
  LightSpec,
  MaterialSpec,
  ObjectSpec,
  ReachSpec,
  ShotDocument,
} from '../../document/schema.ts';
import { luminance } from '../../data/colour.ts';
import { defaultLight } from '../../document/defaults.ts';
import { CAMERA_RAY, DIFFUSE_RAY, SPECULAR_RAY, TRANSMISSION_RAY } from '../../geometry/ray-kinds.ts';
import type { Allocate } from '../../geometry/allocate.ts';
import { distantRadiance, writeDistant } from '../../lights/distant.ts';
import { linkRow } from '../../lights/link.ts';
import {
  EMITTER_CORNER,
  EMITTER_DENSITY,
  EMITTER_STRIDE,
  EMITTER_U,
  EMITTER_V,
  MESH_COUNT,
  MESH_FIRST,
  type Emitters,
} from '../../lights/mesh-light.ts';
import { compileLightTree, EACH_AT_FIRST, type LightTree } from '../../lights/light-tree.ts';
import { QUAD_AREA, writeQuad } from '../../lights/quad.ts';
import { sphereRadiance, writeSphere } from '../../lights/sphere.ts';
import {
  FAR,
  LIGHT_DISC,
  LIGHT_DISTANT,
  LIGHT_FLAGS,
  LIGHT_MESH,
  LIGHT_RECTANGLE,
  LIGHT_SAMPLES,
  LIGHT_SKY,
  LIGHT_SPHERE,
  LIGHT_STRIDE,
  LINKED,
  PLAIN_SHADOWS,
  POINT_LIKE,
  SAMPLED,
  SHADOW_LINKED,
  writeEmitter,
} from '../../lights/table.ts';
import { compileSky, SKY_CONSTANT, type Sky } from '../../lights/sky.ts';
import { invert } from '../../data/transform.ts';
import type { CompiledInstances } from './instances.ts';
import type { CompiledSurfaces } from './surfaces.ts';
import { lightGroups, lightsOn } from '../film/film-layout.ts';
import { EMITS, IS_UNSHADED } from '../scene/scene.ts';

export interface CompiledLights {
  lights: Float64Array;
  lightCount: number;
  lightIds: string[];
  hasBodies: boolean;
  emitters: Emitters;
  lightTree: LightTree;
  instanceLight: number[];
  instanceEmitter: number[];
  lightLinks: Uint8Array | null;
  shadowLinks: Uint8Array | null;
  sky: Sky;
  skyLight: number;
}

type Visibility = LightSpec['visibility'];
const visibilityMask = (v: Visibility): number =>
  (v.camera ? CAMERA_RAY : 0) |
  (v.diffuse ? DIFFUSE_RAY : 0) |
  (v.specular ? SPECULAR_RAY : 0) |
  (v.transmission ? TRANSMISSION_RAY : 0);

/** Mesh lights that are on, by object. */
export function meshLights(document: ShotDocument): Map<string, Extract<LightSpec, { kind: 'mesh' }>> {
  const out = new Map<string, Extract<LightSpec, { kind: 'mesh' }>>();
  for (const id of lightsOn(document)) {
    const light = document.lights[id];
    if (light.kind === 'mesh') out.set(light.object, light);
  }
  return out;
}

export function compileLights(
  document: ShotDocument,
  surfaces: CompiledSurfaces,
  placed: CompiledInstances,
  allocate: Allocate,
  warnings: string[],
): CompiledLights {
  const groups = ['', ...lightGroups(document)];
  const group = (name: string) => Math.max(0, groups.indexOf(name));
  const rows: number[][] = [];
  const lightIds: string[] = [];
  const links: LightSpec[] = [];
  let hasBodies = false;
  const add = (id: string, spec: LightSpec, kind: number, factor: number, shape: (row: Float64Array) => number) => {
    const row = new Float64Array(LIGHT_STRIDE);
    writeEmitter(row, 0, kind, spec, factor * spec.intensity, visibilityMask(spec.visibility), group(spec.group));
    row[LIGHT_FLAGS] = (row[LIGHT_FLAGS] | shape(row)) >>> 0;
    rows.push([...row]);
    lightIds.push(id);
    links.push(spec);
    return rows.length - 1;
  };
  const meshRows = new Map<string, number>();
  for (const id of lightsOn(document)) {
    const spec = document.lights[id];
    switch (spec.kind) {
      case 'point':
      case 'spot':
        add(id, spec, LIGHT_SPHERE, sphereRadiance(spec), (row) => {
          writeSphere(row, 0, spec);
          hasBodies ||= spec.radius > 0;
          return spec.radius > 0 ? 0 : POINT_LIKE;
        });
        break;
      case 'distant':
        add(id, spec, LIGHT_DISTANT, distantRadiance(spec), (row) => {
          writeDistant(row, 0, spec);
          return FAR | (spec.angle > 0 ? 0 : POINT_LIKE);
        });
        break;
      case 'rectangle':
      case 'disc': {
        const at = add(id, spec, spec.kind === 'disc' ? LIGHT_DISC : LIGHT_RECTANGLE, 1, (row) => {
          writeQuad(row, 0, spec);
          return 0;
        });
        if (rows[at][QUAD_AREA] > 0) hasBodies = true;
        else {
          warnings.push(`Light "${id}" has no area and gives no light.`);
          rows[at][LIGHT_FLAGS] = 0;
        }
        break;
      }
      case 'mesh':
        meshRows.set(
          spec.object,
          add(id, spec, LIGHT_MESH, 1, () => 0),
        );
    }
  }

  const emitters = new EmitterTable();
  const meshPower = new Map<number, number>();
  const instanceLight: number[] = new Array(placed.instances.length).fill(-1);
  const instanceEmitter: number[] = new Array(placed.instances.length).fill(-1);
  const kin = new Map<string, number[]>();
  placed.instances.forEach((instance, i) => {
    if ((placed.flags[i] & EMITS) === 0) return;
    const material = surfaces.specs[placed.material[i]];
    const own = meshRows.get(placed.objectIds[placed.object[i]]);
    // Moving emitters are found by chance alone: their place is not one.
    const isSampled = material.sampledAsLight && (instance.slice ?? -1) < 0;
    const key = own !== undefined ? `light ${own}` : JSON.stringify([isSampled, material.lightGroup, material.reach]);
    const members = kin.get(key) ?? [];
    if (members.length === 0) kin.set(key, members);
    members.push(i);
  });
  for (const [key, members] of kin) {
    const material = surfaces.specs[placed.material[members[0]]];
    const id = key.startsWith('light ')
      ? Number(key.slice(6))
      : add(`emission ${lightIds.length + 1}`, glowOf(material.reach, material.lightGroup), LIGHT_MESH, 1, () => 0);
    const first = emitters.count;
    for (const i of members) {
      instanceLight[i] = id;
      instanceEmitter[i] = emitters.count;
      emitters.add(placed, i, material);
    }
    const isSampled = material.sampledAsLight && members.every((i) => (placed.instances[i].slice ?? -1) < 0);
    const total = emitters.finish(first);
    meshPower.set(id, total);
    rows[id][MESH_FIRST] = first;
    rows[id][MESH_COUNT] = emitters.count - first;
    if (!isSampled || !(total > 0)) rows[id][LIGHT_FLAGS] &= ~SAMPLED;
  }

  const { environment } = document;
  const sun = sunOf(environment, warnings);
  if (sun)
    add('sun of the sky', sun, LIGHT_DISTANT, distantRadiance(sun), (row) => {
      writeDistant(row, 0, sun);
      return FAR;
    });
  const skyLight = rows.length;
  const { environment: skyTexture } = surfaces.skies;
  const sky = compileSky(environment, skyTexture, surfaces.chains[skyTexture] ?? null, true);
  const row = new Float64Array(LIGHT_STRIDE);
  writeEmitter(
    row,
    0,
    LIGHT_SKY,
    environment,
    environment.intensity,
    visibilityMask(environment.visibility),
    group(environment.group),
  );
  row[LIGHT_FLAGS] |= FAR;
  // One colour is met best by the directions that surfaces choose, unless its shadows are not nature's.
  const isPlain = (row[LIGHT_FLAGS] & PLAIN_SHADOWS) !== 0 && !placed.flags.some((f) => f & IS_UNSHADED);
  const isDark = sky.kind !== SKY_CONSTANT && sky.distribution === null;
  if (isDark || environment.intensity === 0 || (sky.kind === SKY_CONSTANT && isPlain)) row[LIGHT_FLAGS] &= ~SAMPLED;
  rows.push([...row]);
  lightIds.push('environment');

  const all = [...links, environment];
  const linkTable = (bit: number, of: 'lights' | 'shadowsOf') =>
    rows.some((r) => r[LIGHT_FLAGS] & bit)
      ? Uint8Array.from(all.flatMap((spec) => [...linkRow(spec[of], placed.objectIds)]))
      : null;
  const lights = new Float64Array(allocate(rows.length * LIGHT_STRIDE * 8));
  rows.forEach((r, i) => lights.set(r, i * LIGHT_STRIDE));
  const table = emitters.table();
  const { chains } = surfaces;
  const lightTree = compileLightTree({ lights, lightCount: rows.length, emitters: table, sky, chains, meshPower });
  const asking = lightIds.find((_, i) => rows[i][LIGHT_SAMPLES] > 1);
  if (asking !== undefined && lightTree.count > EACH_AT_FIRST)
    warnings.push(
      `Light "${asking}" asks for ${rows[lightIds.indexOf(asking)][LIGHT_SAMPLES]} samples of its own, but of ${lightTree.count} lights ${EACH_AT_FIRST} are chosen at each hit, by what they bring.`,
    );
  return {
    lights,
    lightCount: rows.length,
    lightIds,
    hasBodies,
    emitters: table,
    lightTree,
    instanceLight,
    instanceEmitter,
    lightLinks: linkTable(LINKED, 'lights'),
    shadowLinks: linkTable(SHADOW_LINKED, 'shadowsOf'),
    sky,
    skyLight,
  };
}

/** The sun of a daylight environment, as a light; null where there is none. */
function sunOf(environment: EnvironmentSpec, warnings: string[]): Extract<LightSpec, { kind: 'distant' }> | null {
  const { kind, intensity, colour, rotation, daylight } = environment;
  if (kind !== 'daylight' || !(intensity > 0)) return null;
  if (daylight.elevation < 0)
    warnings.push('The sun is below the horizon: a daylight sky has no night, and gives no light.');
  const irradiance = sunIrradiance(daylight).map((value, a) => value * colour[a]);
  const most = Math.max(...irradiance);
  if (!daylight.sun || !(most > 0)) return null;
  const { samples, castsShadows, shadowColour, shadowDistance, lights, shadowsOf, visibility, group, reach } = environment; // prettier-ignore
  const azimuth = daylight.azimuth - rotation;
  return {
    ...defaultLight('distant'),
    samples,
    castsShadows,
    shadowColour,
    shadowDistance,
    lights,
    shadowsOf,
    visibility,
    group,
    reach,
    angle: SUN_SIZE,
    intensity: intensity * most,
    colour: irradiance.map((value) => value / most),
    transform: placedAt(sunDirection({ ...daylight, azimuth }), [0, 0, 0]),
  };
}

/** The light that surfaces are which emit without one: all as a light starts with. */
function glowOf(reach: ReachSpec, group: string): LightSpec {
  return { ...defaultLight('mesh'), reach, group };
}

/** Objects whose mesh light replaces what their material emits. */
export function glowOfObject(light: Extract<LightSpec, { kind: 'mesh' }>, object: ObjectSpec) {
  return { material: object.material, emission: light.colour.map((c) => c * light.intensity) };
}

class EmitterTable {
  private readonly rows: number[] = [];
  private readonly chance: number[] = [];
  private readonly instance: number[] = [];
  private readonly triangle: number[] = [];

  get count(): number {
    return this.chance.length;
  }

  /** Adds every triangle of an instance, weighted by area and brightness. */
  add(placed: CompiledInstances, i: number, material: MaterialSpec): void {
    const { mesh, transform: m } = placed.instances[i];
    const { positions, indices } = placed.meshes[mesh];
    const bright =
      luminance(material.emission[0], material.emission[1], material.emission[2]) * material.emissionStrength;
    const corner = (k: number) => {
      const [x, y, z] = positions.subarray(indices[k] * 3, indices[k] * 3 + 3);
      return [0, 1, 2].map((a) => m[a] * x + m[4 + a] * y + m[8 + a] * z + m[12 + a]);
    };
    for (let t = 0; t < indices.length / 3; t++) {
      const [p, q, r] = [corner(t * 3), corner(t * 3 + 1), corner(t * 3 + 2)];
      const u = q.map((c, a) => c - p[a]);
      const v = r.map((c, a) => c - p[a]);
      const area = Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
      const row = new Array<number>(EMITTER_STRIDE).fill(0);
      for (let a = 0; a < 3; a++) {
        row[EMITTER_CORNER + a] = p[a];
        row[EMITTER_U + a] = u[a];
        row[EMITTER_V + a] = v[a];
      }
      row[EMITTER_DENSITY] = bright;
      for (const value of row) this.rows.push(value);
      this.chance.push(area * bright);
      this.instance.push(i);
      this.triangle.push(t);
    }
  }

  /** Turns weights from row `first` on into chances and densities; returns the sum of the weights. */
  finish(first: number): number {
    let sum = 0;
    for (let k = first; k < this.count; k++) {
      sum += this.chance[k];
      this.chance[k] = sum;
    }
    for (let k = first; k < this.count; k++) {
      this.chance[k] = sum > 0 ? this.chance[k] / sum : 1;
      this.rows[k * EMITTER_STRIDE + EMITTER_DENSITY] /= sum || 1;
    }
    return sum;
  }

  table(): Emitters {
    return {
      rows: Float64Array.from(this.rows),
      chance: Float64Array.from(this.chance),
      instance: Int32Array.from(this.instance),
      triangle: Int32Array.from(this.triangle),
    };
  }
}

/** Rows of a transform's inverse, for `toObject`. */
export function inverseRows(m: number[]): number[] {
  const r = invert(m);
  return [0, 1, 2].flatMap((row) => [r[row], r[4 + row], r[8 + row], r[12 + row]]);
}
