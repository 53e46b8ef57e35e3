/** All remedies of noise in renders. */
import type { Propose } from '../../family.ts';
import type { NoiseCase } from '../case.ts';
import { brightTarget } from './bright-target.ts';
import { byNeed } from './by-need.ts';
import { half } from './half.ts';
import { mipTextures } from './mip-textures.ts';
import { moreOcclusionSamples } from './occlusion-samples.ts';
import { sequence } from './sequence.ts';
import { softFilter } from './soft-filter.ts';
import { spare } from './spare.ts';
import { target } from './target.ts';
import { targetMixture } from './target-mixture.ts';

export const remedies: Propose<NoiseCase>[] = [
  target,
  targetMixture,
  byNeed,
  half,
  sequence,
  mipTextures,
  softFilter,
  moreOcclusionSamples,
  brightTarget,
  spare,
];
