/** A trial of two renders, kept. */
import { eq } from 'drizzle-orm';
import type { ApartRequest } from '../../core/contracts/requests.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import type { Context } from '../context.ts';
import { decisions, versions } from '../db/schema.ts';
import { conflict } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { lockTrial, otherSheet, sheetValues } from '../trials/trials.ts';
import { lockHead } from '../versions/versions.ts';
import { addCopy } from './copy-shot.ts';

/**
 * A trial that is a picture of two renders becomes two shots, for no version is both: one without the objects, one with them alone. Values of
 * the sheet that it was tried in are set in the other sheet too, so that a final is what was proved.
 * @throws RequestError 409 when a code is taken, or the trial is not measured
 */
export async function keepApart(context: Context, trialId: number, codes: ApartRequest): Promise<void> {
  if (codes.rest === codes.alone) throw conflict(`Two shots cannot both be called ${codes.rest}.`);
  await context.db.transaction(async (tx) => {
    const trial = await lockTrial(tx, trialId);
    if (trial.state !== 'done') throw conflict(`Trial ${trial.number} is ${trial.state}: nothing is proven yet.`);
    if (trial.alonePatch === null)
      throw conflict(`Trial ${trial.number} is of one render: it is kept in the shot itself.`);
    const { shot } = await lockHead(tx, trial.code);
    const [version] = await tx.select().from(versions).where(eq(versions.id, trial.versionId));
    const reason = (what: string) => `${what} of trial ${trial.number} of ${trial.code}: ${trial.title}`;
    const parts = [
      { code: codes.rest, name: `${shot.name.slice(0, 180)}, rest`, patch: trial.patch, reason: reason('The rest') },
      {
        code: codes.alone,
        name: `${shot.name.slice(0, 180)}, held out`,
        patch: trial.alonePatch,
        reason: reason('The objects alone'),
      },
    ];
    for (const { code, name, reason, ...part } of parts) {
      const patch = JSON.parse(part.patch) as JsonPatch;
      const values = sheetValues(patch);
      await addCopy(context, tx, shot, version, { code, name }, { reason, patch, values, sheets: [otherSheet(trial.sheet)] }); // prettier-ignore
    }
    await tx
      .insert(decisions)
      .values({ shotId: shot.id, trialId, verdict: 'keep', reason: `${codes.rest} and ${codes.alone}` });
    await shotChanged(tx, shot.id);
  });
}
