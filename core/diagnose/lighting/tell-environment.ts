/** What the environment brings to places, and which way to turn it. */
import type { ToldEnvironment, ToldPlace } from '../../contracts/place.ts';
import { measureEnvironment, sweepRotation } from '../../place/environment.ts';
import type { LightWalk } from '../../place/light-walk.ts';
import type { Place } from '../../place/surface-walk.ts';

/** Turns that are told. */
const STEPS = 36;

/**
 * @param arriving irradiance there, the mean, luminance, W/m²: of all lights, and of the environment with its sun
 * @returns null where turning changes nothing, or the environment sends nothing
 */
export function tellEnvironment(
  walk: LightWalk,
  places: readonly Place[],
  arriving: { direct: number; environment: number },
): ToldEnvironment | null {
  const { environment } = walk.document;
  if (environment.kind !== 'image' && environment.kind !== 'daylight') return null;
  const measured = measureEnvironment(walk.scene);
  const turned = measured ? sweepRotation(walk, places, { steps: STEPS }) : [];
  if (!measured || turned.length === 0) return null;
  const rest = Math.max(0, arriving.direct - arriving.environment);
  // Held against its own sweep, so that what both are off by is gone.
  const now = rest + turned[0].irradiance;
  const { level, brightest } = measured;
  return {
    level,
    hasSun: walk.scene.lightIds.includes('sun of the sky'),
    brightest,
    adds: rest > 0 ? Math.log2(now / rest) : null,
    rotation: environment.rotation,
    turned: turned.map(({ turn, irradiance }) => ({
      rotation: environment.rotation + turn,
      stops: now > 0 ? Math.log2(Math.max(1e-4 * now, rest + irradiance) / now) : 0,
    })),
  };
}

/** What a place gets of the environment and its sun, luminance, W/m². */
export const skyAt = ({ lights }: ToldPlace): number =>
  lights.reduce((sum, { pointer, arriving }) => sum + (pointer === '/environment' ? arriving : 0), 0);
