/** The light that throws a picture's shadows, of those that have depth maps. */
import { luminance } from '../data/colour.ts';
import { LightSampler } from '../lights/light-sampler.ts';
import type { GridPlace } from '../place/grid.ts';
import type { CompiledScene } from '../render/scene/scene.ts';
import { CASTS_SHADOWS, LIGHT_FLAGS, LIGHT_STRIDE } from '../lights/table.ts';
import { toInt } from '../data/numbers.ts';
import { kindOfMaps } from './frames.ts';

/** Places that are looked at. */
const PLACES = 100;

/** Rows of the lights that throw shadows and have maps, that which brings most to the places first. */
export function lightsWithMaps(scene: CompiledScene, places: readonly GridPlace[]): number[] {
  const sampler = new LightSampler(scene);
  const step = Math.max(1, Math.floor(places.length / PLACES));
  const brought = new Float64Array(scene.lightCount);
  const rows = [...brought.keys()].filter((row) => castsShadows(scene, row) && kindOfMaps(scene, row) !== null);
  for (let k = 0; k < places.length; k += step) {
    const { point, shadingNormal: n } = places[k].place;
    for (const row of rows) {
      if (!sampler.aim(row, point[0], point[1], point[2], 0.5, 0.5)) continue;
      const { radiance, density, direction: d } = sampler;
      const cosine = Math.max(0, d[0] * n[0] + d[1] * n[1] + d[2] * n[2]);
      brought[row] += (luminance(radiance[0], radiance[1], radiance[2]) * cosine) / density;
    }
  }
  return rows.sort((a, b) => brought[b] - brought[a] || a - b);
}

const castsShadows = ({ lights }: CompiledScene, row: number): boolean =>
  (toInt(lights[row * LIGHT_STRIDE + LIGHT_FLAGS]) & CASTS_SHADOWS) !== 0;
