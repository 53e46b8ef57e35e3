/** Trials: begun from a remedy or from values set by hand, stopped, kept, dropped. */
import { and, asc, desc, eq, max } from 'drizzle-orm';
import type { Finding, Remedy } from '../../core/contracts/finding.ts';
import type { TrialRequest } from '../../core/contracts/requests.ts';
import { alikeItems, forItems } from '../../core/document/alike-items.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import type { SheetName } from '../../core/document/schema.ts';
import type { ControlValues } from '../../core/document/set-values.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { sidesOf, withSide } from '../db/sides.ts';
import { decisions, findings, renders, shots, trials, versions } from '../db/schema.ts';
import { conflict, notFound } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { PREDICTION } from '../priorities.ts';
import { stopRender } from '../render/renders.ts';
import { pointerOf } from '../../core/document/pointers.ts';
import { apart } from '../apart/apart.ts';
import { versionLine } from '../../core/document/version-line.ts';
import { addVersion, headOf, isInForce, lockHead, shotByCode } from '../versions/versions.ts';
import { beginTrials, stopUnneeded, type TrialRow } from './trial-renders.ts';

/** @returns the trial's number in its shot */
export async function createTrial(context: Context, code: string, request: TrialRequest): Promise<number> {
  // Worked out before the shot is locked: meshes take their time.
  const made = await madeFiles(context, code, request);
  return context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, code);
    if (made && made.versionId !== head.id) throw conflict(`The shot is at version ${head.number} now. Try it again.`);
    const asked = await whatToTry(tx, shot.id, request);
    const task = {
      document: head.document,
      sheet: request.sheet,
      values: asked.values,
      patch: made?.patch,
      objects: asked.objects,
      region: request.region ?? asked.finding?.where.region ?? null,
    };
    const { patch, alonePatch, region, told } = await context.documents.tryValues(task);
    const files = made?.files ?? {};
    if (patch.length === 0 && Object.keys(files).length === 0)
      throw conflict(`Everything already has these values in the ${request.sheet} sheet: nothing to try.`);
    const [trial] = await tx
      .insert(trials)
      .values({
        shotId: shot.id,
        number: await nextNumber(tx, shot.id),
        findingId: request.finding,
        remedyId: request.remedy,
        title: (asked.title ?? told).slice(0, 200),
        versionId: head.id,
        sheet: request.sheet,
        patch: canonicalText(patch),
        files: canonicalText(files),
        alonePatch: alonePatch && canonicalText(alonePatch),
        ...region,
        state: 'predicting',
      })
      .returning();
    const isAsPredicted =
      asked.finding !== null &&
      asked.predicted !== null &&
      !asked.isPart &&
      asked.versionId === head.id &&
      asked.sheet === request.sheet &&
      canonicalText(region) === canonicalText(asked.finding.where.region);
    if (isAsPredicted) await beginTrials(context, tx, [trial], [asked.predicted!]);
    else await context.queue.send(tx, 'predict', [{ trialIds: [trial.id] }], PREDICTION);
    await shotChanged(tx, shot.id);
    return trial.number;
  });
}

/** A remedy that makes files, carried out on the head version; null for one that sets values. */
async function madeFiles(context: Context, code: string, { finding, remedy }: TrialRequest) {
  if (finding === null) return null;
  const { change, title } = remedyIn(await findingOf(context.db, (await shotByCode(context.db, code)).id, finding), remedy); // prettier-ignore
  if (change?.kind !== 'files') return null;
  const head = await headOf(context.db, code);
  const repair = { label: title, patch: change.patch, work: change.work };
  const task = { document: head.document, manifest: head.manifest, blobs: context.blobs.folder, work: { repair } };
  const { patch, files } = (await apart('repairTask', task))!;
  return { versionId: head.id, patch, files };
}

