/** The light that throws the shadow turned up instead, to the same contrast. */
import { valueAt } from '../../../document/patch.ts';
import type { Propose } from '../../family.ts';
import { capital } from '../../words.ts';
import { CLEAR, type ShadowCase } from '../case.ts';

export const moreKey: Propose<ShadowCase> = (of) => {
  if (of.kind !== 'drowned' || of.keyPointer === null) return null;
  const pointer = `${of.keyPointer}/intensity`;
  const factor = (2 ** CLEAR - 1) / (2 ** of.contrast - 1);
  const value = +(Number(valueAt(of.document, pointer)) * factor).toPrecision(2);
  return {
    id: 'more-key',
    title: `${capital(of.light)} at an intensity of ${value}: its shadows stand out by ${CLEAR} stops`,
    change: { kind: 'values', values: { [pointer]: value } },
    note: 'The frame gets brighter where the light falls: adjust exposure.',
  };
};
