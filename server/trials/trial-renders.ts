/** The two renders of a trial: begun together once the prediction stands, measured when both are done. */
import { and, eq, or } from 'drizzle-orm';
import type { Effect, Finding } from '../../core/contracts/finding.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import { measurePair } from '../../core/predict/measure-pair.ts';
import { objectNames } from '../../core/document/object-names.ts';
import { trialSeed } from '../../core/predict/seeds.ts';
import { decidingSamples } from '../../core/render/adaptive.ts';
import { unpackFilm } from '../../core/render/film.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { findings, renders, trials, versions } from '../db/schema.ts';
import { filmsOf } from '../render/films.ts';
import { createRender, patchedDocument } from '../render/renders.ts';

export type TrialRow = typeof trials.$inferSelect;

/** Stores the prediction and begins both renders, on the same random numbers. */
export async function beginTrial(context: Context, tx: Transaction, trial: TrialRow, predicted: Effect): Promise<void> {
  const [version] = await tx.select().from(versions).where(eq(versions.id, trial.versionId));
  const region = { x: trial.x, y: trial.y, width: trial.width, height: trial.height };
  const side = (patch: JsonPatch) =>
    createRender(context, tx, {
      version,
      purpose: 'trial',
      sheet: trial.sheet,
      patch,
      region,
      seed: trialSeed(trial.id),
    });
  const before = await side([]);
  const after = await side(JSON.parse(trial.patch) as JsonPatch);
  await tx
    .update(trials)
    .set({
      state: 'rendering',
      predicted: canonicalText(predicted),
      beforeRenderId: before.id,
      afterRenderId: after.id,
    })
    .where(and(eq(trials.id, trial.id), eq(trials.state, 'predicting')));
}

/** Called in the transaction that ends one side; the second to end measures the trial. */
export async function sideFinished(context: Context, tx: Transaction, renderId: number): Promise<void> {
  const [trial] = await tx
    .select()
    .from(trials)
    .where(or(eq(trials.beforeRenderId, renderId), eq(trials.afterRenderId, renderId)))
    .for('update');
  if (!trial || trial.state !== 'rendering') return;
  const sides = [trial.beforeRenderId!, trial.afterRenderId!];
  for (const id of sides) {
    const [side] = await tx.select({ state: renders.state }).from(renders).where(eq(renders.id, id));
    if (side.state !== 'done') return;
  }
  const [before, after] = await Promise.all(sides.map(async (id) => (await filmsOf(context, tx, id)).map(unpackFilm)));
  const [version] = await tx.select().from(versions).where(eq(versions.id, trial.versionId));
  const document = patchedDocument(version, []);
  const names = objectNames(document);
  const sheets = [document, patchedDocument(version, JSON.parse(trial.patch) as JsonPatch)].map((one) => one.sheets[trial.sheet]); // prettier-ignore
  const deciding: [number, number] = [decidingSamples(sheets[0]), decidingSamples(sheets[1])];
  const mask = await maskOf(context, tx, trial);
  const measured = measurePair(before, after, trial, mask, document.sheets[trial.sheet].width, names, deciding);
  await tx
    .update(trials)
    .set({ state: 'done', measured: canonicalText(measured) })
    .where(eq(trials.id, trial.id));
}

export async function maskOf(context: Context, tx: Transaction | Context['db'], trial: TrialRow) {
  if (trial.findingId === null) return null;
  const [finding] = await tx.select().from(findings).where(eq(findings.id, trial.findingId));
  if ((JSON.parse(finding.body) as Finding).isElsewhereNext) return null;
  return context.blobs.get(finding.mask);
}
