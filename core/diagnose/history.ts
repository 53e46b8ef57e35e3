/**
 * What became of findings from render to render of one sheet: gone, by which trial if one was kept for it, or come back.
 *
 * @example
 * const { gone, cameBack } = historyOf(state, render.id);
 */
import type { FindingSummary, ShotState } from '../contracts/events.ts';

export interface GoneFinding {
  finding: FindingSummary;
  /** Number of the trial that was kept for it; null: it went by something else. */
  trial: number | null;
}

/** @param renderId the render that is looked at; findings of it and of those before it are held against each other */
export function historyOf(
  { renders, findings, trials }: Pick<ShotState, 'renders' | 'findings' | 'trials'>,
  renderId: number,
): { gone: GoneFinding[]; cameBack: Set<number> } {
  const now = renders.find(({ id }) => id === renderId);
  if (!now || now.examined !== 'done') return { gone: [], cameBack: new Set() };
  const before = renders
    .filter((one) => one.purpose === 'base' && one.sheet === now.sheet && one.examined === 'done' && one.id < renderId)
    .sort((a, b) => a.id - b.id);
  const at = (id: number) => findings.filter((finding) => finding.renderId === id);
  const present = new Set(at(renderId).map(({ key }) => key));
  const gone = new Map<string, GoneFinding>();
  for (const { id } of before)
    for (const finding of at(id)) {
      const { key } = finding;
      if (present.has(key)) continue;
      const kept = trials.findLast((trial) => {
        const of = findings.find((one) => one.id === trial.findingId);
        return trial.verdict === 'keep' && of?.key === key;
      });
      gone.set(key, { finding, trial: kept?.number ?? null });
    }
  const last = before.at(-1);
  const wasThere = new Set(last ? at(last.id).map(({ key }) => key) : []);
  const everThere = new Set(before.flatMap(({ id }) => at(id)).map(({ key }) => key));
  const cameBack = at(renderId).filter(({ key }) => everThere.has(key) && !wasThere.has(key));
  return { gone: [...gone.values()], cameBack: new Set(cameBack.map(({ id }) => id)) };
}
