/** Decisions about findings: put aside with a reason, taken up again. */
import { eq } from 'drizzle-orm';
import type { Context } from '../context.ts';
import { decisions, findings } from '../db/schema.ts';
import { notFound } from '../errors.ts';
import { shotChanged } from '../notify.ts';

export async function decideFinding(
  context: Context,
  id: number,
  verdict: 'put aside' | 'take up',
  reason: string,
): Promise<void> {
  await context.db.transaction(async (tx) => {
    const finding = await findFinding(tx, id);
    await tx.insert(decisions).values({ shotId: finding.shotId, findingId: id, verdict, reason });
    await shotChanged(tx, finding.shotId);
  });
}

export async function findFinding(tx: Pick<Context['db'], 'select'>, id: number) {
  const [finding] = await tx.select().from(findings).where(eq(findings.id, id));
  if (!finding) throw notFound(`finding ${id}`);
  return finding;
}
