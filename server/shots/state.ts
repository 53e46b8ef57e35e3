/** What pages see of shots, read in one go. */
import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import type {
  FindingSummary,
  RenderSummary,
  ShotState,
  ShotSummary,
  TrialSummary,
  VersionSummary,
} from '../../core/contracts/events.ts';
import type { Effect, Finding, Severity } from '../../core/contracts/finding.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { samplesOf } from '../../core/render/rounds.ts';
import { farmOf, frameTimesOf } from '../budget/frame-times.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import {
  decisions,
  findings,
  logs,
  pictures,
  pictureSets,
  renders,
  shots,
  sweeps,
  trials,
  versions,
} from '../db/schema.ts';
import { preflightSummary } from '../intake/preflights.ts';
import { patchedDocument, type RenderRow, type VersionRow } from '../render/renders.ts';
import { redoOf, shotByCode, type ShotRow } from './versions.ts';

const REPEATABLE = { isolationLevel: 'repeatable read', accessMode: 'read only' } as const;

export function shotState({ db }: Context, code: string): Promise<ShotState> {
  return db.transaction(async (tx) => readState(tx, await shotByCode(tx, code)), REPEATABLE);
}

async function readState(tx: Transaction, shot: ShotRow): Promise<ShotState> {
  const byId = new Map((await tx.select().from(versions).where(eq(versions.shotId, shot.id))).map((v) => [v.id, v]));
  const head = byId.get(shot.headVersionId!)!;
  const undo = head.parentId === null ? null : byId.get(head.parentId)!;
  const redo = await redoOf(tx, head);
  const renderRows = await tx.select().from(renders).where(eq(renders.shotId, shot.id)).orderBy(asc(renders.id));
  const decided = await tx.select().from(decisions).where(eq(decisions.shotId, shot.id)).orderBy(asc(decisions.id));
  return {
    code: shot.code,
    name: shot.name,
    revision: shot.revision,
    head: versionSummary(head),
    undo: undo && versionSummary(undo),
    redo: redo && versionSummary(redo),
    document: JSON.parse(head.document) as ShotDocument,
    renders: renderRows.map((row) => renderSummary(row, byId.get(row.versionId)!)),
    findings: await findingSummaries(tx, shot.id, renderRows, byId, decided),
    trials: await trialSummaries(tx, shot.id, byId, decided),
    sweeps: await tx
      .select({ id: sweeps.id, title: sweeps.title, pointer: sweeps.pointer })
      .from(sweeps)
      .where(eq(sweeps.shotId, shot.id))
      .orderBy(asc(sweeps.id)),
    versions: [...byId.values()].sort((a, b) => a.number - b.number).map(versionSummary),
    frameTimes: await frameTimesOf(tx, shot.id),
    farm: farmOf(shot),
    preflight: await preflightSummary(tx, head.id),
    logs: await tx.$count(logs, eq(logs.shotId, shot.id)),
    lookRevision: shot.lookRevision,
  };
}

function versionSummary({ id, number, parentId, reason, createdAt }: VersionRow): VersionSummary {
  return { id, number, parentId, reason, createdAt: createdAt.toISOString() };
}

