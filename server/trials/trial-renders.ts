/** The renders of trials: begun together once the predictions stand; a trial is measured when both of its own are done. */
import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Effect } from '../../core/contracts/figures.ts';
import type { Finding } from '../../core/contracts/finding.ts';
import type { SceneFigures } from '../../core/figures/figure.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import type { SheetName, ShotDocument } from '../../core/document/schema.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import { measurePair, type RenderedSide } from '../../core/predict/measure-pair.ts';
import { objectNames } from '../../core/document/object-names.ts';
import { trialSeed } from '../../core/predict/seeds.ts';
import { decidingSamples } from '../../core/render/frame/adaptive.ts';
import { filmLayout } from '../../core/render/film/film-layout.ts';
import type { Film } from '../../core/render/film/film.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { findings, renders, trials, versions } from '../db/schema.ts';
import { sidesOf, withSide } from '../db/sides.ts';
import { filmBlobs, findRender } from '../render/films.ts';
import { shotChanged } from '../notify.ts';
import { createRender, stopRender } from '../render/renders.ts';
import { patchedDocument } from '../apart/work/document.ts';
import { openFilm } from '../apart/work/films.ts';

export type TrialRow = typeof trials.$inferSelect;

/**
 * Stores the predictions and begins the renders, all on the same random numbers: one without any change, which the
 * trials share, and one with each.
 * @param trials of one version, sheet and region; `predicted` has an effect for each
 */
export async function beginTrials(
  context: Context,
  tx: Transaction,
  trialRows: TrialRow[],
  predicted: Effect[],
): Promise<void> {
  const [lead] = trialRows;
  const [version] = await tx.select().from(versions).where(eq(versions.id, lead.versionId));
  const region = { x: lead.x, y: lead.y, width: lead.width, height: lead.height };
  const seed = trialSeed(lead.id);
  const render = (patch: JsonPatch, files: Record<string, string> = {}) =>
    createRender(context, tx, { version, purpose: 'trial', sheet: lead.sheet, patch, files, region, seed });
  const before = await render([]);
  for (const [i, trial] of trialRows.entries()) {
    const after = await render(JSON.parse(trial.patch) as JsonPatch, JSON.parse(trial.files) as Record<string, string>);
    const alone = trial.alonePatch === null ? null : await render(JSON.parse(trial.alonePatch) as JsonPatch);
    await tx
      .update(trials)
      .set({
        state: 'rendering',
        predicted: canonicalText(predicted[i]),
        beforeRenderId: before.id,
        afterRenderId: after.id,
        aloneRenderId: alone?.id ?? null,
      })
      .where(and(eq(trials.id, trial.id), eq(trials.state, 'predicting')));
  }
}

/** Trials that wait for a render, each locked. */
const waitingFor = (tx: Transaction, renderId: number) =>
  tx
    .select()
    .from(trials)
    .where(and(eq(trials.state, 'rendering'), withSide(renderId)))
    .orderBy(asc(trials.id))
    .for('update');

/** Called in the transaction that ends one side; the last to end measures the trial. */
export async function sideFinished(context: Context, tx: Transaction, renderId: number): Promise<void> {
  for (const trial of await waitingFor(tx, renderId)) {
    const states = await tx
      .select({ state: renders.state })
      .from(renders)
      .where(inArray(renders.id, sidesOf(trial)));
    if (states.every(({ state }) => state === 'done')) await measureTrial(context, tx, trial);
  }
}

async function measureTrial(context: Context, tx: Transaction, trial: TrialRow): Promise<void> {
  const [version] = await tx.select().from(versions).where(eq(versions.id, trial.versionId));
  const document = patchedDocument(version, []);
  const changed = patchedDocument(version, JSON.parse(trial.patch) as JsonPatch);
  const before = await sideOf(context, tx, trial.beforeRenderId!, document, trial.sheet);
  const after = await sideOf(context, tx, trial.afterRenderId!, changed, trial.sheet);
  const measured = measurePair(before, after, {
    region: trial,
    mask: await maskOf(context, tx, trial),
    frameWidth: document.sheets[trial.sheet].width,
    names: objectNames(document),
  });
  await tx
    .update(trials)
    .set({ state: 'done', measured: canonicalText(measured) })
    .where(eq(trials.id, trial.id));
}

async function sideOf(
  context: Context,
  tx: Transaction,
  renderId: number,
  document: ShotDocument,
  sheetName: SheetName,
): Promise<RenderedSide> {
  const { ms, sceneFigures } = await findRender(tx, renderId);
  const sheet = document.sheets[sheetName];
  const films: Film[] = [];
  for (const blobs of await filmBlobs(tx, renderId))
    films.push(await openFilm(context.blobs, { ...blobs, time: null }));
  return {
    films,
    layout: filmLayout(document, sheet),
    deciding: decidingSamples(sheet),
    occlusionRays: sheet.extraSamples.occlusion,
    seconds: ms / 1000,
    ofScene: sceneFigures === null ? {} : (JSON.parse(sceneFigures) as SceneFigures),
  };
}

/** A side that cannot be rendered ends its trials, with the reason. */
export async function sideFailed(context: Context, renderId: number, error: string): Promise<void> {
  const sides = await context.db.transaction(async (tx) => {
    const waiting = await waitingFor(tx, renderId);
    if (waiting.length === 0) return [];
    const ids = waiting.map(({ id }) => id);
    await tx.update(trials).set({ state: 'failed', error }).where(inArray(trials.id, ids));
    await shotChanged(tx, waiting[0].shotId);
    return waiting.flatMap(sidesOf);
  });
  await stopUnneeded(context, sides);
}

/** Stops renders that no running trial waits for any longer. */
export async function stopUnneeded(context: Context, sides: number[]): Promise<void> {
  for (const id of new Set(sides)) {
    const isNeeded = await context.db.transaction(async (tx) => (await waitingFor(tx, id)).length > 0);
    const [row] = await context.db.select({ state: renders.state }).from(renders).where(eq(renders.id, id));
    if (!isNeeded && row.state === 'active') await stopRender(context, id);
  }
}

export async function maskOf(context: Context, tx: Transaction | Context['db'], trial: TrialRow) {
  if (trial.findingId === null) return null;
  const [finding] = await tx.select().from(findings).where(eq(findings.id, trial.findingId));
  if ((JSON.parse(finding.body) as Finding).isElsewhereNext) return null;
  return finding.mask === null ? null : context.blobs.get(finding.mask);
}
