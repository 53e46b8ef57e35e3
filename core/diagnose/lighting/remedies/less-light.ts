/** The light that brings most turned down until what is white is below it. */
import { valueAt } from '../../../document/patch.ts';
import type { Propose } from '../../family.ts';
import { capital } from '../../words.ts';
import type { LightingCase } from '../definition.ts';

export const lessLight: Propose<LightingCase> = (of) => {
  if (of.kind !== 'overexposed' || of.light.pointer === null || of.light.factor === null) return null;
  const pointer = `${of.light.pointer}/intensity`;
  const value = +(Number(valueAt(of.document, pointer)) * of.light.factor).toPrecision(2);
  return {
    id: 'less-light',
    title: `${capital(of.light.name)} at an intensity of ${value}`,
    change: { kind: 'values', values: { [pointer]: value } },
    note: 'What it lights below white gets darker too.',
  };
};
