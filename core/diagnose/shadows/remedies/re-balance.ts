/** Key to fill: the light up and its fill down, so that the shadow stands out and what is lit stays as bright as it is. */
import { valueAt } from '../../../document/patch.ts';
import type { Propose } from '../../family.ts';
import { capital } from '../../words.ts';
import { CLEAR, type ShadowCase } from '../case.ts';

export const reBalance: Propose<ShadowCase> = (of) => {
  if (of.kind !== 'drowned' || of.balance === null || of.keyPointer === null || of.fill.pointer === null) return null;
  const turned = (pointer: string, factor: number) => +(Number(valueAt(of.document, pointer)) * factor).toPrecision(2);
  const [key, fill] = [`${of.keyPointer}/intensity`, `${of.fill.pointer}/intensity`];
  const values = { [key]: turned(key, of.balance.key), [fill]: turned(fill, of.balance.fill) };
  return {
    id: 're-balance',
    title: `${capital(of.light)} at ${values[key]} and ${of.fill.name} at ${values[fill]}: shadows stand out by ${CLEAR} stops, what is lit stays`,
    change: { kind: 'values', values },
  };
};
