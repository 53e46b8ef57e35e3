import type { CauseId } from '../../catalogue.ts';
import type { Cause } from '../../family.ts';
import type { FireflyCase } from '../case.ts';

/** Each firefly has one cause, told by its brightest sample: which light it came from, and how. */
export const byShare = (id: CauseId): Cause<FireflyCase> => ({ id, share: ({ byCause }) => byCause.get(id) ?? null });
