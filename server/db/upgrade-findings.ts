/** Findings and effects that an earlier build stored get the shape they have now. */
import { eq, isNotNull } from 'drizzle-orm';
import type { Effect } from '../../core/contracts/figures.ts';
import type { Finding } from '../../core/contracts/finding.ts';
import { lineOf, upgradeEffect, upgradeFinding } from '../../core/diagnose/stored.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import type { Database } from './database.ts';
import { findings, trials } from './schema.ts';

/** All of it or nothing: what it goes by is whether a finding is still as it was. @returns how many findings had another shape */
export function upgradeFindings(db: Database): Promise<number> {
  return db.transaction(async (tx) => {
    const old = await tx
      .select({ id: findings.id, body: findings.body })
      .from(findings)
      .where(eq(findings.summary, '{}'));
    for (const { id, body } of old) {
      const finding = upgradeFinding(JSON.parse(body) as Finding);
      await tx
        .update(findings)
        .set({ body: canonicalText(finding), summary: canonicalText(lineOf(finding)), key: finding.key })
        .where(eq(findings.id, id));
    }
    if (old.length === 0) return 0;
    const upgraded = (text: string | null) => text && canonicalText(upgradeEffect(JSON.parse(text) as Effect));
    for (const { id, predicted, measured } of await tx.select().from(trials).where(isNotNull(trials.predicted)))
      await tx
        .update(trials)
        .set({ predicted: upgraded(predicted), measured: upgraded(measured) })
        .where(eq(trials.id, id));
    return old.length;
  });
}
