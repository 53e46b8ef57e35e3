/** What the renderer needs and nothing else: flat typed arrays that threads can share. */
import type { Texture } from '../data/texture.ts';
import type { FilterKind, Sheet } from '../document/schema.ts';
import type { Intersector } from '../geometry/intersector.ts';
import type { SceneGeometry } from '../geometry/scene-geometry.ts';

export interface CompiledScene {
  geometry: SceneGeometry;
  /** Put there by a host that has the WebAssembly kernel, for its own thread; null: the TypeScript twin is used. */
  rays: Intersector | null;
  /** Per instance: row of `materials`; −1 for a light's surface. */
  instanceMaterial: Int32Array;
  /** Per instance: which closed glass body is there where several overlap; the higher one. */
  instancePriority: Int32Array;
  /** Per instance: number of the light whose surface it is, or −1. */
  instanceLight: Int32Array;
  /** Object or light id of each instance, for evidence. */
  instanceIds: string[];
  /** See the MATERIAL_… offsets. */
  materials: Float64Array;
  textures: Texture[];
  /** See `lights/rectangle.ts`. */
  lights: Float64Array;
  lightCount: number;
  /** Radiance from everywhere that nothing else is. */
  environment: Float64Array;
  /** Origin, and the directions of the picture's right, up and centre at distance 1. */
  camera: Float64Array;
}

export const MATERIAL_STRIDE = 16;
export const MATERIAL_BASE = 0;
export const MATERIAL_TEXTURE = 3;
export const MATERIAL_METALLIC = 4;
export const MATERIAL_ROUGHNESS = 5;
export const MATERIAL_IOR = 6;
export const MATERIAL_TRANSMISSION = 7;
export const MATERIAL_ABSORPTION = 8;
export const MATERIAL_EMISSION = 11;

/** The part of a sheet that decides what each sample computes. */
export interface RenderSettings {
  width: number;
  height: number;
  seed: number;
  roulette: boolean;
  filter: { kind: FilterKind; width: number };
  limits: Sheet['limits'];
  extraSamples: Sheet['extraSamples'];
}

export function settingsOf(sheet: Sheet, seed = sheet.seed): RenderSettings {
  const { width, height, roulette, filter, limits, extraSamples } = sheet;
  return { width, height, seed, roulette, filter, limits, extraSamples };
}
