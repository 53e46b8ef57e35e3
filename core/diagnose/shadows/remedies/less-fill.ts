/** The fill taken down until the shadow stands out. */
import { valueAt } from '../../../document/patch.ts';
import type { Propose } from '../../family.ts';
import { capital } from '../../words.ts';
import { CLEAR, type ShadowCase } from '../case.ts';

export const lessFill: Propose<ShadowCase> = (of) => {
  if (of.kind !== 'drowned' || of.factor === null || of.fill.pointer === null) return null;
  const pointer = `${of.fill.pointer}/intensity`;
  const value = +(Number(valueAt(of.document, pointer)) * of.factor).toPrecision(2);
  const isSky = of.fill.pointer === '/environment' && of.document.background === null;
  return {
    id: 'less-fill',
    title: `${capital(of.fill.name)} at an intensity of ${value}: shadows of ${of.light} stand out by ${CLEAR} stops`,
    change: { kind: 'values', values: { [pointer]: value } },
    note: `The frame gets darker by as much${isSky ? ', and so does the visible sky' : ''}.`,
  };
};
