/** Shadows that a real-time preview of the shot shows otherwise than they are, by its depth maps. */
import type { PreviewShadowsSpec } from '../../document/schema.ts';
import { lightName } from '../../place/light-name.ts';
import { cornerOf, maskOfBlocks } from '../../place/grid.ts';
import { fitShadows, type FittedShadows } from '../../shadow-map/fit.ts';
import { previewLook } from '../../shadow-map/preview-error.ts';
import type { ReasonId } from '../../shadow-map/reasons.ts';
import { simulate, type SimulatedShadows } from '../../shadow-map/simulate.ts';
import type { Case, RenderInput } from '../family.ts';
import { regionOf } from '../regions.ts';

export interface PreviewCase extends Case {
  kind: 'preview';
  light: string;
  spec: PreviewShadowsSpec;
  simulated: SimulatedShadows;
  fitted: FittedShadows;
  /** Share of the wrong places that are right once the maps reach no farther than what is seen, 0–1. */
  tooFar: number;
}

/** Share of what the light lights that must be gained by maps that fit, and share that is wrong from which on it is more than a note. */
const LEAST = 0.004;
const PLAIN = 0.02;

export function previewCases(input: RenderInput): PreviewCase[] {
  const { scene, sheet, picture, document } = input;
  const look = previewLook(scene, sheet);
  if (!look || look.simulated.wrong < LEAST) return [];
  const { walk, step, traced, simulated } = look;
  const fitted = fitShadows(walk, traced, document.previewShadows!);
  // What no maps within reach show better is nobody's mistake: edges are off by a texel wherever there are texels.
  if (!fitted || simulated.wrong - simulate(walk, traced, fitted.spec).wrong < LEAST) return [];
  const tooFar = 1 - simulate(walk, traced, noFarther(document.previewShadows!, fitted.spec)).wrong / simulated.wrong;
  const places = traced.places.filter((_, k) => simulated.why[k] !== 0).map((place) => cornerOf(place, step));
  const mask = maskOfBlocks(picture, step, places);
  return [
    {
      key: 'shadows.preview',
      kind: 'preview',
      severity: simulated.wrong >= PLAIN ? 'caution' : 'note',
      region: regionOf(picture, mask),
      mask,
      passes: ['beauty', 'diffuse.direct'],
      light: lightName(input, traced.light),
      spec: document.previewShadows!,
      simulated,
      fitted,
      tooFar: Math.max(0, tooFar),
    },
  ];
}

/** Texels and steps of stored depths are as coarse as the distance is great that they are spread over. */
const noFarther = (spec: PreviewShadowsSpec, needed: PreviewShadowsSpec): PreviewShadowsSpec => ({
  ...spec,
  mapDistance: Math.min(spec.mapDistance, needed.mapDistance),
  lightDistance: Math.min(spec.lightDistance, needed.lightDistance),
});

/** Reasons by the cause that they are told as. */
export const MAP_CAUSES = {
  'shadows.map-distance': ['beyond-map', 'beyond-light', 'before-near'],
  'shadows.map-resolution': ['texels', 'bits', 'softness'],
  'shadows.map-bias': ['bias-too-large', 'bias-too-small'],
  'shadows.map-leak': ['leak', 'contact'],
} as const satisfies Record<string, readonly ReasonId[]>;
export type MapCause = keyof typeof MAP_CAUSES | 'shadows.distance-too-coarse';

/** Share of the wrong places that a cause has to do with, 0–1: the most of its reasons. What a nearer distance cures is no matter of texels. */
export function shareOfCause({ simulated, tooFar }: PreviewCase, cause: MapCause): number {
  if (cause === 'shadows.distance-too-coarse') return tooFar;
  const own: readonly ReasonId[] = MAP_CAUSES[cause];
  const most = Math.max(
    0,
    ...simulated.reasons.map(({ id, share }) => (own.includes(id) ? share / simulated.wrong : 0)),
  );
  return cause === 'shadows.map-resolution' ? Math.max(0, most - tooFar) : most;
}
