/** An environment that is all the light there is, and too dark to be. */
import { channel } from '../../data/picture.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { isDark, isUnlit } from '../../lights/is-dark.ts';
import { luminancePlane, percentile } from '../../picture/measured.ts';
import type { Case, RenderInput } from '../family.ts';

export interface DimCase extends Case {
  kind: 'dim';
  document: ShotDocument;
  /** Stops of the brightest tenth of the surfaces under mid grey, 0.18. */
  under: number;
  /** Factor that brings it to where bright surfaces stand. */
  factor: number;
}

const GREY = 0.18;
/** Stops under mid grey at which even what is bright reads as black, and what a bright surface has, linear. */
const UNDER = 3;
const BRIGHT = 0.36;

export function dimCases({ document, picture }: RenderInput): DimCase[] {
  const lights = Object.values(document.lights).filter((light) => !light.hidden && !isDark(light));
  const glowing = Object.values(document.materials).some((material) => !isUnlit(material));
  if (lights.length > 0 || glowing || isDark(document.environment)) return [];
  const coverage = channel(picture, 'coverage');
  const y = luminancePlane(picture, 'beauty').filter((_, i) => coverage[i] > 0.98);
  if (y.length < 0.02 * coverage.length) return [];
  const bright = percentile(y, 0.9);
  const under = Math.log2(GREY / bright);
  if (!(bright > 0) || under < UNDER) return [];
  return [
    {
      key: 'lighting.environment-too-dark',
      kind: 'dim',
      severity: 'caution',
      region: { x: 0, y: 0, width: picture.width, height: picture.height },
      mask: null,
      passes: ['beauty'],
      document,
      under,
      factor: BRIGHT / bright,
    },
  ];
}
