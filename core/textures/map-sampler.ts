/**
 * Looks maps up at a place of a surface.
 *
 * @example
 * const sampler = new MapSampler(maps, chains);
 * sampler.uv[0] = 0.3; sampler.uv[1] = 0.7;
 * sampler.lookUp(2);
 * use(sampler.out);                 // red, green, blue, alpha
 * const rough = sampler.number(3);  // the one number its channel names
 */
import { toInt, type f64, type i32 } from '../data/numbers.ts';
import { luminance } from '../data/colour.ts';
import type { Texture } from '../data/texture.ts';
import {
  AXIS_RADIAL,
  MAP_CHECKER,
  MAP_GRADIENT,
  MAP_IMAGE,
  MAP_NOISE_OBJECT,
  MAP_NOISE_UV,
  MAP_WAVES,
  type CompiledMap,
} from './compiled-map.ts';
import { sampleImage } from './image.ts';
import { layeredNoise } from './noise.ts';
import { colourAt, STOP_STRIDE } from './stops.ts';
import { waterHeight } from './waves.ts';

export class MapSampler {
  /** Both UV sets of the place: u0, v0, u1, v1. */
  readonly uv = new Float64Array(4);
  /** The place in the object's own space, metres. */
  readonly object = new Float64Array(3);
  /** Width of what is looked at, in UV units of each set; for mips. */
  footprint: f64 = 0;
  readonly out = new Float64Array(4);

  /**
   * @param maps as compiled
   * @param chains each texture with its halved copies, by texture number
   */
  constructor(
    private readonly maps: CompiledMap[],
    private readonly chains: Texture[][],
  ) {}

  /** Leaves colour and alpha of map number `index` in `out`. */
  lookUp(index: i32): void {
    const map = this.maps[index];
    const { out, object, uv } = this;
    const { place, stops, figures } = map;
    const s = uv[map.uvSet * 2];
    const t = uv[map.uvSet * 2 + 1];
    const u = place[0] * s + place[1] * t + place[2];
    const v = place[3] * s + place[4] * t + place[5];
    out[3] = 1;
    switch (map.kind) {
      case MAP_IMAGE: {
        const grown =
          this.footprint * Math.max(Math.abs(place[0]) + Math.abs(place[1]), Math.abs(place[3]) + Math.abs(place[4]));
        sampleImage(this.chains[map.texture], u, v, map.filter, map.wrap, grown, out);
        return;
      }
      case MAP_GRADIENT:
        colourAt(stops, this.along(map.axis, u, v), out);
        return;
      case MAP_CHECKER: {
        const o = (toInt(Math.floor(u) + Math.floor(v)) & 1) * STOP_STRIDE;
        out[0] = stops[o + 1];
        out[1] = stops[o + 2];
        out[2] = stops[o + 3];
        return;
      }
      case MAP_NOISE_UV:
        colourAt(stops, layeredNoise(u * figures[0], v * figures[0], 0.5, toInt(figures[1]), toInt(figures[2])), out);
        return;
      case MAP_NOISE_OBJECT: {
        const f = figures[0];
        const seed = toInt(figures[2]);
        colourAt(stops, layeredNoise(object[0] * f, object[1] * f, object[2] * f, toInt(figures[1]), seed), out);
        return;
      }
      case MAP_WAVES:
        colourAt(stops, waterHeight(figures, object[0], object[2]), out);
    }
  }

  /** Where a place stands on a gradient's run. */
  private along(axis: i32, u: f64, v: f64): f64 {
    if (axis === 0) return u;
    if (axis === 1) return v;
    if (axis < AXIS_RADIAL) return this.object[axis - 2];
    const x = 2 * u - 1;
    const y = 2 * v - 1;
    return axis === AXIS_RADIAL ? Math.sqrt(x * x + y * y) : Math.max(Math.abs(x), Math.abs(y));
  }

  /** The one number of a map that its channel names. */
  number(index: i32): number {
    this.lookUp(index);
    const { out } = this;
    const { channel } = this.maps[index];
    return channel === 0 ? luminance(out[0], out[1], out[2]) : out[channel - 1];
  }
}
