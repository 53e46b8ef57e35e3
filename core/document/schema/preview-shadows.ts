/** Shadows of a real-time preview of the shot, by depth maps: see `shadow-map/simulate.ts`. Renders take nothing from it. */
import { Type, type Static } from '@sinclair/typebox';
import { choice, closed, number, whole } from './common.ts';

export const SHADOW_FILTERS = ['single', 'percentage-closer', 'variance', 'exponential'] as const;

export const PreviewShadows = Type.Object(
  {
    filter: choice(
      SHADOW_FILTERS,
      'one depth compared; a share of depths that pass; or a bound from mean and variance, or from means of exponentials',
    ),
    resolution: whole(16, 16384, 'texels on a side of each map'),
    depthBits: whole(8, 32, 'bits of a stored depth'),
    mapDistance: number(1e-3, 1e9, 'metres from the camera up to which there are shadows'),
    lightDistance: number(
      1e-3,
      1e9,
      'metres; how far towards a sun its maps begin, and how far from a lamp they end; what lies beyond throws or takes no shadow',
    ),
    near: number(1e-4, 1e6, 'metres from a lamp at which its maps begin; what is nearer throws no shadow'),
    cascades: whole(1, 4, 'maps that the camera’s view is split into, near to far; of a sun'),
    splitBlend: number(0, 1, 'lengths of the cascades; 0: all alike, 1: each a factor longer than the one before'),
    bias: number(0, 1e3, 'metres that a surface must lie behind a stored depth to be in shadow'),
    slopeBias: number(0, 64, 'the same in texels, times how much deeper the surface gets across one'),
    softness: number(0, 8, 'texels around its own that a filter takes in'),
    exponent: number(1, 88, 'sharpness of exponential maps, over the depth of a whole map'),
    leakCut: number(0, 0.95, 'light of a variance map that is taken for a leak'),
    contact: number(0, 100, 'metres in which contact shadows are looked for on screen; 0: there are none'),
  },
  closed,
);

export type PreviewShadowsSpec = Static<typeof PreviewShadows>;