async function findingOf(tx: Transaction | Context['db'], shotId: number, id: number) {
  const [row] = await tx
    .select({ finding: findings, render: renders })
    .from(findings)
    .leftJoin(renders, eq(renders.id, findings.renderId))
    .where(and(eq(findings.id, id), eq(findings.shotId, shotId)));
  if (!row) throw notFound(`finding ${id} in this shot`);
  return {
    id,
    body: JSON.parse(row.finding.body) as Finding,
    versionId: row.finding.versionId,
    sheet: row.render?.sheet ?? null,
  };
}

function remedyIn({ id, body }: { id: number; body: Finding }, remedyId: string | null): Remedy {
  const remedy = body.remedies.find((one) => one.id === remedyId);
  if (!remedy) throw notFound(`remedy "${remedyId}" of finding ${id}`);
  if (remedy.change === null) throw conflict(`“${remedy.title}” is advice only: the settings it is about are unknown.`);
  return remedy;
}

export async function nextNumber(tx: Transaction, shotId: number): Promise<number> {
  const [{ last }] = await tx
    .select({ last: max(trials.number) })
    .from(trials)
    .where(eq(trials.shotId, shotId));
  return (last ?? 0) + 1;
}

/** The values a request means, and, for a remedy, what it was predicted to do and where. */
async function whatToTry(tx: Transaction, shotId: number, request: TrialRequest) {
  if (request.finding === null) {
    if (!request.values)
      throw new InvalidInput('trial', [{ path: '/values', value: 'null', expected: 'dials to try, or a finding' }]);
    return { title: request.title ?? null, values: request.values, objects: request.objects ?? null, finding: null };
  }
  const found = await findingOf(tx, shotId, request.finding);
  const { title, change, predicted } = remedyIn(found, request.remedy);
  const values = change && change.kind !== 'files' ? change.values : {};
  const few = fewOf(values, request.only);
  return {
    title: few ? `${title} (${few.told})` : title,
    values: few?.values ?? values,
    objects: change?.kind === 'hold-out' ? change.objects : null,
    isPart: few !== null,
    finding: found.body,
    predicted,
    versionId: found.versionId,
    sheet: found.sheet,
  };
}

/** A remedy for some of the items that it does the same thing to; null: for all. */
function fewOf(values: ControlValues, only: string[] | undefined): { values: ControlValues; told: string } | null {
  if (!only) return null;
  const alike = alikeItems(values);
  const strange = only.find((item) => !alike.includes(item));
  if (strange !== undefined)
    throw new InvalidInput('trial', [{ path: '/only', value: strange, expected: `one of ${alike.join(', ') || 'none: this remedy is about one thing'}` }]); // prettier-ignore
  const chosen = alike.filter((item) => only.includes(item));
  if (chosen.length === alike.length) return null;
  return { values: forItems(values, chosen), told: `${chosen.length} of ${alike.length}` };
}

export async function lockTrial(tx: Transaction, id: number): Promise<TrialRow & { code: string }> {
  const [row] = await tx
    .select({ trial: trials, code: shots.code })
    .from(trials)
    .innerJoin(shots, eq(shots.id, trials.shotId))
    .where(eq(trials.id, id))
    .for('update', { of: trials });
  if (!row) throw notFound(`trial ${id}`);
  return { ...row.trial, code: row.code };
}

export async function stopTrial(context: Context, id: number): Promise<void> {
  const trial = await context.db.transaction(async (tx) => {
    const found = await lockTrial(tx, id);
    if (found.state !== 'predicting' && found.state !== 'rendering')
      throw conflict(`Trial ${found.number} is not running: it is ${found.state}.`);
    await tx.update(trials).set({ state: 'stopped' }).where(eq(trials.id, id));
    await shotChanged(tx, found.shotId);
    return found;
  });
  await stopUnneeded(context, sidesOf(trial));
}

