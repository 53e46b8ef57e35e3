/** One pixel's story in words, from its measured values. */
import type { Sheet } from '../document/schema.ts';

const KINDS = ['transmission', 'specular', 'diffuse'] as const;

/**
 * @param values of one pixel by channel name (`crossings`, `cut.transmission`, `samples` …)
 * @returns a phrase a person can read aloud: "a straight path crosses 20 faces; 61 % of the light is cut by transmission 8"
 */
export function tellPixel(values: Record<string, number>, limits: Sheet['limits']): string {
  if (!(values.samples > 0)) return 'not rendered yet';
  const percent = (x: number) => `${Math.round(x * 100)} %`;
  const parts = [];
  if (values.crossings > 0)
    parts.push(`a straight path crosses ${values.crossings} ${values.crossings === 1 ? 'face' : 'faces'}`);
  else parts.push('nothing to look through');
  const cuts = KINDS.filter((kind) => values[`cut.${kind}`] >= 0.005).map(
    (kind) => `${percent(values[`cut.${kind}`])} by ${kind} ${limits[kind]}`,
  );
  if (values['cut.overall'] >= 0.005) cuts.push(`${percent(values['cut.overall'])} by overall ${limits.overall}`);
  parts.push(
    cuts.length
      ? `${percent(values['cut.any'])} of the path weight is cut: ${cuts.join(', ')}`
      : 'no limit cuts anything',
  );
  parts.push(`${Math.round(values.cost * values.samples)} rays for ${Math.round(values.samples)} samples`);
  return parts.join('; ');
}
