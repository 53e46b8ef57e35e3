/**
 * The answer of a region in words.
 *
 * @example tellRegion(walk, sheet, askRegion(walk, region, { settings })!).sentence; // "Lit by sun (71 %) and environment (29 %); half …"
 */
import type { ToldRegion, ToldRegionLight } from '../../contracts/place.ts';
import type { Sheet } from '../../document/schema.ts';
import type { RegionAnswer } from '../../place/ask-region.ts';
import { lightName } from '../../place/light-name.ts';
import type { LightWalk } from '../../place/light-walk.ts';
import { capital, listed, percent } from '../words.ts';
import { pointerOfLight } from './light-pointer.ts';
import { tellPlace } from './tell-place.ts';

/** Shares of the light, and of the places, below which nothing is said. */
const SOME = 0.02;

export function tellRegion(walk: LightWalk, sheet: Sheet, answer: RegionAnswer): ToldRegion {
  const { scene, document } = walk;
  const { region, places, empty, direct, telling } = answer;
  const lights = answer.lights
    .filter(({ unshadowed }) => unshadowed > 0)
    .map(({ light, ...of }): ToldRegionLight => ({
      id: scene.lightIds[light],
      name: lightName({ scene, document }, light),
      pointer: pointerOfLight({ scene, document }, light),
      share: direct > 0 ? of.arriving / direct : 0,
      ...of,
    }));
  const told = tellPlace(walk, sheet, telling.pixel, telling.answer);
  return { region, places, empty, sentence: sentenceOf(lights, told.sentence), lights, direct, telling: told };
}

/** @param place of the place that tells most */
function sentenceOf(lights: ToldRegionLight[], place: string): string {
  const missing = lights.filter((light) => light.missing >= SOME);
  if (missing.length > 0) return `${missing.map(({ name, missing: share }) => `On ${percent(share)} of it a shadow of ${name} is missing.`).join(' ')} ${place}`; // prettier-ignore
  const parts = lights.filter(({ share }) => share >= SOME).map(({ name, share }) => `${name} (${percent(share)})`);
  if (parts.length === 0) return 'No light reaches this region directly.';
  const shadows = lights.filter(({ shaded, edge, contrast }) => shaded + edge >= SOME && contrast !== null).map(({ name, shaded, edge, contrast }) => `${name} is blocked on ${percent(shaded + edge)} of it, by ${contrast!.toFixed(1)} stops`); // prettier-ignore
  return `Lit by ${listed(parts, 5)}.${shadows.length > 0 ? ` ${capital(shadows.join('; '))}.` : ''}`;
}
