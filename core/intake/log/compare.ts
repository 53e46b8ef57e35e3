/** What one log has that another has not. */
import type { LogKind, ReadLog } from './read.ts';

/** What of a log is compared. */
export interface ComparedLog extends Pick<ReadLog, 'phases'> {
  kinds: ComparedKind[];
  memory: { peak: number } | null;
}
type ComparedKind = Pick<LogKind, 'key' | 'severity' | 'message'>;

export interface LogDifference {
  /** Kinds of message that only one of them has. */
  gone: ComparedKind[];
  added: ComparedKind[];
  /** Seconds by phase, before and after. */
  phases: { name: string; before: number; after: number }[];
  sentences: string[];
}

export function compareLogs(before: ComparedLog, after: ComparedLog): LogDifference {
  const only = (of: ComparedLog, than: ComparedLog) =>
    of.kinds.filter(({ key }) => !than.kinds.some((kind) => kind.key === key));
  const names = [...new Set([...before.phases, ...after.phases].map(({ name }) => name))];
  const spent = (log: ComparedLog, name: string) => log.phases.find((phase) => phase.name === name)?.seconds ?? 0;
  const phases = names.map((name) => ({ name, before: spent(before, name), after: spent(after, name) }));
  const [gone, added] = [only(before, after), only(after, before)];
  const kinds = (list: ComparedKind[], word: string) =>
    list.map(({ severity, message }) => `${word} ${severity}: ${message.slice(0, 200)}`);
  const sentences = [...kinds(gone, 'Gone'), ...kinds(added, 'New')];
  for (const phase of phases)
    if (Math.abs(phase.after - phase.before) > Math.max(1, 0.1 * phase.before))
      sentences.push(`"${phase.name}" took ${phase.before.toFixed(1)} s, now ${phase.after.toFixed(1)} s`);
  if (before.memory && after.memory && Math.abs(after.memory.peak / before.memory.peak - 1) > 0.05)
    sentences.push(`memory peaked at ${megabytes(before.memory.peak)}, now at ${megabytes(after.memory.peak)}`);
  return { gone, added, phases, sentences };
}

const megabytes = (bytes: number): string => `${Math.round(bytes / 2 ** 20).toLocaleString('en')} MB`;
