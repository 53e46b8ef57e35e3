/** Shadows of the light end nearer to the lit point than what should throw them. */
import { metres as told } from '../../../intake/preflight/tell.ts';
import { farAway, numberAt } from './names.ts';
import type { ShadowSetting } from './setting.ts';

export const distanceTooShort: ShadowSetting = {
  id: 'shadow-distance',
  cause: 'shadows.distance-too-short',
  owner: ({ light }) => light,
  tell: ({ document, light, lightPointer, casters, metres }) =>
    `shadows of ${light} end ${told(numberAt(document, `${lightPointer}/shadowDistance`))} from the lit point, and what should cast them ${farAway(casters, metres)}`,
  title: ({ light }) => `Let shadows of ${light} reach any distance`,
  values: ({ lightPointer }) => (lightPointer === null ? null : { [`${lightPointer}/shadowDistance`]: null }),
};
