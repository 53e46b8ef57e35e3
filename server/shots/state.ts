/** What pages see of a shot, read in one go: once for each of its revisions, whoever asks. */
import { and, asc, eq, isNotNull } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import type {
  FindingLine,
  FindingSummary,
  RenderSummary,
  ShotState,
  TrialSummary,
  VersionSummary,
} from '../../core/contracts/events.ts';
import type { FamilyId } from '../../core/diagnose/catalogue.ts';
import { samplesOf } from '../../core/render/film/rounds.ts';
import { farmOf, frameTimesOf } from '../budget/frame-times.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { decisions, findings, logs, renders, sweeps, trials, versions } from '../db/schema.ts';
import { rowTogether } from '../db/sides.ts';
import type { StateText } from '../state-text.ts';
import { preflightSummaries } from '../intake/preflights.ts';
import { lookedIn, LOOKING } from '../render/examinations.ts';
import type { RenderRow } from '../render/renders.ts';
import { joined, rawList, withRaw } from './raw-json.ts';
import { standing } from './standing-findings.ts';
import { versionLine } from '../../core/document/version-line.ts';
import { isInForce, shotByCode, type ShotRow } from '../versions/versions.ts';

export const REPEATABLE = { isolationLevel: 'repeatable read', accessMode: 'read only' } as const;

/** The states that were read last, by shot. */
const kept = new LRUCache<number, { revision: number; reading: Promise<StateText> }>({ max: 32 });

/** `ShotState` as JSON; its revision is its id. */
export async function shotState({ db }: Context, code: string): Promise<StateText> {
  const { id, revision } = await shotByCode(db, code);
  const present = kept.get(id);
  if (present && present.revision >= revision) return present.reading;
  const reading = db.transaction(async (tx) => readState(tx, await shotByCode(tx, code)), REPEATABLE);
  const mine = { revision, reading };
  kept.set(id, mine);
  reading.then(
    (state) => (mine.revision = Number(state.id)),
    () => kept.get(id) === mine && kept.delete(id),
  );
  return reading;
}

async function readState(tx: Transaction, shot: ShotRow): Promise<StateText> {
  const { id: versionId, number, parentId, reason, name, createdAt } = versions;
  const rows = await tx
    .select({ id: versionId, number, parentId, reason, name, createdAt })
    .from(versions)
    .where(eq(versions.shotId, shot.id))
    .orderBy(asc(versions.number));
  const told: VersionSummary[] = rows.map((row) => ({ ...row, createdAt: row.createdAt.toISOString() }));
  const byId = new Map(told.map((version) => [version.id, version]));
  const head = byId.get(shot.headVersionId!)!;
  const renderRows = await tx.select().from(renders).where(eq(renders.shotId, shot.id)).orderBy(asc(renders.id));
  const looked = await lookedIn(tx, renderRows.filter(isUnderWay));
  const shown = await withAdded(tx, shot.id, renderRows);
  const decided = await tx.select().from(decisions).where(eq(decisions.shotId, shot.id)).orderBy(asc(decisions.id));
  const state: Omit<ShotState, 'findings' | 'trials'> = {
    code: shot.code,
    name: shot.name,
    revision: shot.revision,
    head,
    undo: head.parentId === null ? null : (byId.get(head.parentId) ?? null),
    redo: told.findLast((version) => version.parentId === head.id) ?? null,
    renders: shown.map((row) => renderSummary(row, byId.get(row.versionId)!.number, looked.get(row.id))),
    sweeps: await tx
      .select({ id: sweeps.id, title: sweeps.title, pointer: sweeps.pointer })
      .from(sweeps)
      .where(eq(sweeps.shotId, shot.id))
      .orderBy(asc(sweeps.id)),
    versions: told,
    frameTimes: await frameTimesOf(tx, shot.id),
    farm: farmOf(shot),
    preflight: (await preflightSummaries(tx, [head.id])).get(head.id) ?? null,
    logs: await tx.$count(logs, eq(logs.shotId, shot.id)),
    lookRevision: shot.lookRevision,
    archived: shot.archivedAt !== null,
  };
  const text = withRaw(state, {
    findings: await findingSummaries(tx, shot.id, renderRows, byId, decided),
    trials: await trialSummaries(tx, shot.id, byId, decided, versionLine(head.id, told)),
  });
  return { id: String(shot.revision), text };
}

