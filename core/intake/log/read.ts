/**
 * A log from its text, piece by piece, however long: repeats folded, time by phase, memory, frames, how it ended.
 *
 * @example
 * const reading = new LogReading(ownFormat);
 * for (const piece of pieces) reading.push(piece);
 * const log = reading.end();
 */
import type { LogFormat, Severity } from './format.ts';
import { LineReader, type LogLine } from './line.ts';

/** Messages that differ in numbers, names and paths alone. */
export interface LogKind {
  /** The message with what differs left out. */
  key: string;
  severity: Severity;
  count: number;
  /** The first message as it stands, its line from 1, and the last line. */
  message: string;
  firstLine: number;
  lastLine: number;
  phase: string | null;
  /** Objects it names, the first few. */
  objects: string[];
}

export interface LogFrame {
  frame: number;
  seconds: number | null;
  peakMemory: number | null;
  warnings: number;
  errors: number;
}

export interface ReadLog {
  format: string;
  lines: number;
  /** Lines of no shape the format knows; they go on what stands before. */
  unread: number;
  /** Null: the log states no times. */
  seconds: number | null;
  phases: { name: string; seconds: number; lines: number }[];
  kinds: LogKind[];
  frames: LogFrame[];
  /** Bytes; null: the log states none. */
  memory: { peak: number; peakLine: number; last: number; curve: { seconds: number; bytes: number }[] } | null;
  rays: Record<string, number> | null;
  /** Whether it ends as finished renders end. */
  closed: boolean;
  last: { line: number; text: string; phase: string | null; frame: number | null; object: string | null };
}

const MOST_KINDS = 5000;
const MOST_OBJECTS = 20;
const CURVE = 512;

export class LogReading {
  private readonly reader: LineReader;
  private rest = '';
  private lines = 0;
  private unread = 0;
  private first: number | null = null;
  private time: number | null = null;
  private days = 0;
  private readonly phases = new Map<string, { seconds: number; lines: number }>();
  private readonly kinds = new Map<string, LogKind>();
  private readonly frames = new Map<number, LogFrame & { from: number | null }>();
  private readonly rays: Record<string, number> = {};
  private peak = { bytes: 0, line: 0 };
  private lastMemory = 0;
  private curve: { seconds: number; bytes: number }[] = [];
  private stride = 1;
  private sinceLast = 0;
  private closed = false;
  private readonly last: ReadLog['last'] = { line: 0, text: '', phase: null, frame: null, object: null };

  constructor(private readonly format: LogFormat) {
    this.reader = new LineReader(format);
  }

  push(text: string): void {
    const all = this.rest + text;
    let from = 0;
    for (let end = all.indexOf('\n'); end >= 0; end = all.indexOf('\n', from)) {
      this.line(all.slice(from, end));
      from = end + 1;
    }
    this.rest = all.slice(from);
  }

  end(): ReadLog {
    if (this.rest !== '') this.line(this.rest);
    this.rest = '';
    const byTime = [...this.phases].sort(([, a], [, b]) => b.seconds - a.seconds);
    return {
      format: this.format.name,
      lines: this.lines,
      unread: this.unread,
      seconds: this.first === null ? null : this.time! - this.first,
      phases: byTime.map(([name, phase]) => ({ name, ...phase })),
      kinds: [...this.kinds.values()],
      frames: [...this.frames.values()].map(({ from: _, ...frame }) => frame),
      memory: this.peak.bytes
        ? { peak: this.peak.bytes, peakLine: this.peak.line, last: this.lastMemory, curve: this.curve }
        : null,
      rays: Object.keys(this.rays).length ? this.rays : null,
      closed: this.closed,
      last: this.last,
    };
  }

  private line(raw: string): void {
    this.lines += 1;
    const text = raw.endsWith('\r') ? raw.slice(0, -1) : raw;
    if (text.trim() === '') return;
    this.last.line = this.lines;
    this.last.text = text.slice(0, 300);
    if (this.reader.closes(text)) this.closed = true;
    const read = this.reader.read(text);
    if (!read) {
      this.unread += 1;
      return;
    }
    this.atTime(read);
    this.inFrame(read);
    if (read.object !== null) this.last.object = read.object;
    if (read.memory !== null) this.atMemory(read.memory);
    if (read.rays) Object.assign(this.rays, read.rays);
    if (read.severity !== null) this.fold(read, read.severity);
  }

