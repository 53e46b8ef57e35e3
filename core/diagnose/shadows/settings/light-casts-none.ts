/** The light throws no shadows at all. */
import type { ShadowSetting } from './setting.ts';

export const lightCastsNone: ShadowSetting = {
  id: 'light',
  cause: 'shadows.light-casts-none',
  owner: ({ light }) => light,
  tell: ({ light }) => `${light} casts no shadows`,
  title: ({ light }) => `Let ${light} cast shadows`,
  values: ({ lightPointer }) => (lightPointer === null ? null : { [`${lightPointer}/castsShadows`]: true }),
};
