/** What a log says, in the order in which somebody should read it: how it ended, what matters, what the figures hint at. */
import { plainFormat } from './formats/plain.ts';
import type { Severity } from './format.ts';
import { meaningOf, type LogEvidence, type Verdict } from './meanings.ts';
import type { LogKind, ReadLog } from './read.ts';

/** What somebody decided about a kind of message, kept with the shot. */
export interface LogDecision {
  /** Of the kind. */
  key: string;
  harmless: boolean;
  why: string;
}

export interface TriagedKind extends LogKind {
  /** Of the meaning; null: nobody has written down what it means. */
  id: string | null;
  meaning: string;
  verdict: Verdict;
}

/** A log that stops without an end. */
export interface BreakOff {
  phase: string | null;
  frame: number | null;
  object: string | null;
  line: number;
  memory: 'rising' | 'steady' | 'unknown';
  cause: string;
}

export interface Triage {
  state: 'clear' | 'caution' | 'stop';
  brokeOff: BreakOff | null;
  kinds: TriagedKind[];
  /** What the figures hint at, as sentences with their figures. */
  hints: string[];
  /** What the log does not state, and what would help. */
  lacking: string[];
}

const WEIGHT: Record<Severity, number> = { fatal: 4, error: 3, warning: 2, info: 1, debug: 0 };

export function triage(log: ReadLog, evidence: LogEvidence = {}, decisions: LogDecision[] = []): Triage {
  const kinds = log.kinds
    .map((kind) => triaged(kind, evidence, decisions))
    .sort((a, b) => worth(b) - worth(a) || b.count - a.count);
  const brokeOff = log.closed ? null : breakOff(log, kinds);
  const harmful = kinds.filter(({ verdict }) => verdict.harmless === 'no');
  const isStop = brokeOff !== null || harmful.some(({ severity }) => severity === 'error' || severity === 'fatal');
  const open = kinds.filter(({ verdict }) => verdict.harmless !== 'yes');
  return {
    state: isStop ? 'stop' : open.length ? 'caution' : 'clear',
    brokeOff,
    kinds,
    hints: hintsOf(log),
    lacking: lackingOf(log),
  };
}

const worth = ({ severity, verdict }: TriagedKind): number =>
  WEIGHT[severity] + (verdict.harmless === 'no' ? 10 : verdict.harmless === 'unknown' ? 5 : 0);

function triaged(kind: LogKind, evidence: LogEvidence, decisions: LogDecision[]): TriagedKind {
  const meaning = meaningOf(kind.message);
  const base = {
    ...kind,
    id: meaning?.id ?? null,
    meaning: meaning?.meaning ?? 'No meaning is recorded for this message.',
  };
  const decided = decisions.find(({ key }) => key === kind.key);
  if (decided) {
    const why = `decided for this shot: ${decided.why}`;
    return { ...base, verdict: { harmless: decided.harmless ? 'yes' : 'no', why } };
  }
  if (meaning) return { ...base, verdict: meaning.judge(kind.message, kind.count, evidence) };
  const isBad = kind.severity === 'error' || kind.severity === 'fatal';
  return {
    ...base,
    verdict: {
      harmless: isBad ? 'no' : 'unknown',
      why: isBad ? 'errors count unless decided otherwise' : 'read it, and decide for the shot',
    },
  };
}

/** Lines from the end in which what ended a render stands. */
const LAST_LINES = 50;

function breakOff(log: ReadLog, kinds: TriagedKind[]): BreakOff {
  const { phase, frame, object, line } = log.last;
  const memory = trendOf(log);
  const ended = kinds.find(
    ({ id, lastLine }) =>
      (id === 'out-of-memory' || id === 'killed' || id === 'disk-full') && lastLine > log.lines - LAST_LINES,
  );
  const fatal = kinds.find(({ severity, lastLine }) => severity === 'fatal' && lastLine > log.lines - LAST_LINES);
  const cause =
    ended?.id === 'out-of-memory'
      ? `memory ran out (line ${ended.lastLine})`
      : ended?.id === 'disk-full'
        ? `the disk was full (line ${ended.lastLine})`
        : fatal
          ? `a fatal error ended it (line ${fatal.lastLine}): ${fatal.message}`
          : memory === 'rising'
            ? `most likely killed by the machine for lack of memory: it was still rising, at ${gigabytes(log.memory!.last)}, when the log stops`
            : ended
              ? `the process was killed or crashed (line ${ended.lastLine})`
              : `the process was killed, or crashed without a message; ${
                  memory === 'unknown'
                    ? 'the log does not tell of memory'
                    : 'memory was not the reason as far as the log tells'
                }`;
  // How a renderer of no known format closes nobody knows.
  const doubt = log.format === plainFormat.name ? ', or it ended well in words of its own: give its format' : '';
  return { phase, frame, object, line, memory, cause: cause + doubt };
}

/** Whether memory was still rising over the last fifth. */
function trendOf({ memory }: ReadLog): BreakOff['memory'] {
  if (!memory || memory.curve.length < 4) return 'unknown';
  const { curve, last, peak } = memory;
  const earlier = curve[Math.floor(curve.length * 0.8)].bytes;
  return last >= 0.98 * peak && last > 1.1 * earlier ? 'rising' : 'steady';
}

function hintsOf({ phases, seconds, memory, rays }: ReadLog): string[] {
  const hints: string[] = [];
  const [longest] = phases;
  if (longest && seconds && seconds > 0 && phases.length > 1) {
    const share = longest.seconds / seconds;
    if (share > 0.6)
      hints.push(
        `${percent(share)} of the time (${Math.round(longest.seconds)} of ${Math.round(seconds)} s) is in "${longest.name}".`,
      );
  }
  if (rays) {
    const all = Object.values(rays).reduce((a, b) => a + b, 0);
    const [kind, most] = Object.entries(rays).sort(([, a], [, b]) => b - a)[0];
    if (most > 0.6 * all && Object.keys(rays).length > 1)
      hints.push(`${percent(most / all)} of all rays are ${kind} rays.`);
  }
  if (memory && memory.peak > 16 * 2 ** 30) hints.push(`Memory peaks at ${gigabytes(memory.peak)}.`);
  return hints;
}

function lackingOf({ seconds, memory, lines, unread }: ReadLog): string[] {
  const lacking: string[] = [];
  if (seconds === null) lacking.push('The log states no times; a statistics file of the render would have them.');
  if (memory === null) lacking.push('The log states no memory; a statistics file of the render would have it.');
  if (unread > lines / 2) lacking.push(`${unread} of ${lines} lines do not fit this log format; try another.`);
  return lacking;
}

const percent = (share: number): string => `${Math.round(100 * share)} %`;
const gigabytes = (bytes: number): string => `${(bytes / 2 ** 30).toPrecision(3)} GB`;
