/** Lights switched off by a control of theirs, put back; and an even environment where there is none, to see by. */
import type { Proposal, Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import { valuesFor, type Off } from '../dark.ts';
import type { LightingCase } from '../definition.ts';

const TITLE: Record<Off, (names: string) => string> = {
  hidden: (names) => `Show ${names}`,
  'at zero': (names) => `Set ${names} to an intensity of 1`,
  'linked away': (names) => `Let ${names} light everything`,
};

export const putBack: Propose<LightingCase> = (of) => {
  if (of.kind !== 'dark' || of.isEmpty) return null;
  const out = (Object.keys(TITLE) as Off[]).flatMap((why): Proposal[] => {
    const names = of.off.filter((one) => one.why === why).map(({ name }) => name);
    if (names.length === 0) return [];
    return [{ id: `put-back-${why.replace(' ', '-')}`, title: TITLE[why](listed(names)), change: { kind: 'values', values: valuesFor(of, why) } }]; // prettier-ignore
  });
  return [
    ...out,
    {
      id: 'even-environment',
      title: 'Light it evenly from all around, to see what is there',
      change: { kind: 'values', values: { '/environment/intensity': 1, '/environment/colour': [0.5, 0.5, 0.5] } },
      note: 'Not a light to keep: it shows whether light is all that is missing.',
    },
  ];
};
