/** An invented renderer of the demo: direct light only, for quick pictures of sets. */
import { ableTarget, type Target } from '../target.ts';

export const ploverTarget: Target = {
  ...ableTarget(),
  name: 'Plover',
  about: 'Direct light only; no glass, no fog, nothing that moves; lights light everything.',
  surfaces: { without: ['transmission', 'attenuation', 'coat', 'see-through'] },
  maps: { baked: ['gradient', 'checker'], dropped: ['noise-uv', 'noise-object', 'waves'], uvSets: 1 },
  bake: { preview: 256, final: 512, own: {}, wins: 'smaller', most: 2048 },
  floors: true,
  sides: 'front',
  lights: { without: ['disc', 'mesh'], features: ['linking', 'shadow linking', 'reach', 'groups'], environmentImages: false },
  fog: false,
  background: true,
  motion: 'none',
  integrator: 'direct light only',
  precision: 'single',
  depth: { direct: 0, glass: 'faces', limits: 'one', most: 8 },
  dials: [{ name: 'quality', ours: ['/samples', '/extraSamples/light'], counts: 'samples', times: [], least: 1, most: 256 }],
  memory: { bytes: 4 * 2 ** 30, perTriangle: 64, perTexel: 4 },
}; // prettier-ignore
