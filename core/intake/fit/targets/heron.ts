/** An invented renderer of the demo: a path tracer that splits lights and bounces alike at the first hit. */
import { ableTarget, type Target } from '../target.ts';

export const heronTarget: Target = {
  ...ableTarget(),
  name: 'Heron',
  about: 'Path tracer: one split count at the first hit serves lights and bounces alike; noise maps are baked.',
  maps: { baked: ['noise-object', 'waves'], dropped: [], uvSets: 2 },
  bake: { preview: 384, final: 1536, own: {}, wins: 'own', most: 6144 },
  floors: false,
  depth: { direct: 0, glass: 'bodies', limits: 'by kind', most: 32 },
  dials: [
    { name: 'camera paths', ours: ['/samples'], counts: 'samples', times: [], least: 1, most: 16384 },
    {
      name: 'first-hit splits',
      ours: ['/extraSamples/light', '/extraSamples/diffuse', '/extraSamples/specular', '/extraSamples/transmission'],
      counts: 'samples',
      times: ['camera paths'],
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