/** Renders with what is added into them, which is not shown by itself. */
async function withAdded(tx: Transaction, shotId: number, rows: RenderRow[]): Promise<RenderRow[]> {
  const pairs = await tx
    .select({ after: trials.afterRenderId, alone: trials.aloneRenderId })
    .from(trials)
    .where(and(eq(trials.shotId, shotId), isNotNull(trials.aloneRenderId)));
  if (pairs.length === 0) return rows;
  const aloneOf = new Map(pairs.map(({ after, alone }) => [after, alone]));
  const hidden = new Set(pairs.map(({ alone }) => alone));
  const byId = new Map(rows.map((row) => [row.id, row]));
  return rows
    .filter(({ id }) => !hidden.has(id))
    .map((row) => {
      const added = byId.get(aloneOf.get(row.id) ?? -1);
      return added ? rowTogether(row, added) : row;
    });
}

/** Whether some families have looked and others not, or may have. */
export const isUnderWay = ({ examined }: RenderRow): boolean => examined === 'waiting' || examined === 'stopped';

/** @param version number of the version it is of. @param looked families that have looked while it is examined */
export function renderSummary(
  row: RenderRow,
  version: number,
  looked: ReadonlySet<FamilyId> = new Set(),
): RenderSummary {
  const looking = isUnderWay(row) ? LOOKING : [];
  return {
    id: row.id,
    purpose: row.purpose,
    range: row.rangeId,
    frame: row.frame,
    sheet: row.sheet,
    version,
    versionId: row.versionId,
    region: { x: row.x, y: row.y, width: row.width, height: row.height },
    width: row.frameWidth,
    height: row.frameHeight,
    state: row.state,
    examined: row.examined,
    looked: looking.filter(({ id }) => looked.has(id)).map(({ title }) => title),
    toLook: looking.filter(({ id }) => !looked.has(id)).map(({ title }) => title),
    error: row.error,
    warnings: JSON.parse(row.warnings ?? '[]') as string[],
    samples: samplesOf(row.targetGroups),
    samplesDone: samplesOf(row.doneGroups) / row.tileCount,
    progress: row.doneGroups / (row.tileCount * row.targetGroups),
    revision: row.revision,
    rays: row.rays,
    threadSeconds: row.ms / 1000,
    createdAt: row.createdAt.toISOString(),
  };
}

type DecisionRow = typeof decisions.$inferSelect;

/** Findings of each base render at its present samples, and of each version as it was checked last; as JSON. */
async function findingSummaries(
  tx: Transaction,
  shotId: number,
  renderRows: RenderRow[],
  byId: Map<number, VersionSummary>,
  decided: DecisionRow[],
): Promise<string> {
  const { id, versionId, renderId, key, samples, summary } = findings;
  const rows = await tx
    .select({ id, versionId, renderId, key, samples, summary })
    .from(findings)
    .where(eq(findings.shotId, shotId))
    .orderBy(asc(findings.renderId), asc(findings.position));
  const sheetOf = new Map(renderRows.map((render) => [render.id, render.sheet]));
  return rawList(
    standing(rows, renderRows, decided).map(({ row, aside }) => {
      const own: Omit<FindingSummary, keyof FindingLine> = {
        id: row.id,
        renderId: row.renderId,
        versionId: row.versionId,
        samples: row.samples,
        version: byId.get(row.versionId)!.number,
        sheet: (row.renderId !== null && sheetOf.get(row.renderId)) || 'preview',
        aside,
      };
      return joined(own, row.summary);
    }),
  );
}

/** @param line versions that stand: a trial that was kept in another was taken back, and can be kept again */
async function trialSummaries(
  tx: Transaction,
  shotId: number,
  byId: Map<number, VersionSummary>,
  decided: DecisionRow[],
  line: ReadonlySet<number>,
): Promise<string> {
  const rows = await tx.select().from(trials).where(eq(trials.shotId, shotId)).orderBy(asc(trials.number));
  return rawList(
    rows.map((row) => {
      const verdict = decided.findLast((d) => d.trialId === row.id && isInForce(d, line))?.verdict;
      const summary: Omit<TrialSummary, 'patch' | 'alonePatch' | 'predicted' | 'measured'> = {
        id: row.id,
        number: row.number,
        title: row.title,
        findingId: row.findingId,
        remedyId: row.remedyId,
        version: byId.get(row.versionId)!.number,
        sheet: row.sheet,
        region: { x: row.x, y: row.y, width: row.width, height: row.height },
        state: row.state,
        error: row.error,
        beforeRenderId: row.beforeRenderId,
        afterRenderId: row.afterRenderId,
        verdict: verdict === 'keep' || verdict === 'drop' ? verdict : null,
        createdAt: row.createdAt.toISOString(),
        sweepId: row.sweepId,
        step: row.step,
      };
      return withRaw(summary, {
        patch: row.patch,
        alonePatch: row.alonePatch,
        predicted: row.predicted,
        measured: row.measured,
      });
    }),
  );
}