  private atTime(read: LogLine): void {
    const phase = read.phase ?? this.last.phase;
    if (read.time !== null) {
      // A clock that jumps back by most of a day has passed midnight.
      if (this.format.time === 'clock' && this.time !== null && read.time + this.days < this.time - 43200)
        this.days += 86400;
      const time = read.time + this.days;
      this.first ??= time;
      // What passed since the line before was spent in its phase.
      const before = this.last.phase;
      if (this.time !== null && before !== null && time > this.time) this.phase(before).seconds += time - this.time;
      this.time = Math.max(this.time ?? time, time);
    }
    if (phase !== null) this.phase(phase).lines += 1;
    this.last.phase = phase;
  }

  private phase(name: string): { seconds: number; lines: number } {
    let phase = this.phases.get(name);
    if (!phase) this.phases.set(name, (phase = { seconds: 0, lines: 0 }));
    return phase;
  }

  private inFrame(read: LogLine): void {
    if (read.frame !== null) this.last.frame = read.frame;
    const number = this.last.frame;
    if (number === null) return;
    let frame = this.frames.get(number);
    if (!frame) {
      frame = { frame: number, seconds: null, peakMemory: null, warnings: 0, errors: 0, from: this.time };
      this.frames.set(number, frame);
    }
    if (this.time !== null && frame.from !== null) frame.seconds = this.time - frame.from;
    if (read.memory !== null) frame.peakMemory = Math.max(frame.peakMemory ?? 0, read.memory);
    if (read.severity === 'warning') frame.warnings += 1;
    else if (read.severity === 'error' || read.severity === 'fatal') frame.errors += 1;
  }

  private atMemory(bytes: number): void {
    this.lastMemory = bytes;
    if (bytes > this.peak.bytes) this.peak = { bytes, line: this.lines };
    const seconds = this.time === null ? this.lines : this.time - (this.first ?? 0);
    const last = this.curve.at(-1);
    if (last && this.sinceLast++ % this.stride) {
      if (bytes > last.bytes) last.bytes = bytes;
      return;
    }
    this.curve.push({ seconds, bytes });
    if (this.curve.length < CURVE) return;
    // Half as many points, each with the greater value of two.
    this.curve = this.curve.flatMap((point, i) =>
      i % 2 ? [] : [{ ...point, bytes: Math.max(point.bytes, this.curve[i + 1]?.bytes ?? 0) }],
    );
    this.stride *= 2;
  }

  private fold(read: LogLine, severity: Severity): void {
    if (severity === 'debug' || severity === 'info') return;
    const key = `${severity} ${foldedMessage(read.message)}`;
    const kind = this.kinds.get(key);
    if (kind) {
      kind.count += 1;
      kind.lastLine = this.lines;
      if (read.object && kind.objects.length < MOST_OBJECTS && !kind.objects.includes(read.object))
        kind.objects.push(read.object);
      return;
    }
    // A log in which every message differs is told by its first kinds.
    if (this.kinds.size >= MOST_KINDS) return;
    this.kinds.set(key, {
      key,
      severity,
      count: 1,
      message: read.message,
      firstLine: this.lines,
      lastLine: this.lines,
      phase: read.phase ?? this.last.phase,
      objects: read.object ? [read.object] : [],
    });
  }
}

/** Without numbers, what stands in quotes, and paths: what is left says the kind. */
export const foldedMessage = (message: string): string =>
  message
    .replaceAll(/"[^"]*"|'[^']*'/g, '"…"')
    .replaceAll(/(?:[A-Za-z]:)?(?:[\w.$%{}~-]*[/\\])+[\w.$%{}~-]*/g, '…/…')
    .replaceAll(/0x[0-9a-f]+/gi, '#')
    .replaceAll(/-?\d+(?:\.\d+)?(?:e[-+]?\d+)?/gi, '#');