export function renderSummary(row: RenderRow, version: VersionRow): RenderSummary {
  const sheet = patchedDocument(version, JSON.parse(row.patch) as JsonPatch).sheets[row.sheet];
  return {
    id: row.id,
    purpose: row.purpose,
    sheet: row.sheet,
    version: version.number,
    versionId: version.id,
    region: { x: row.x, y: row.y, width: row.width, height: row.height },
    width: sheet.width,
    height: sheet.height,
    state: row.state,
    examined: row.examined,
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

/** Findings of each base render at its present samples. */
async function findingSummaries(
  tx: Transaction,
  shotId: number,
  renderRows: RenderRow[],
  byId: Map<number, VersionRow>,
  decided: DecisionRow[],
): Promise<FindingSummary[]> {
  const rows = await tx
    .select()
    .from(findings)
    .where(eq(findings.shotId, shotId))
    .orderBy(asc(findings.renderId), asc(findings.position));
  const renderOf = new Map(renderRows.map((r) => [r.id, r]));
  const newest = new Map<number, number>();
  for (const row of rows) newest.set(row.renderId, Math.max(newest.get(row.renderId) ?? 0, row.samples));
  return rows
    .filter((row) => row.samples === newest.get(row.renderId))
    .map((row) => {
      const render = renderOf.get(row.renderId)!;
      const last = decided.findLast((d) => d.findingId === row.id);
      return {
        id: row.id,
        renderId: row.renderId,
        version: byId.get(render.versionId)!.number,
        sheet: render.sheet,
        finding: JSON.parse(row.body) as Finding,
        aside: last?.verdict === 'put aside' ? last.reason : null,
      };
    });
}

async function trialSummaries(
  tx: Transaction,
  shotId: number,
  byId: Map<number, VersionRow>,
  decided: DecisionRow[],
): Promise<TrialSummary[]> {
  const rows = await tx.select().from(trials).where(eq(trials.shotId, shotId)).orderBy(asc(trials.number));
  return rows.map((row) => {
    const verdict = decided.findLast((d) => d.trialId === row.id)?.verdict;
    return {
      id: row.id,
      number: row.number,
      title: row.title,
      findingId: row.findingId,
      remedyId: row.remedyId,
      version: byId.get(row.versionId)!.number,
      sheet: row.sheet,
      region: { x: row.x, y: row.y, width: row.width, height: row.height },
      patch: JSON.parse(row.patch) as JsonPatch,
      state: row.state,
      error: row.error,
      predicted: row.predicted === null ? null : (JSON.parse(row.predicted) as Effect),
      measured: row.measured === null ? null : (JSON.parse(row.measured) as Effect),
      beforeRenderId: row.beforeRenderId,
      afterRenderId: row.afterRenderId,
      verdict: verdict === 'keep' || verdict === 'drop' ? verdict : null,
      createdAt: row.createdAt.toISOString(),
      sweepId: row.sweepId,
      step: row.step,
    };
  });
}

/** All shots, by code, each with what is open. */
export function shotList({ db }: Context): Promise<ShotSummary[]> {
  return db.transaction(async (tx) => {
    const rows = await tx.select().from(shots).orderBy(asc(shots.code));
    return Promise.all(rows.map((shot) => summarise(tx, shot)));
  }, REPEATABLE);
}

async function summarise(tx: Transaction, shot: ShotRow): Promise<ShotSummary> {
  const [head] = await tx.select().from(versions).where(eq(versions.id, shot.headVersionId!));
  const [render] = await tx
    .select()
    .from(renders)
    .where(and(eq(renders.versionId, head.id), eq(renders.purpose, 'base'), eq(renders.wholeFrame, true)))
    .orderBy(desc(renders.id))
    .limit(1);
  const found = render
    ? await tx.select({ id: findings.id, body: findings.body }).from(findings).where(eq(findings.renderId, render.id))
    : [];
  const ids = found.map((f) => f.id);
  const decided = ids.length
    ? await tx.select().from(decisions).where(inArray(decisions.findingId, ids)).orderBy(asc(decisions.id))
    : [];
  const open = found.filter((f) => decided.findLast((d) => d.findingId === f.id)?.verdict !== 'put aside');
  const severities = open.map((f) => (JSON.parse(f.body) as Finding).severity);
  const tried = await tx.select({ id: trials.id }).from(trials).where(eq(trials.shotId, shot.id));
  const kept = await tx
    .select({ id: decisions.id })
    .from(decisions)
    .where(and(eq(decisions.shotId, shot.id), eq(decisions.verdict, 'keep')));
  return {
    code: shot.code,
    name: shot.name,
    version: head.number,
    open: open.length,
    worst: (['stop', 'caution', 'note'] as Severity[]).find((s) => severities.includes(s)) ?? null,
    trials: tried.length,
    kept: kept.length,
    preflight: await preflightSummary(tx, head.id),
    pictures: await picturesOf(tx, shot.id),
    render: render ? renderSummary(render, head) : null,
  };
}

async function picturesOf(tx: Transaction, shotId: number): Promise<number> {
  const sets = tx.select({ id: pictureSets.id }).from(pictureSets).where(eq(pictureSets.shotId, shotId));
  return tx.$count(pictures, inArray(pictures.setId, sets));
}
