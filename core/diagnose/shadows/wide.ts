/** A distant light so wide that its shadows dissolve: a sun that lights like a sky. Soft shadows of skies and softboxes are no fault. */
import type { ShotDocument } from '../../document/schema.ts';
import { percentile } from '../../picture/measured.ts';
import { maskOfBlocks } from '../../place/grid.ts';
import type { Case, RenderInput } from '../family.ts';
import { regionOf } from '../regions.ts';
import { keyOf } from './key-light.ts';
import type { Survey } from './survey.ts';

export interface WideCase extends Case {
  kind: 'wide';
  document: ShotDocument;
  light: string;
  name: string;
  /** Degrees. */
  angle: number;
  /** Of the edges of its shadows here, the median. */
  edge: { metres: number; pixels: number };
}

/** Degrees beyond which no sun is, haze and all; and share of the places that something must stand before. */
const WIDE = 20;
const SHADED = 0.01;

export function wideCases(input: RenderInput, survey: Survey): WideCase[] {
  const { document, scene, picture } = input;
  const key = keyOf(input, survey);
  if (!key) return [];
  const id = scene.lightIds[key.row];
  const light = Object.hasOwn(document.lights, id) ? document.lights[id] : null;
  if (light?.kind !== 'distant' || light.angle <= WIDE) return [];
  const shaded = survey.places.flatMap((at) => {
    const own = at.lights.find((one) => one.light === key.row);
    return own?.penumbra ? [{ at, edge: own.penumbra }] : [];
  });
  if (shaded.length < Math.max(2, SHADED * survey.places.length)) return [];
  const mask = maskOfBlocks(picture, survey.step, shaded.map(({ at }) => at)); // prettier-ignore
  const median = (of: 'metres' | 'pixels') => percentile(shaded.map(({ edge }) => edge[of]), 0.5); // prettier-ignore
  return [
    {
      key: `shadows.wide ${id}`,
      kind: 'wide',
      severity: 'caution',
      region: regionOf(picture, mask),
      mask,
      passes: ['beauty', 'diffuse.direct'],
      document,
      light: id,
      name: light.name || id,
      angle: light.angle,
      edge: { metres: median('metres'), pixels: median('pixels') },
    },
  ];
}
