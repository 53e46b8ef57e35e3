/** All causes of noise in renders. */
import type { Cause } from '../../family.ts';
import type { NoiseCase } from '../case.ts';
import { brightParts } from './bright-parts.ts';
import { depthOfField } from './depth-of-field.ts';
import { diffuseSamples } from './diffuse-samples.ts';
import { fineTexture } from './fine-texture.ts';
import { lightSamples } from './light-samples.ts';
import { moreThanNeeded } from './more-than-needed.ts';
import { motionBlur } from './motion-blur.ts';
import { occlusionSamples } from './occlusion-samples.ts';
import { pixelSamples } from './pixel-samples.ts';
import { sharpFilter } from './sharp-filter.ts';
import { specularSamples } from './specular-samples.ts';
import { transmissionSamples } from './transmission-samples.ts';
import { volumeSamples } from './volume-samples.ts';

export const causes: Cause<NoiseCase>[] = [
  lightSamples,
  diffuseSamples,
  specularSamples,
  transmissionSamples,
  volumeSamples,
  pixelSamples,
  fineTexture,
  sharpFilter,
  motionBlur,
  depthOfField,
  occlusionSamples,
  brightParts,
  moreThanNeeded,
];
