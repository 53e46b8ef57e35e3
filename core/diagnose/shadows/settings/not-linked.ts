/** Shadow linking: the light is not shaded by what stands in it. */
import { listed } from '../../words.ts';
import { namesOf } from './names.ts';
import type { ShadowSetting } from './setting.ts';

export const notLinked: ShadowSetting = {
  id: 'link',
  cause: 'shadows.not-linked',
  owner: ({ light }) => light,
  tell: (kept) => `shadow linking leaves ${listed(namesOf(kept.document, kept.casters))} out of the shadows of ${kept.light}`,
  title: ({ light }) => `Link all objects to the shadows of ${light}`,
  values: ({ lightPointer }) => lightPointer === null ? null : { [`${lightPointer}/shadowsOf`]: { mode: 'all', objects: [] } },
}; // prettier-ignore
