/** All settings that keep shadows away. A new one is a bit in `core/place/switches.ts`, a file and a line here. */
import type { SwitchId } from '../../../place/switches.ts';
import { colourTooLight } from './colour-too-light.ts';
import { distanceTooShort } from './distance-too-short.ts';
import { lightCastsNone } from './light-casts-none.ts';
import { notLinked } from './not-linked.ts';
import { objectCastsNone } from './object-casts-none.ts';
import { rayDistance } from './ray-distance.ts';
import { receiverTakesNone } from './receiver-takes-none.ts';
import { seenThrough } from './seen-through.ts';
import type { ShadowSetting } from './setting.ts';

export const SHADOW_SETTINGS: readonly ShadowSetting[] = [
  lightCastsNone,
  objectCastsNone,
  receiverTakesNone,
  notLinked,
  distanceTooShort,
  rayDistance,
  colourTooLight,
  seenThrough,
];

export const settingOf = (id: SwitchId): ShadowSetting => SHADOW_SETTINGS.find((setting) => setting.id === id)!;
