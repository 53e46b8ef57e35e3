/**
 * How one renderer writes its log: `dusting.log-format/1`, plain JSON that people edit. Each line is held against the
 * patterns in turn; named groups say what is what. Described in `docs/intake.md`.
 */
import { Type, type Static } from '@sinclair/typebox';
import { compilePattern } from '../../data/pattern.ts';
import { parseJson } from '../../document/json-text.ts';
import { InvalidInput, showValue } from '../../document/problem.ts';
import { checkSchema } from '../../document/schema-check.ts';

const closed = { additionalProperties: false } as const;

export const SEVERITIES = ['debug', 'info', 'warning', 'error', 'fatal'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** What named groups, or keys of a line of JSON, can say. */
export const FIELDS = ['time', 'severity', 'phase', 'thread', 'frame', 'object', 'memory', 'rays', 'message'] as const;
export type Field = (typeof FIELDS)[number];

export const LogFormatSchema = Type.Object(
  {
    schema: Type.Literal('dusting.log-format/1'),
    name: Type.String({ minLength: 1, maxLength: 200 }),
    /** Regular expressions with named groups out of FIELDS; the first that fits a line reads it. */
    lines: Type.Array(Type.String({ maxLength: 1000 }), { maxItems: 40 }),
    /** For logs of one JSON object a line: which key holds what. */
    keys: Type.Optional(Type.Record(Type.String(), Type.String({ maxLength: 100 }))),
    /** Words of the log for severities. */
    severities: Type.Record(
      Type.String({ maxLength: 40 }),
      Type.Unsafe<Severity>(Type.String({ enum: [...SEVERITIES] })),
    ),
    /** How times are written: seconds, `h:m:s`, or a date and time. */
    time: Type.Unsafe<'seconds' | 'clock' | 'date'>(Type.String({ enum: ['seconds', 'clock', 'date'] })),
    /** Bytes of one unit of memory where the number has no unit of its own. */
    memoryUnit: Type.Number({ exclusiveMinimum: 0 }),
    /** Regular expression of the line that only a finished render writes. */
    closing: Type.String({ maxLength: 1000 }),
  },
  { ...closed, $id: 'dusting.log-format/1' },
);

export type LogFormat = Static<typeof LogFormatSchema>;

/** @throws InvalidInput naming the place */
export function parseLogFormat(text: string, what: string): LogFormat {
  const value = parseJson(text, what);
  checkSchema(LogFormatSchema, value, what);
  const format = value as LogFormat;
  [...format.lines, format.closing].forEach((pattern, i) => {
    const path = i < format.lines.length ? `/lines/${i}` : '/closing';
    let groups: string[];
    try {
      groups = [...pattern.matchAll(/\(\?<(\w+)>/g)].map(([, name]) => name);
      compilePattern(pattern);
    } catch (error) {
      const expected = `a regular expression without look-around and back-references (${(error as Error).message})`;
      throw new InvalidInput(what, [{ path, value: showValue(pattern), expected }]);
    }
    const unknown = groups.find((name) => !(FIELDS as readonly string[]).includes(name));
    if (unknown)
      throw new InvalidInput(what, [
        { path, value: showValue(unknown), expected: `groups out of ${FIELDS.join(', ')}` },
      ]);
  });
  return format;
}
