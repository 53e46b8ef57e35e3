import type { ProposeCure } from './proposal.ts';
import { setting, tellObjects } from './proposal.ts';

/** Surfaces that shine and are not aimed at are found by chance alone: let lights' samples find them. */
export const sampleEmitter: ProposeCure = (of) => {
  const { document, glows, shells } = of;
  const found = glows.filter(({ material }) => material !== null && !document.materials[material].sampledAsLight);
  if (found.length === 0) return null;
  return {
    id: 'sample-emitter',
    title: `Sample ${tellObjects(
      of,
      found.flatMap(({ objects }) => objects),
    )} as a light`,
    isAimed: true,
    ...setting(Object.fromEntries(found.map(({ material }) => [`/materials/${material}/sampledAsLight`, true]))),
    note: shells.length ? `It is enclosed in glass: light through ${tellObjects(of, shells)} is still found by chance.` : undefined, // prettier-ignore
  };
};
