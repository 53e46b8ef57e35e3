import { CAUTION, type Check } from '../check.ts';
import { withoutUnused } from '../../repairs/without-unused.ts';
import { stemOf } from '../../../formats/siblings.ts';
import type { SourceReference } from '../../../formats/source-scene.ts';
import { count } from '../tell.ts';

export const referenceUnused: Check = {
  id: 'reference-unused',
  group: 'travel',
  title: 'Unused references',
  why: 'Unused files make packages large, and break them when they go missing.',
  threshold: CAUTION,
  run({ source, document }) {
    const offenders = source.references
      .filter((one) => !one.used && one.resolved !== null && !isSpare(one, source.references))
      .map(({ path, kind, neededBy }) => ({
        object: path,
        detail: `${kind} named by ${neededBy}; nothing of it is used`,
        count: 1,
      }));
    return {
      expected: 'none',
      found: count(offenders, 'unused file'),
      offenders,
      repair: withoutUnused(document),
    };
  },
};

/** An image that may have the alpha which one in use has lost is looked at with that one (`textures.alpha-lost`). */
const isSpare = ({ kind, path }: SourceReference, all: readonly SourceReference[]): boolean =>
  kind === 'image' && all.some((other) => other.used && other.kind === 'image' && stemOf(other.path) === stemOf(path));
