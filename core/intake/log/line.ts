/** One line of a log, by its format. */
import { compilePattern, type Pattern } from '../../data/pattern.ts';
import type { Field, LogFormat, Severity } from './format.ts';

export interface LogLine {
  /** Seconds, from whatever the log counts from. */
  time: number | null;
  severity: Severity | null;
  phase: string | null;
  thread: string | null;
  frame: number | null;
  object: string | null;
  /** Bytes. */
  memory: number | null;
  /** Rays by kind, as `camera=1200,shadow=3400`. */
  rays: Record<string, number> | null;
  message: string;
}

/** What is longer is no line that people read; the rest of it is left out. */
const LONGEST = 4000;

export class LineReader {
  private readonly patterns: Pattern[];
  private readonly closing: Pattern;
  private lastText = '';
  private lastSeconds: number | null = null;

  constructor(private readonly format: LogFormat) {
    this.patterns = format.lines.map((pattern) => compilePattern(pattern));
    this.closing = compilePattern(format.closing);
  }

  /** Whether only a finished render writes such a line. */
  closes(line: string): boolean {
    return this.closing.test(line.slice(0, LONGEST));
  }

  /** Null when the line is of another shape. */
  read(full: string): LogLine | null {
    const line = full.length > LONGEST ? full.slice(0, LONGEST) : full;
    if (this.format.keys) return this.readJson(line, this.format.keys);
    for (const pattern of this.patterns) {
      const groups = pattern.groups(line);
      if (groups) return this.made(groups);
    }
    return null;
  }

  private readJson(line: string, keys: Record<string, string>): LogLine | null {
    if (!line.startsWith('{')) return null;
    try {
      const value = JSON.parse(line) as Record<string, unknown>;
      const text = (key: string | undefined) => {
        const found = key === undefined ? undefined : value[key];
        return found === undefined || found === null ? undefined : String(found);
      };
      return this.made(Object.fromEntries(Object.entries(keys).map(([field, key]) => [field, text(key)])));
    } catch {
      return null;
    }
  }

  private made(found: Partial<Record<Field, string | undefined>>): LogLine {
    const { severities, memoryUnit } = this.format;
    const severity = found.severity === undefined ? null : (severities[found.severity] ?? null);
    return {
      time: found.time === undefined ? null : this.seconds(found.time),
      severity,
      phase: found.phase ?? null,
      thread: found.thread ?? null,
      frame: found.frame === undefined ? null : Number(found.frame),
      object: found.object ?? null,
      memory: found.memory === undefined ? null : bytesOf(found.memory, memoryUnit),
      rays: found.rays === undefined ? null : raysOf(found.rays),
      message: found.message ?? '',
    };
  }

  /** Lines come many to a second: the last time read is kept. */
  private seconds(text: string): number | null {
    if (text === this.lastText) return this.lastSeconds;
    this.lastText = text;
    this.lastSeconds = finite(this.parsed(text));
    return this.lastSeconds;
  }

  private parsed(text: string): number {
    if (this.format.time === 'seconds') return Number(text);
    if (this.format.time === 'date') return Date.parse(text) / 1000;
    let sum = 0;
    let start = 0;
    for (let colon = text.indexOf(':'); colon >= 0; colon = text.indexOf(':', start)) {
      sum = (sum + Number(text.slice(start, colon))) * 60;
      start = colon + 1;
    }
    return sum + Number(text.slice(start));
  }
}

const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

const UNITS: Record<string, number> = { K: 2 ** 10, M: 2 ** 20, G: 2 ** 30, T: 2 ** 40 };

function bytesOf(text: string, unit: number): number | null {
  const found = /^([\d.]+)\s*([KMGT]?)(i?B)?$/.exec(text.trim());
  if (!found) return null;
  return finite(Number(found[1]) * (UNITS[found[2]] ?? (found[3] ? 1 : unit)));
}

function raysOf(text: string): Record<string, number> {
  const entries = text.split(',').map((part) => part.split('='));
  return Object.fromEntries(
    entries.filter(([, n]) => Number.isFinite(Number(n))).map(([kind, n]) => [kind, Number(n)]),
  );
}
