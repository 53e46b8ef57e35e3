/**
 * Which stored findings count, and what was decided of them. Of what was looked at several times the latest look counts; what
 * was decided of a finding holds for the same one of a later look.
 */
import { samplesOf } from '../../core/render/film/rounds.ts';
import type { decisions, findings } from '../db/schema.ts';
import type { RenderRow } from '../render/renders.ts';

type FindingRow = Pick<typeof findings.$inferSelect, 'id' | 'renderId' | 'versionId' | 'key' | 'samples'>;
type DecisionRow = Pick<typeof decisions.$inferSelect, 'findingId' | 'verdict' | 'reason'>;

/**
 * @param renderRows renders that the findings are of. @param decided in order
 * @returns findings that count, each with the reason it was put aside for; null: it is open
 */
export function standing<F extends FindingRow>(
  rows: F[],
  renderRows: Pick<RenderRow, 'id' | 'examined' | 'targetGroups'>[],
  decided: DecisionRow[],
): { row: F; aside: string | null }[] {
  const lookOf = ({ renderId, versionId }: F) => (renderId === null ? `version ${versionId}` : `render ${renderId}`);
  const newest = new Map<string, number>();
  // A first look's findings are gone where the whole was examined, even where that found nothing.
  for (const { id, examined, targetGroups } of renderRows)
    if (examined === 'done') newest.set(`render ${id}`, samplesOf(targetGroups));
  for (const row of rows) newest.set(lookOf(row), Math.max(newest.get(lookOf(row)) ?? 0, row.samples));
  const names = new Map(rows.map((row) => [row.id, `${lookOf(row)} ${row.key}`]));
  const last = new Map<string, DecisionRow>();
  for (const decision of decided) {
    const name = decision.findingId === null ? undefined : names.get(decision.findingId);
    if (name !== undefined) last.set(name, decision);
  }
  return rows
    .filter((row) => row.samples === newest.get(lookOf(row)))
    .map((row) => {
      const decision = last.get(names.get(row.id)!);
      return { row, aside: decision?.verdict === 'put aside' ? decision.reason : null };
    });
}
