/** Lights that stand for what a glow's surface sends out. */
import { defaultLight } from '../../../document/defaults.ts';
import type { LightSpec, LinkSpec, ShotDocument } from '../../../document/schema.ts';
import { translation } from '../../../data/transform.ts';
import type { Glow } from '../case.ts';

/** Radiance of a glow per channel. */
export function radianceOf(document: ShotDocument, { light, material }: Glow): number[] | null {
  if (light !== null) {
    const spec = document.lights[light];
    return spec.kind === 'mesh' ? spec.colour.map((c) => c * spec.intensity) : null;
  }
  if (material === null) return null;
  const { emission, emissionStrength, emissionMap } = document.materials[material];
  // A map has no one radiance.
  return emissionMap === null ? emission.map((c) => c * emissionStrength) : null;
}

/**
 * Point lights by their pointers, of the same power, size and place, that only what is lit sees.
 * @param without objects that throw no shadow in their light
 * @param lights what they light
 */
export function standInLights(
  document: ShotDocument,
  glow: Glow,
  radiance: number[],
  suffix: string,
  without: string[],
  lights: LinkSpec = { mode: 'all', objects: [] },
): Record<string, LightSpec> {
  const strongest = Math.max(...radiance);
  const group = glow.light === null ? document.materials[glow.material!].lightGroup : document.lights[glow.light].group;
  const name = glow.objects[0];
  return Object.fromEntries(
    glow.spheres.map(({ centre, radius, area }, k) => {
      const number = glow.spheres.length > 1 ? `-${k + 1}` : '';
      const light: LightSpec = {
        ...defaultLight('point'),
        name: `${document.objects[name].name || name} ${suffix}${number && ` ${k + 1}`}`,
        transform: translation(...centre),
        colour: radiance.map((c) => c / strongest),
        intensity: (strongest * area) / 4,
        radius,
        shadowsOf: { mode: 'except', objects: [...new Set(without)].sort() },
        visibility: { camera: false, diffuse: true, specular: true, transmission: false },
        lights,
        group,
      };
      return [`/lights/${freeId(document, `${name}-${suffix}${number}`)}`, light];
    }),
  );
}

function freeId(document: ShotDocument, wanted: string): string {
  let id = wanted.slice(0, 90);
  for (let k = 2; Object.hasOwn(document.lights, id); k++) id = `${wanted.slice(0, 90)}-${k}`;
  return id;
}