/** Stops a render that somebody asked to stop: with it the trials it is a side of, which would wait for it for ever. */
export async function stopAskedRender(context: Context, id: number): Promise<void> {
  const running = await context.db
    .select({ id: trials.id })
    .from(trials)
    .where(and(eq(trials.state, 'rendering'), withSide(id)))
    .orderBy(asc(trials.id));
  if (running.length === 0) return stopRender(context, id);
  for (const trial of running) await stopTrial(context, trial.id);
}

export async function failTrial(context: Context, id: number, error: string): Promise<void> {
  await context.db.transaction(async (tx) => {
    const trial = await lockTrial(tx, id);
    await tx.update(trials).set({ state: 'failed', error }).where(eq(trials.id, id));
    await shotChanged(tx, trial.shotId);
  });
}

/** Whether its change stands in the shot: it was kept, and not undone since. */
async function isKept(tx: Transaction, { id, shotId }: TrialRow): Promise<boolean> {
  const [decision] = await tx
    .select()
    .from(decisions)
    .where(eq(decisions.trialId, id))
    .orderBy(desc(decisions.id))
    .limit(1);
  if (decision?.verdict !== 'keep') return false;
  const [shot] = await tx.select({ head: shots.headVersionId }).from(shots).where(eq(shots.id, shotId));
  const rows = await tx.select({ id: versions.id, parentId: versions.parentId }).from(versions).where(eq(versions.shotId, shotId)); // prettier-ignore
  return isInForce(decision, versionLine(shot.head!, rows));
}

export const otherSheet = (sheet: SheetName): SheetName => (sheet === 'preview' ? 'final' : 'preview');

/** What a patch sets in its sheet, for the other one. */
export function sheetValues(patch: JsonPatch): ControlValues {
  const values: ControlValues = {};
  for (const step of patch)
    if (step.op === 'replace' && step.path.startsWith('/sheets/')) values[pointerOf(step.path)] = step.value;
  return values;
}

/** Makes a new version with the trial's change, in its sheet or in both. Only what was measured can be kept. */
export async function keepTrial(context: Context, id: number, both: boolean): Promise<void> {
  await context.db.transaction(async (tx) => {
    const trial = await lockTrial(tx, id);
    if (trial.state !== 'done') throw conflict(`Trial ${trial.number} is ${trial.state}: nothing is proven yet.`);
    if (trial.alonePatch !== null)
      throw conflict(
        `Trial ${trial.number} combines two renders, which no single version can be. Make two shots of it.`,
      );
    const { shot, head } = await lockHead(tx, trial.code);
    const patch = JSON.parse(trial.patch) as JsonPatch;
    const files = JSON.parse(trial.files) as Record<string, string>;
    if (Object.keys(files).length === 0 && patch.some(({ path }) => path.endsWith('/file')))
      throw conflict(`Trial ${trial.number} shows what a missing file does: there is nothing to keep.`);
    const other = otherSheet(trial.sheet);
    const values = sheetValues(patch);
    const sheets = both ? `${trial.sheet} and ${other}` : trial.sheet;
    const reason = `Kept trial ${trial.number}: ${trial.title} (${sheets})`;
    const change = { patch, reason, files, ...(both ? { values, sheets: [other] } : {}) };
    const version = (await addVersion(context, tx, shot, head, change))!;
    await tx
      .insert(decisions)
      .values({ shotId: shot.id, trialId: id, verdict: 'keep', reason: sheets, versionId: version.id });
  });
}

export async function dropTrial(context: Context, id: number): Promise<void> {
  await context.db.transaction(async (tx) => {
    const trial = await lockTrial(tx, id);
    if (trial.state === 'predicting' || trial.state === 'rendering')
      throw conflict(`Trial ${trial.number} is still running. Stop it first.`);
    if (await isKept(tx, trial))
      throw conflict(`Trial ${trial.number} was kept. ${trial.alonePatch === null ? 'Undo reverts its change.' : 'It became two separate shots.'}`); // prettier-ignore
    await tx.insert(decisions).values({ shotId: trial.shotId, trialId: id, verdict: 'drop' });
    await shotChanged(tx, trial.shotId);
  });
}
