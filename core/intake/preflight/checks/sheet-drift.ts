import { CAUTION, type Check } from '../check.ts';
import { setValues } from '../../repairs/offer.ts';
import { differences } from '../sheets.ts';
import { count } from '../tell.ts';

/** Keys that a preview has reasons to have otherwise. */
const MAY_DIFFER = new Set(['width', 'height', 'samples', 'adaptive', 'extraSamples', 'seed', 'grainTarget', 'passes']);

export const sheetDrift: Check = {
  id: 'sheet-drift',
  group: 'sheet',
  title: 'Preview and final differ',
  why: 'What was fixed on the preview sheet is still wrong in the final render.',
  threshold: CAUTION,
  run({ source, document }) {
    if (!source.sheets || !document) return 'the scene has no sheets of ours';
    const { preview, final } = source.sheets;
    const differing = differences(preview, final).filter(({ path }) => !MAY_DIFFER.has(path.split('/')[1]));
    return {
      expected: 'the same except size and samples',
      found: count(
        differing.map(({ path }) => ({ object: path, detail: '', count: 1 })),
        'setting',
      ),
      offenders: differing.map(({ path, a, b }) => ({
        object: `final sheet ${path}`,
        detail: `preview ${JSON.stringify(a)}, final ${JSON.stringify(b)}`,
        count: 1,
      })),
      repair: setValues(
        'Carry the preview’s settings over',
        document,
        Object.fromEntries(differing.map(({ path, a }) => [`/sheets/final${path}`, a])),
      ),
    };
  },
};
