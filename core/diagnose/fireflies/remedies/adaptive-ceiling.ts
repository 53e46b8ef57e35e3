import { setting, type ProposeCure } from './proposal.ts';

const TIMES = 4;

/** Samples where noise is, but no more than a ceiling: pixels with fireflies never get clean and would take all there is. */
export const adaptiveCeiling: ProposeCure = ({ sheet }) => {
  if (sheet.adaptive.on) return null;
  const ceiling = Math.min(65536, Math.max(sheet.samples * TIMES, sheet.adaptive.least));
  return {
    id: 'adaptive-ceiling',
    title: `Sample adaptively, ${ceiling} at most`,
    ...setting({ '/adaptive/on': true, '/adaptive/target': sheet.grainTarget, '/samples': ceiling }),
    note: 'It puts samples where noise is visible; light found by chance is found more often, but not cured.',
  };
};
