/** The settings that keep the shadow away, put right: all that it takes, as one change. */
import type { Propose } from '../../family.ts';
import { lower } from '../../words.ts';
import type { ShadowCase } from '../case.ts';
import { settingOf } from '../settings/registry.ts';

export const putRight: Propose<ShadowCase> = (of) => {
  if (of.kind !== 'missing') return null;
  const settings = of.switches.map(settingOf);
  const values = settings.map((setting) => setting.values(of.kept));
  if (values.some((one) => one === null)) return null;
  const [first, ...rest] = settings.map((setting) => setting.title(of.kept));
  return {
    id: of.switches.join('-and-'),
    title: [first, ...rest.map(lower)].join(', and '),
    change: { kind: 'values', values: Object.assign({}, ...values) },
    ...(rest.length ? { note: 'Either one alone changes nothing: the other hides it.' } : {}),
  };
};
