/** What stands in the light has one side only, and shadow rays, which go from the lit place to the light, meet the other one. */
import { listed } from '../../words.ts';
import { namesOf } from './names.ts';
import type { ShadowSetting } from './setting.ts';

export const seenThrough: ShadowSetting = {
  id: 'side',
  cause: 'shadows.seen-through',
  owner: ({ casters }) => casters.join(),
  tell: ({ document, casters }) => {
    const names = namesOf(document, casters);
    const side = casters.every((id) => document.objects[id].facing === 'back') ? 'front' : 'back';
    return `${listed(names)} ${names.length === 1 ? 'is' : 'are'} one-sided, and shadow rays pass through the ${side}`;
  },
  title: ({ document, casters }) => `Make ${listed(namesOf(document, casters))} two-sided`,
  values: ({ document, casters }) => Object.fromEntries(casters.filter((id) => document.objects[id].facing !== 'both').map((id) => [`/objects/${id}/facing`, 'both'])), // prettier-ignore
};
