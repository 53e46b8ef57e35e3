/** The light that throws the shadows of a picture. */
import type { RenderInput } from '../family.ts';
import type { Survey } from './survey.ts';

/** Times the next that a light must bring to be the one that throws the shadows. */
const AHEAD = 2;

/** The light that brings most but for the environment, and whether it is the one that throws the shadows. */
export function keyOf(
  { scene }: RenderInput,
  { places }: Pick<Survey, 'places'>,
): { row: number; isAhead: boolean } | null {
  const totals = new Map<number, number>();
  for (const { lights } of places)
    for (const { light, arriving } of lights)
      if (scene.lightIds[light] !== 'environment') totals.set(light, (totals.get(light) ?? 0) + arriving);
  const [first, next] = [...totals.entries()].sort((a, b) => b[1] - a[1]);
  if (!first || !(first[1] > 0)) return null;
  return { row: first[0], isAhead: !next || first[1] >= AHEAD * next[1] };
}
