/** What could be done about fireflies: a file each, a line in `registry.ts`. What it would do is worked out elsewhere. */
import type { Region } from '../../../data/picture.ts';
import type { ControlValues } from '../../../document/set-values.ts';
import type { Change } from '../../../contracts/finding.ts';
import type { Proposal, Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { FireflyCase } from '../case.ts';

export interface FireflyProposal extends Proposal {
  /** It changes how the light is met: what is left afterwards stands for little light. */
  isAimed?: boolean;
  /** Fireflies that stay, where that is known without rendering. */
  left?: number;
  /** What it surely does to an object, where that is known without rendering. */
  dulls?: { object: string; stops: number } | null;
  /** The same for all of a region, stops. */
  stopsIn?: (region: Region) => number;
}

export type ProposeCure = Propose<FireflyCase, FireflyProposal>;

/** Values that a proposal sets. */
export const setting = (values: ControlValues): { change: Change } => ({ change: { kind: 'values', values } });
export const valuesIn = ({ change }: FireflyProposal): ControlValues =>
  change?.kind === 'values' ? change.values : {};

/** "chimney", "chimney and globe", "chimney and 3 more". */
export function tellObjects({ document }: Pick<FireflyCase, 'document'>, ids: string[]): string {
  const names = ids.map((id) => document.objects[id]?.name || id);
  return listed(names, 2);
}
