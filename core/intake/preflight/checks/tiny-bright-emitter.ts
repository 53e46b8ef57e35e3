import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { count, metres } from '../tell.ts';

export const tinyBrightEmitter: Check = {
  id: 'tiny-bright-emitter',
  group: 'light',
  title: 'Tiny bright emitters',
  why: 'Paths find them only by chance, and each hit is a firefly.',
  threshold: CAUTION,
  run(scene) {
    const { source } = scene;
    const offenders: Offender[] = [];
    for (const { spec } of source.lights) {
      const size =
        spec.kind === 'rectangle' ? Math.max(spec.width, spec.height) : 'radius' in spec ? spec.radius * 2 : 0;
      const radiance =
        spec.kind === 'rectangle' || spec.kind === 'disc'
          ? spec.intensity
          : spec.intensity / (Math.PI * (size / 2) ** 2);
      if (size > 0 && isTiny(size, radiance * Math.max(...spec.colour)))
        offenders.push({
          object: spec.name,
          detail: `${metres(size)} across, ${radiance.toPrecision(3)} W/(sr m²)`,
          count: 1,
        });
    }
    for (const object of scene.objects) {
      const bright = Math.max(
        0,
        ...object.node.parts.map(({ material }) => {
          const spec = source.materials[material]?.spec;
          return spec ? Math.max(...spec.emission) * spec.emissionStrength : 0;
        }),
      );
      const { min, max } = scene.worldBounds(object);
      const size = Math.max(...min.map((v, a) => max[a] - v));
      if (bright > 0 && isTiny(size, bright))
        offenders.push({
          object: object.node.path,
          detail: `glows, ${metres(size)} across, ${bright.toPrecision(3)} W/(sr m²)`,
          count: 1,
        });
    }
    return { expected: 'none', found: count(offenders, 'emitter'), offenders };
  },
};

/** Below 2 cm across and above a thousand times a white wall in daylight’s shade. */
const isTiny = (size: number, radiance: number): boolean => size < 0.02 && radiance > 1000;
