/** What a new item of a document starts with; documents always store these written out. */
import { identity } from '../data/transform.ts';
import type { MaterialSpec, ObjectSpec, Sheet } from './schema.ts';

export const defaultMaterial = (): MaterialSpec => ({
  name: '',
  baseColour: [0.8, 0.8, 0.8],
  baseColourTexture: null,
  metallic: 0,
  roughness: 0.5,
  ior: 1.5,
  transmission: 0,
  attenuationColour: [1, 1, 1],
  attenuationDistance: null,
  emission: [0, 0, 0],
});

export const defaultObject = (): Omit<ObjectSpec, 'mesh' | 'material'> => ({
  name: '',
  transform: identity(),
  priority: 0,
  hidden: false,
});

export const defaultSheet = (): Sheet => ({
  width: 480,
  height: 270,
  samples: 32,
  extraSamples: { light: 1, diffuse: 1, specular: 1, transmission: 1 },
  limits: { diffuse: 4, specular: 4, transmission: 8, overall: 12 },
  filter: { kind: 'gaussian', width: 2 },
  roulette: true,
  seed: 1,
  grainTarget: 2,
});
