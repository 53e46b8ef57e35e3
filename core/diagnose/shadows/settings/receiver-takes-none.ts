/** What the shadow should fall on takes all light, whatever stands between. */
import { listed } from '../../words.ts';
import { namesOf } from './names.ts';
import type { ShadowSetting } from './setting.ts';

export const receiverTakesNone: ShadowSetting = {
  id: 'receiver',
  cause: 'shadows.receiver-takes-none',
  owner: ({ receivers }) => receivers.join(),
  tell: (kept) => {
    const names = namesOf(kept.document, kept.receivers);
    return `${listed(names)} ${names.length === 1 ? 'takes' : 'take'} no shadows`;
  },
  title: (kept) => `Let ${listed(namesOf(kept.document, kept.receivers))} take shadows`,
  values: ({ document, receivers }) => Object.fromEntries(receivers.filter((id) => !document.objects[id].receivesShadows).map((id) => [`/objects/${id}/receivesShadows`, true])), // prettier-ignore
};
