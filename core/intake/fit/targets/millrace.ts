/** An invented renderer of the demo: images only, a few bounces, samples as roots. */
import { ableTarget, type Target } from '../target.ts';

export const millraceTarget: Target = {
  ...ableTarget(),
  name: 'Millrace',
  about: 'Textures are images; positions are single precision; sample dials count the root of the samples.',
  surfaces: { without: ['coat', 'attenuation'] },
  maps: { baked: ['gradient', 'checker', 'noise-uv', 'noise-object', 'waves'], dropped: [], uvSets: 1 },
  bake: { preview: 256, final: 1024, own: {}, wins: 'sheet', most: 4096 },
  floors: false,
  sides: 'front',
  lights: { without: ['mesh'], features: ['reach', 'shadow distance', 'shadow colour'], environmentImages: true },
  background: false,
  motion: 'transform',
  precision: 'single',
  depth: { direct: 1, glass: 'faces', limits: 'one', most: 16 },
  dials: [
    { name: 'pixel root', ours: ['/samples'], counts: 'root of samples', times: [], least: 1, most: 64 },
    { name: 'light root', ours: ['/extraSamples/light'], counts: 'root of samples', times: ['pixel root'], least: 1, most: 16 },
    { name: 'bounce root', ours: ['/extraSamples/diffuse', '/extraSamples/specular'], counts: 'root of samples', times: ['pixel root'], least: 1, most: 16 },
  ],
  memory: { bytes: 16 * 2 ** 30, perTriangle: 90, perTexel: 8 },
  before: [
    { what: 'convert textures', seconds: 0.15, per: 'megatexel' },
    { what: 'compile the shot', seconds: 6, per: 'shot' },
  ],
}; // prettier-ignore
