/**
 * Jagged terminators: the shading of a coarse mesh is smooth, and its faces are not. Where the smooth normal still faces a light
 * and the face turns away from it, light ends along the edges of faces, in steps. Described by Woo, Pearce & Ouellette, "It's
 * Really Not a Rendering Bug, You See...", 1996.
 */
import type { Triple } from '../../data/placement.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { isDark } from '../../lights/is-dark.ts';
import { cornerOf, maskOfBlocks, placesOver, type GridPlace } from '../../place/grid.ts';
import { LightWalk } from '../../place/light-walk.ts';
import type { Place } from '../../place/surface-walk.ts';
import { percentile } from '../../picture/measured.ts';
import { MATERIAL_STRIDE, MATERIAL_TURNS_NORMAL } from '../../render/scene/material-row.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { regionOf } from '../regions.ts';

export interface JaggedCase extends Case {
  kind: 'jagged';
  document: ShotDocument;
  /** Keys of objects and of the light. */
  ids: string[];
  light: string;
  /** Degrees between smooth normals and faces there, the median. */
  degrees: number;
}

/** Places that are looked at, about; those of an object that must be so, and their share of it. */
const PLACES = 8000;
const LEAST = 12;
const SHARE = 0.01;
/** Degrees between a face and its smooth normal from which on steps are seen. */
const COARSE = 5;
/** Degrees beyond which a light is wide, and takes the steps away. */
const HARD = 6;
const LIGHTS = 8;

export function jaggedCases({ document, scene, sheet, picture }: RenderInput): JaggedCase[] {
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const { step, places } = placesOver(walk, picture, PLACES);
  // A bump or a normal map turns normals on purpose.
  const isMapped = ({ instance }: Place) => scene.materials[scene.instanceMaterial[instance] * MATERIAL_STRIDE + MATERIAL_TURNS_NORMAL] > 0; // prettier-ignore
  const coarse = places.filter(({ place }) => !isMapped(place) && turned(place) >= COARSE);
  if (coarse.length < LEAST) return [];
  const whole = new Map<number, number>();
  for (const { place } of places) whole.set(place.object, (whole.get(place.object) ?? 0) + 1);
  const lights = Object.entries(document.lights).filter(([, light]) => !light.hidden && !isDark(light)).slice(0, LIGHTS); // prettier-ignore
  return lights.flatMap(([id, light]): JaggedCase[] => {
    if (light.kind !== 'distant' && light.kind !== 'point' && light.kind !== 'spot') return [];
    const { transform } = light;
    const towards = (point: Triple): Triple => {
      const way = light.kind === 'distant' ? transform.slice(8, 11) : point.map((c, a) => transform[12 + a] - c);
      const length = Math.hypot(...way);
      return way.map((v) => v / length) as Triple;
    };
    const isHard = ({ point }: Place) => (light.kind === 'distant' ? light.angle : (360 / Math.PI) * Math.atan(light.radius / Math.hypot(...point.map((c, a) => transform[12 + a] - c)))) <= HARD; // prettier-ignore
    const stepped = coarse.filter(({ place }) => {
      const way = towards(place.point);
      return isHard(place) && dot(way, place.shadingNormal) > 0.02 && dot(way, place.normal) <= 0;
    });
    const own = new Map<number, GridPlace[]>();
    for (const at of stepped) own.set(at.place.object, [...(own.get(at.place.object) ?? []), at]);
    const found = [...own].filter(([object, at]) => at.length >= Math.max(LEAST, SHARE * whole.get(object)!));
    if (found.length === 0) return [];
    const all = found.flatMap(([, at]) => at);
    const mask = maskOfBlocks(picture, step, all.map((at) => cornerOf(at, step))); // prettier-ignore
    const ids = found.map(([object]) => scene.objectIds[object]);
    return [
      {
        key: `shadows.jagged ${id}`,
        kind: 'jagged',
        severity: 'note',
        region: regionOf(picture, mask),
        mask,
        passes: ['diffuse.direct', 'normal'],
        objects: ids.map((one) => document.objects[one].name || one),
        document,
        ids,
        light: id,
        degrees: percentile(all.map(({ place }) => turned(place)), 0.5), // prettier-ignore
      },
    ];
  });
}

/** Degrees between the face and the normal that it is shaded with. */
const turned = ({ normal, shadingNormal }: Place): number =>
  (180 / Math.PI) * Math.acos(Math.min(1, dot(normal, shadingNormal)));

const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
