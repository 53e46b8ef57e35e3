/** What stands in the light is left out by shadow rays. */
import { listed } from '../../words.ts';
import { namesOf } from './names.ts';
import type { ShadowSetting } from './setting.ts';

export const objectCastsNone: ShadowSetting = {
  id: 'object',
  cause: 'shadows.object-casts-none',
  owner: ({ casters }) => casters.join(),
  tell: (kept) => {
    const names = namesOf(kept.document, kept.casters);
    return `${listed(names)} ${names.length === 1 ? 'casts' : 'cast'} no shadows`;
  },
  title: (kept) => `Let ${listed(namesOf(kept.document, kept.casters))} cast shadows`,
  values: ({ document, casters }) => Object.fromEntries(casters.filter((id) => !document.objects[id].visibility.shadow).map((id) => [`/objects/${id}/visibility/shadow`, true])), // prettier-ignore
};
