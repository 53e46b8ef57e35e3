/** The log formats that ship, and which of them a log is in. Another one is a file and a line here. */
import type { LogFormat } from './format.ts';
import { heronFormat } from './formats/heron.ts';
import { millraceFormat } from './formats/millrace.ts';
import { ownFormat } from './formats/own.ts';
import { LineReader } from './line.ts';
import { plainFormat } from './formats/plain.ts';

export const LOG_FORMATS: LogFormat[] = [ownFormat, heronFormat, millraceFormat];

/** Lines that decide which format a log is in. */
export const LINES_TO_TELL = 400;

/** The format that reads most of some lines; the plain one, which looks for words, when none reads a third. */
export function formatOf(lines: string[], formats: LogFormat[] = LOG_FORMATS): LogFormat {
  const told = lines.filter((line) => line.trim() !== '');
  let best = plainFormat;
  let most = told.length / 3;
  for (const format of formats) {
    const reader = new LineReader(format);
    const read = told.filter((line) => reader.read(line) !== null).length;
    if (read > most) [best, most] = [format, read];
  }
  return best;
}
