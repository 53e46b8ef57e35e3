/** The light leaves a part of itself in its own shadow. */
import { percent } from '../../words.ts';
import { luminanceAt } from './names.ts';
import type { ShadowSetting } from './setting.ts';

export const colourTooLight: ShadowSetting = {
  id: 'colour',
  cause: 'shadows.colour-too-light',
  owner: ({ light }) => light,
  tell: ({ document, light, lightPointer }) => `${light} leaves ${percent(luminanceAt(document, `${lightPointer}/shadowColour`))} of its light in its own shadow`,
  title: ({ light }) => `Black shadow colour for ${light}`,
  values: ({ lightPointer }) => lightPointer === null ? null : { [`${lightPointer}/shadowColour`]: [0, 0, 0] },
}; // prettier-ignore
