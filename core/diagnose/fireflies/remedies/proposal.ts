/** What could be done about fireflies: a file each, a line in `registry.ts`. What it would do is worked out elsewhere. */
import type { Effect } from '../../../contracts/finding.ts';
import type { Region } from '../../../data/picture.ts';
import type { ControlValues } from '../../../document/set-values.ts';
import type { FireflyCase } from '../case.ts';

export interface Proposal {
  id: string;
  /** A verb phrase. */
  title: string;
  values: ControlValues;
  /** It changes how the light is met: what is left afterwards stands for little light. */
  isAimed?: boolean;
  /** What it surely does to an object, where that is known without rendering. */
  look?: Effect['look'];
  /** The same for all of a region, stops. */
  stopsIn?: (region: Region) => number;
  /** What to know before it is taken. */
  note?: string;
}

/** Null where it does not apply. */
export type Propose = (of: FireflyCase) => Proposal | null;

/** "chimney", "chimney and globe", "chimney and 3 more". */
export function tellObjects({ document }: Pick<FireflyCase, 'document'>, ids: string[]): string {
  const names = ids.map((id) => document.objects[id]?.name || id);
  if (names.length <= 2) return names.join(' and ');
  return `${names[0]} and ${names.length - 1} more`;
}
