/** What the renderer needs and nothing else: flat typed arrays that threads can share. */
import type { i32 } from '../../data/numbers.ts';
import type { PreviewShadowsSpec, Sheet } from '../../document/schema.ts';
import type { SceneGeometry } from '../../geometry/scene-geometry.ts';
import type { LightTables } from '../../lights/light-sampler.ts';
import type { Sky } from '../../lights/sky.ts';
import type { CompiledMap } from '../../textures/compiled-map.ts';
import type { FilmLayout } from '../film/passes.ts';
import type { SceneKernel } from './scene-kernel.ts';

export interface CompiledScene extends LightTables {
  geometry: SceneGeometry;
  /** Put there by a host that has the WebAssembly kernel, for its own thread; null: the TypeScript twin is used. */
  kernel: SceneKernel | null;

  /** Per instance: row of `materials`. */
  instanceMaterial: Int32Array;
  /** Per instance: number of the object it shows; an object that moves has one instance for each slice of time. */
  instanceObject: Int32Array;
  /** Per instance: see the IS_… bits. */
  instanceFlags: Int32Array;
  /** Per instance: which closed glass body is there where several overlap; the higher one. */
  instancePriority: Int32Array;
  /** Per instance: number of the light that its surface is, or −1. */
  instanceLight: Int32Array;
  /** Per instance: row of its first triangle in `emitters`, or −1. */
  instanceEmitter: Int32Array;
  /** 12 doubles an instance: three rows of the world-to-object transform, for maps in the object's space. */
  toObject: Float64Array;
  /** 12 doubles an instance: where it stands a frame later, for motion vectors; null where nothing moves. */
  nextToWorld: Float64Array | null;

  objectIds: string[];
  objectCount: i32;
  materialIds: string[];
  /** Ids of the lights, by row; `environment` and `emission…` for those that have none. */
  lightIds: string[];
  /** Keys of the document's textures, by number of their chain. */
  textureIds: string[];
  /** What films of it keep beyond what all do. */
  layout: FilmLayout;

  /** See `material-row.ts`. */
  materials: Float64Array;
  /** Number of the document's material of each row of `materials`. */
  materialNumber: Int32Array;
  maps: CompiledMap[];

  lightCount: i32;
  /** Some lights have a size and a place, so that rays may meet them. */
  hasBodies: boolean;
  /** A byte for each light and object, whether it is lit; null where all is lit by all. */
  lightLinks: Uint8Array | null;
  shadowLinks: Uint8Array | null;
  /** Row of the environment. */
  skyLight: i32;
  /** What the camera sees behind everything; null: the environment. */
  background: Sky | null;
  /** Rays of the camera see nothing of it: only what is seen through clear glass. */
  hidesBackground: boolean;

  /** Extinction 1/m, albedo × 3, anisotropy, box minimum × 3, maximum × 3; null without fog. */
  fog: Float64Array | null;
  /** Some instances let shadow rays through. */
  hasThroughShadows: boolean;
  /** Rays and hits are rounded to 32 bits. */
  single: boolean;
  /** Slices of the time the shutter is open; 1 where nothing moves. */
  slices: i32;
  /** See the CAMERA_… places. */
  camera: Float64Array;
  /** Of a real-time preview; no render takes anything from it. Null: there is none. */
  previewShadows: PreviewShadowsSpec | null;
  /** What is unusual about the scene, one sentence each. */
  warnings: string[];
}

/** Places in `camera`: its origin, and the directions of the picture's right, up and centre at distance 1. */
export const CAMERA_RIGHT = 3;
export const CAMERA_UP = 6;
export const CAMERA_AHEAD = 9;
/** Metres along its axis to the planes that it sees between; the second may be Infinity. */
export const CAMERA_NEAR = 12;
export const CAMERA_FAR = 13;
/** Radius of the lens and distance of the plane in focus, metres; radius 0: all is sharp. */
export const CAMERA_LENS = 14;
export const CAMERA_FOCUS = 15;

/** Bits of `instanceFlags`. */
export const IS_GLASS = 1;
export const IS_THIN = 2;
export const IS_FLAT = 4;
/** Only one side of its triangles is there. */
export const IS_FRONT_ONLY = 8;
export const IS_BACK_ONLY = 16;
export const HAS_ALPHA = 32;
export const IS_SHADOW_ONLY = 64;
export const IS_CUT_OUT = 128;
export const IS_UNSHADED = 256;
export const IS_SEE_THROUGH = 512;
export const IS_FLOOR = 1024;
export const EMITS = 2048;
/** Hits need a closer look before they are one. */
export const IS_SPECIAL = IS_FRONT_ONLY | IS_BACK_ONLY | HAS_ALPHA | IS_SHADOW_ONLY | IS_CUT_OUT;

/** The part of a sheet that decides what each sample computes. */
export type RenderSettings = Pick<
  Sheet,
  | 'width'
  | 'height'
  | 'samples'
  | 'seed'
  | 'roulette'
  | 'filter'
  | 'limits'
  | 'rayDistance'
  | 'clamps'
  | 'roughnessFloor'
  | 'extraSamples'
  | 'adaptive'
  | 'occlusion'
  | 'lines'
  | 'neutral'
  | 'passes'
>;

export function settingsOf(sheet: Sheet, seed = sheet.seed): RenderSettings {
  const { width, height, samples, roulette, filter, limits, rayDistance, clamps, roughnessFloor } = sheet;
  const { extraSamples, adaptive, occlusion, lines, neutral, passes } = sheet;
  return {
    width,
    height,
    samples,
    seed,
    roulette,
    filter,
    limits,
    rayDistance,
    clamps,
    roughnessFloor,
    extraSamples,
    adaptive,
    occlusion,
    lines,
    neutral,
    passes,
  };
}
