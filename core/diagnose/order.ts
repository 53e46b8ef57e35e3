/** The one order of urgency, of findings of renders, pictures and versions alike. */
import type { Finding, Severity } from '../contracts/finding.ts';

export const SEVERITIES: readonly Severity[] = ['stop', 'caution', 'note'];

/** The worst first; what is read again after another comes behind it; of equals, as they came. */
export function byUrgency<T extends { finding: Pick<Finding, 'key' | 'severity' | 'after'> }>(found: T[]): T[] {
  const byKey = new Map(found.map((one) => [one.finding.key, one]));
  /** What goes before others is as urgent as they are. */
  const rank = new Map(found.map(({ finding }) => [finding.key, SEVERITIES.indexOf(finding.severity)]));
  for (const { finding } of found)
    for (const key of finding.after ?? [])
      if (byKey.has(key)) rank.set(key, Math.min(rank.get(key)!, rank.get(finding.key)!));
  const isBehind = ({ finding }: T) => (finding.after ?? []).some((key) => byKey.has(key));
  return [...found].sort(
    (a, b) => rank.get(a.finding.key)! - rank.get(b.finding.key)! || Number(isBehind(a)) - Number(isBehind(b)),
  );
}
