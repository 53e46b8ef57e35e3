/** All rays end after a distance, those towards lights as well. */
import { metres as told } from '../../../intake/preflight/tell.ts';
import { farAway } from './names.ts';
import type { ShadowSetting } from './setting.ts';

export const rayDistance: ShadowSetting = {
  id: 'ray-distance',
  cause: 'limits.ray-distance',
  owner: () => 'sheet',
  tell: ({ rayDistance, casters, metres }) =>
    `rays end after ${told(rayDistance ?? Infinity)}, and what should cast the shadow ${farAway(casters, metres)}`,
  title: () => 'Let rays reach any distance',
  values: () => ({ '/rayDistance': null }),
};
