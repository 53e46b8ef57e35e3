/** Severities as people read them. "Stop" would be read as exposure. */
const NAMES: Record<string, string> = { stop: 'blocker', caution: 'warning', 'not-run': 'not run' };

export const severityName = (severity: string): string => NAMES[severity] ?? severity;

/** "3 blockers, 25 warnings"; what stops a shot first. Empty where there is neither. */
export function countSeverities(counts: { stop: number; caution: number }): string {
  const many = (count: number, name: string) => (count ? [`${count} ${name}${count === 1 ? '' : 's'}`] : []);
  return [...many(counts.stop, 'blocker'), ...many(counts.caution, 'warning')].join(', ');
}
