/** The list of shots, by code, each with what is open: in as many queries whatever their number. */
import { and, asc, count, desc, eq, inArray, max, sql } from 'drizzle-orm';
import type { ShotSummary } from '../../core/contracts/events.ts';
import type { Severity } from '../../core/contracts/finding.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { decisions, findings, pictures, pictureSets, renders, shots, trials, versions } from '../db/schema.ts';
import type { StateText } from '../state-text.ts';
import { preflightSummaries } from '../intake/preflights.ts';
import { lookedIn } from '../render/examinations.ts';
import type { RenderRow } from '../render/renders.ts';
import { standing } from './standing-findings.ts';
import { isUnderWay, REPEATABLE, renderSummary } from './state.ts';

let kept: { id: string; reading: Promise<StateText> } | null = null;

/** `ShotSummary[]` as JSON; its id changes with every change of a shot. Read once for each. */
export async function shotList({ db }: Context): Promise<StateText> {
  const [now] = await db
    .select({
      shots: count(),
      newest: max(shots.id),
      revisions: sql<string>`coalesce(sum(${shots.revision}), 0)`,
      archived: sql<string>`count(${shots.archivedAt})`,
    })
    .from(shots);
  const id = `${now.shots}.${now.newest}.${now.revisions}.${now.archived}`;
  if (kept?.id === id) return kept.reading;
  const reading = db.transaction(async (tx) => ({ id, text: JSON.stringify(await readList(tx)) }), REPEATABLE);
  const mine = { id, reading };
  kept = mine;
  reading.catch(() => {
    if (kept === mine) kept = null;
  });
  return reading;
}

async function readList(tx: Transaction): Promise<ShotSummary[]> {
  const rows = await tx
    .select({ shot: shots, version: versions.number })
    .from(shots)
    .innerJoin(versions, eq(versions.id, shots.headVersionId))
    .orderBy(asc(shots.code));
  const heads = rows.map(({ shot }) => shot.headVersionId!);
  if (heads.length === 0) return [];
  const newest = await tx
    .selectDistinctOn([renders.versionId])
    .from(renders)
    .where(and(inArray(renders.versionId, heads), eq(renders.purpose, 'base'), eq(renders.wholeFrame, true)))
    .orderBy(asc(renders.versionId), desc(renders.id));
  const renderOf = new Map(newest.map((render) => [render.versionId, render]));
  const looked = await lookedIn(tx, newest.filter(isUnderWay));
  const open = await openFindings(tx, newest);
  const tried = await countBy(tx.select({ of: trials.shotId, n: count() }).from(trials).groupBy(trials.shotId));
  const keeps = await countBy(
    tx
      .select({ of: decisions.shotId, n: count() })
      .from(decisions)
      .where(eq(decisions.verdict, 'keep'))
      .groupBy(decisions.shotId),
  );
  const brought = await countBy(
    tx
      .select({ of: pictureSets.shotId, n: count() })
      .from(pictures)
      .innerJoin(pictureSets, eq(pictureSets.id, pictures.setId))
      .groupBy(pictureSets.shotId),
  );
  const checked = await preflightSummaries(tx, heads);
  return rows.map(({ shot, version }) => {
    const render = renderOf.get(shot.headVersionId!);
    const severities = (render && open.get(render.id)) ?? [];
    return {
      code: shot.code,
      name: shot.name,
      version,
      open: severities.length,
      worst: (['stop', 'caution', 'note'] as Severity[]).find((severity) => severities.includes(severity)) ?? null,
      trials: tried.get(shot.id) ?? 0,
      kept: keeps.get(shot.id) ?? 0,
      preflight: checked.get(shot.headVersionId!) ?? null,
      pictures: brought.get(shot.id) ?? 0,
      render: render ? renderSummary(render, version, looked.get(render.id)) : null,
      archived: shot.archivedAt !== null,
    };
  });
}

/** Severities of what is found in renders and not put aside, by render. */
async function openFindings(tx: Transaction, ofRenders: RenderRow[]): Promise<Map<number, Severity[]>> {
  const open = new Map<number, Severity[]>();
  const renderIds = ofRenders.map(({ id }) => id);
  if (renderIds.length === 0) return open;
  const rows = await tx
    .select({
      id: findings.id,
      renderId: findings.renderId,
      versionId: findings.versionId,
      key: findings.key,
      samples: findings.samples,
      severity: sql<Severity>`${findings.summary}::json ->> 'severity'`,
    })
    .from(findings)
    .where(inArray(findings.renderId, renderIds));
  const { findingId, verdict, reason } = decisions;
  const decided = await tx
    .select({ findingId, verdict, reason })
    .from(decisions)
    .where(
      inArray(
        findingId,
        rows.map(({ id }) => id),
      ),
    )
    .orderBy(asc(decisions.id));
  for (const { row, aside } of standing(rows, ofRenders, decided))
    if (aside === null) open.set(row.renderId!, [...(open.get(row.renderId!) ?? []), row.severity]);
  return open;
}

const countBy = async (query: PromiseLike<{ of: number; n: number }[]>): Promise<Map<number, number>> =>
  new Map((await query).map(({ of, n }) => [of, n]));
