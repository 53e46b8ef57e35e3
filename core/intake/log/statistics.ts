/**
 * What a renderer wrote beside its log, for logs that state no times or no memory: JSON
 * (`dusting.statistics/1`) or CSV with a line a frame. It fills what a log lacks and replaces nothing.
 *
 *     { "schema": "dusting.statistics/1", "seconds": 812, "peakMemory": 5368709120, "phases": { "trace": 700 },
 *       "rays": { "camera": 8294400 }, "frames": [{ "frame": 1001, "seconds": 812, "peakMemory": 5368709120 }] }
 *
 *     frame,seconds,peak_memory_mb
 *     1001,812,5120
 */
import { Type, type Static } from '@sinclair/typebox';
import { parseJson } from '../../document/json-text.ts';
import { InvalidInput, showValue } from '../../document/problem.ts';
import { checkSchema } from '../../document/schema-check.ts';
import type { LogFrame, ReadLog } from './read.ts';

const closed = { additionalProperties: false } as const;
const figure = Type.Number({ minimum: 0 });

const StatisticsSchema = Type.Object(
  {
    schema: Type.Literal('dusting.statistics/1'),
    seconds: Type.Optional(figure),
    /** Bytes. */
    peakMemory: Type.Optional(figure),
    phases: Type.Optional(Type.Record(Type.String({ maxLength: 200 }), figure)),
    rays: Type.Optional(Type.Record(Type.String({ maxLength: 60 }), figure)),
    frames: Type.Optional(
      Type.Array(
        Type.Object(
          { frame: Type.Number(), seconds: Type.Optional(figure), peakMemory: Type.Optional(figure) },
          closed,
        ),
        { maxItems: 100_000 },
      ),
    ),
  },
  { ...closed, $id: 'dusting.statistics/1' },
);
export type Statistics = Static<typeof StatisticsSchema>;

/** @throws InvalidInput naming the place */
export function parseStatistics(text: string, what: string): Statistics {
  if (!/^\s*\{/.test(text)) return fromCsv(text, what);
  const value = parseJson(text, what);
  checkSchema(StatisticsSchema, value, what);
  return value as Statistics;
}

const COLUMNS = ['frame', 'seconds', 'peak_memory_mb'];

function fromCsv(text: string, what: string): Statistics {
  const [head, ...rows] = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  const names = (head ?? '').split(',').map((name) => name.trim().toLowerCase());
  if (names[0] !== 'frame' || !names.every((name) => COLUMNS.includes(name)))
    throw new InvalidInput(what, [
      { path: '/1', value: showValue(head ?? ''), expected: `a first line of ${COLUMNS.join(', ')}, or JSON` },
    ]);
  const frames = rows.map((row, i) => {
    const written = row.split(',').map((cell) => cell.trim());
    const cells = written.map((cell) => (cell === '' ? NaN : Number(cell)));
    const at = (name: string) => cells[names.indexOf(name)] as number | undefined;
    const isNone = (cell: number, i: number) => (Number.isNaN(cell) && written[i] !== '') || (i > 0 && cell < 0);
    if (cells.length !== names.length || !Number.isFinite(cells[0]) || cells.some(isNone))
      throw new InvalidInput(what, [{ path: `/${i + 2}`, value: showValue(row), expected: `${names.length} numbers` }]);
    const [seconds, memory] = [at('seconds'), at('peak_memory_mb')];
    return {
      frame: cells[0],
      ...(Number.isFinite(seconds) ? { seconds } : {}),
      ...(Number.isFinite(memory) ? { peakMemory: memory! * 2 ** 20 } : {}),
    };
  });
  return { schema: 'dusting.statistics/1', frames };
}

/** The log with what it lacked; what it states itself stays. */
export function withStatistics(log: ReadLog, statistics: Statistics): ReadLog {
  const told = statistics.frames ?? [];
  const sum = told.reduce((all, { seconds = 0 }) => all + seconds, 0);
  const peak = statistics.peakMemory ?? Math.max(0, ...told.map(({ peakMemory = 0 }) => peakMemory));
  const frames = new Map<number, LogFrame>(log.frames.map((frame) => [frame.frame, frame]));
  for (const { frame, seconds, peakMemory } of told) {
    const known = frames.get(frame);
    frames.set(frame, {
      frame,
      seconds: known?.seconds ?? seconds ?? null,
      peakMemory: known?.peakMemory ?? peakMemory ?? null,
      warnings: known?.warnings ?? 0,
      errors: known?.errors ?? 0,
    });
  }
  const phases = Object.entries(statistics.phases ?? {}).map(([name, seconds]) => ({ name, seconds, lines: 0 }));
  const hasTimes = log.phases.some(({ seconds }) => seconds > 0);
  return {
    ...log,
    seconds: log.seconds ?? statistics.seconds ?? (sum > 0 ? sum : null),
    phases: hasTimes || phases.length === 0 ? log.phases : phases,
    memory: log.memory ?? (peak > 0 ? { peak, peakLine: 0, last: peak, curve: [] } : null),
    rays: log.rays ?? statistics.rays ?? null,
    frames: [...frames.values()].sort((a, b) => a.frame - b.frame),
  };
}
