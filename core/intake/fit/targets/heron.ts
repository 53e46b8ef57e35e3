/** An invented renderer of the demo: a path tracer with two sampling dials. */
import { ableTarget, type Target } from '../target.ts';

export const heronTarget: Target = {
  ...ableTarget(),
  name: 'Heron',
  about: 'Path tracer with two dials: rays a pixel, and a factor on all that starts at the first hit.',
  maps: { baked: ['noise-object', 'waves'], dropped: [], uvSets: 2 },
  bake: { preview: 512, final: 2048, own: {}, wins: 'own', most: 8192 },
  floors: false,
  depth: { direct: 0, glass: 'bodies', limits: 'by kind', most: 32 },
  dials: [
    { name: 'rays a pixel', ours: ['/samples'], counts: 'samples', times: [], least: 1, most: 16384 },
    {
      name: 'splits at the first hit',
      ours: ['/extraSamples/light', '/extraSamples/diffuse', '/extraSamples/specular', '/extraSamples/transmission'],
      counts: 'samples',
      times: ['rays a pixel'],
      least: 1,
      most: 64,
    },
  ],
  memory: { bytes: 32 * 2 ** 30, perTriangle: 140, perTexel: 4 },
  before: [
    { what: 'compile the shading', seconds: 0.4, per: 'material' },
    { what: 'build its tree', seconds: 1.6, per: 'million triangles' },
    { what: 'bake computed maps', seconds: 0.8, per: 'megatexel' },
  ],
};
