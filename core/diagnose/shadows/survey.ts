/**
 * The shadow survey: places spread evenly over the picture are asked about every light that matters there. A shadow that is
 * missing is one that nature throws and the render does not, by a setting; a soft or faint shadow is no fault.
 */
import { channel } from '../../data/picture.ts';
import { askPlace, type LightAtPlace } from '../../place/ask.ts';
import { LightWalk, unshadowed } from '../../place/light-walk.ts';
import type { Place } from '../../place/surface-walk.ts';
import { EMITS, IS_GLASS, settingsOf } from '../../render/scene/scene.ts';
import { luminancePlane } from '../../picture/measured.ts';
import type { RenderInput } from '../family.ts';

/** Places in all, about; and rays from each to a light, the environment four times as many. */
const PLACES = 500;
const RAYS = 16;
/** Lights that are asked about: those that bring most. */
const MOST_LIGHTS = 12;

export interface SurveyedPlace {
  /** Block of pixels that it stands for. */
  x: number;
  y: number;
  place: Place;
  lights: LightAtPlace[];
  /** Irradiance of everything there, what bounces too; W/m². */
  everything: number;
}

export interface Survey {
  walk: LightWalk;
  /** Pixels on a side of a place's block. */
  step: number;
  places: SurveyedPlace[];
}

export function surveyOf({ document, scene, sheet, picture }: RenderInput): Survey {
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const step = Math.max(1, Math.round(Math.sqrt((picture.width * picture.height) / PLACES)));
  const planes = ['diffuse.direct', 'diffuse.indirect'].map((pass) => luminancePlane(picture, pass));
  const coverage = channel(picture, 'coverage');
  const lights = lightsThatMatter(walk, picture, step);
  const places: SurveyedPlace[] = [];
  for (let y = 0; y < picture.height; y += step)
    for (let x = 0; x < picture.width; x += step) {
      const [column, row] = [Math.min(picture.width - 1, x + (step >> 1)), Math.min(picture.height - 1, y + (step >> 1))]; // prettier-ignore
      if (coverage[row * picture.width + column] === 0) continue;
      const place = walk.surfaceAt(column, row);
      if (!place || isLightItself(scene.instanceFlags[place.instance])) continue;
      const { lights: asked, direct } = askPlace(walk, place, { lights, rays: RAYS });
      const [is, bounced] = planes.map((plane) => blockMean(plane, picture.width, picture.height, x, y, step));
      places.push({ x, y, place, lights: asked, everything: direct * (is > 0 ? 1 + bounced / is : 1) });
    }
  return { walk, step, places };
}

const isLightItself = (flags: number): boolean => (flags & (EMITS | IS_GLASS)) !== 0;

/** Rows of the lights that bring most to a handful of places. */
function lightsThatMatter(
  walk: LightWalk,
  { width, height }: { width: number; height: number },
  step: number,
): number[] {
  const { lightCount } = walk.scene;
  const rows = Array.from({ length: lightCount }, (_, row) => row);
  if (lightCount <= MOST_LIGHTS) return rows;
  const brought = new Float64Array(lightCount);
  for (let y = step; y < height; y += step * 4)
    for (let x = step; x < width; x += step * 4) {
      const place = walk.surfaceAt(x, y);
      if (!place) continue;
      for (const row of rows) brought[row] += unshadowed(walk.towards(place, row, 1).rays);
    }
  return rows.sort((a, b) => brought[b] - brought[a] || a - b).slice(0, MOST_LIGHTS).sort((a, b) => a - b); // prettier-ignore
}

function blockMean(plane: Float32Array, width: number, height: number, x: number, y: number, step: number): number {
  let [sum, n] = [0, 0];
  for (let row = y; row < Math.min(height, y + step); row++)
    for (let column = x; column < Math.min(width, x + step); column++, n++) sum += plane[row * width + column];
  return sum / n;
}
