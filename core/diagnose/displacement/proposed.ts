/** What a relief and its object ask for: a level of subdivision, a scale. */
import type { ReliefStudy } from '../../relief/study.ts';

/** Of the relief, from which on a mesh carries the map. */
export const CARRIED = 0.8;
/** A scale that is proposed: at most so much more area, and parts of the size; half of what is thick. */
const [STRETCH, OF_SIZE, OF_THICKNESS] = [1.5, 0.1, 0.5];
/** Of the size, where a map does nothing. Common practice, without a source: 0.025 a start. */
const START = 0.025;

/** The least level whose edges carry the map; the finest told where none does. */
export function levelFor({ levels }: ReliefStudy): number {
  const found = levels.find(({ carried }) => carried === null || carried >= CARRIED);
  return (found ?? levels[levels.length - 1]).level;
}

/** The largest scale that neither blows an object up nor moves it through itself, of two digits. */
export function scaleFor({ shape, stretch, amplitude, size, through }: ReliefStudy): number {
  const { scale } = shape.relief;
  // Area grows with the square of slopes: of a surface that is stretched s times, by k times the scale, √(1 + k²(s² − 1)).
  const byArea = stretch > STRETCH ? Math.sqrt((STRETCH ** 2 - 1) / (stretch ** 2 - 1)) : 1;
  const by = Math.min(1, byArea, (OF_SIZE * size) / amplitude, OF_THICKNESS * through.least);
  return +(scale * by).toPrecision(2);
}

export function scaleUp({ shape, map, size }: ReliefStudy): number {
  const range = map.high - map.low || 1;
  return +((Math.sign(shape.relief.scale) * START * size) / range).toPrecision(2);
}
