/** A map of the document in the shape the renderer looks it up in. */
import type { i32 } from '../data/numbers.ts';
import type { Texture, TextureTiles } from '../data/texture.ts';
import type { MapSpec } from '../document/schema.ts';
import { BILINEAR, CLAMP, MIP, MIRROR, NEAREST, REPEAT } from './image.ts';
import { RIM, tileSize } from './tiles.ts';
import { compileStops } from './stops.ts';
import { compileWaves } from './waves.ts';

export const MAP_IMAGE = 0;
export const MAP_GRADIENT = 1;
export const MAP_CHECKER = 2;
export const MAP_NOISE_UV = 3;
export const MAP_NOISE_OBJECT = 4;
export const MAP_WAVES = 5;

/** What a material takes of a map where it needs one number. */
export const CHANNELS = ['luminance', 'red', 'green', 'blue', 'alpha'] as const;

export interface CompiledMap {
  kind: i32;
  uvSet: i32;
  /** UV → map: two rows of an affine 2×3 transform. */
  place: Float64Array;
  channel: i32;
  /** Image: number of the texture. */
  texture: i32;
  filter: i32;
  wrap: i32;
  /** Gradient: 0–1 UV, 2–4 axis of the object's space, then from the middle of UV space to its edge. */
  axis: i32;
  /** Gradient, noise and waves; a checker's two colours stand at 0 and 1. */
  stops: Float64Array;
  /** Noise: 1/size, octaves, seed. Waves: trains, see `waves.ts`. */
  figures: Float64Array;
}

const NO_FIGURES = new Float64Array(0);
const FILTERS = { nearest: NEAREST, bilinear: BILINEAR, mip: MIP };
const WRAPS = { repeat: REPEAT, clamp: CLAMP, mirror: MIRROR };
export const AXIS_RADIAL = 5;
export const AXIS_BOX = 6;
const AXES = { u: 0, v: 1, x: 2, y: 3, z: 4, radial: AXIS_RADIAL, box: AXIS_BOX };

/**
 * @param textures ids in the order of the scene's textures
 * @param image that it shows: it may have been joined of tiles
 */
export function compileMap(
  spec: MapSpec,
  textures: string[],
  image?: Pick<Texture, 'width' | 'height' | 'tiles'>,
): CompiledMap {
  const angle = (spec.rotation * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [sx, sy] = spec.scale;
  const base: CompiledMap = {
    kind: MAP_IMAGE,
    uvSet: spec.uvSet,
    place: Float64Array.of(cos * sx, -sin * sy, spec.offset[0], sin * sx, cos * sy, spec.offset[1]),
    channel: CHANNELS.indexOf(spec.channel),
    texture: -1,
    filter: BILINEAR,
    wrap: REPEAT,
    axis: 0,
    stops: 'stops' in spec ? compileStops(spec.stops) : NO_FIGURES,
    figures: NO_FIGURES,
  };
  switch (spec.kind) {
    case 'image':
      return {
        ...base,
        texture: textures.indexOf(spec.texture),
        filter: FILTERS[spec.filter],
        // Tiles stand where they stand, and nothing repeats.
        wrap: image?.tiles ? CLAMP : WRAPS[spec.wrap],
        ...(image?.tiles && { place: overTiles(base.place, { ...image, tiles: image.tiles }) }),
      };
    case 'gradient':
      return { ...base, kind: MAP_GRADIENT, axis: AXES[spec.axis] };
    case 'checker':
      return { ...base, kind: MAP_CHECKER, stops: Float64Array.of(0, ...spec.colours[0], 1, ...spec.colours[1]) };
    case 'noise-uv':
    case 'noise-object':
      return {
        ...base,
        kind: spec.kind === 'noise-uv' ? MAP_NOISE_UV : MAP_NOISE_OBJECT,
        figures: Float64Array.of(1 / spec.size, spec.octaves, spec.seed),
      };
    case 'waves':
      return {
        ...base,
        kind: MAP_WAVES,
        figures: compileWaves(spec.length, spec.directions, spec.phase, spec.seed),
      };
  }
}

/** From UVs to the image that all tiles are. */
function overTiles(place: Float64Array, image: Pick<Texture, 'width' | 'height'> & { tiles: TextureTiles }): Float64Array {
  const { tiles: { left, low }, width, height } = image;
  const [x, y] = tileSize(image);
  const [p, q] = [place.subarray(0, 3), place.subarray(3, 6)];
  const [across, up] = [x / width, y / height];
  return Float64Array.of(p[0] * across, p[1] * across, (p[2] - left) * across + RIM / width, q[0] * up, q[1] * up, (q[2] - low) * up + RIM / height);
} // prettier-ignore
