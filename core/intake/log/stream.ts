/**
 * A log as it comes, in pieces: held back until its first lines say which format it is in, then read on the way.
 *
 * @example
 * const stream = new LogStream('render.log');
 * for await (const piece of pieces) stream.push(piece);
 * const log = stream.end();
 */
import type { LogFormat } from './format.ts';
import { formatOf, LINES_TO_TELL, LOG_FORMATS } from './formats.ts';
import { LogReading, type ReadLog } from './read.ts';

/** A log whose lines are so long is told by what came of it so far. */
const MOST_HELD = 2 ** 22;

export class LogStream {
  private reading: LogReading | null = null;
  private held = '';

  /**
   * @param name of the log in messages
   * @param isGiven the first format counts, however few lines it reads
   */
  constructor(
    private readonly name: string,
    private readonly formats: LogFormat[] = LOG_FORMATS,
    private readonly isGiven = false,
  ) {}

  /** @throws RangeError when it is not text */
  push(piece: string): void {
    if (this.reading) {
      this.reading.push(piece);
      return;
    }
    this.held += piece;
    if (this.held.slice(0, 4096).includes('\0')) throw new RangeError(`"${this.name}" is not text.`);
    const lines = this.held.split('\n', LINES_TO_TELL + 1);
    if (lines.length > LINES_TO_TELL || this.held.length > MOST_HELD) this.begin(lines);
  }

  /** @throws RangeError when there was nothing in it */
  end(): ReadLog {
    if (!this.reading && this.held.trim() === '') throw new RangeError(`"${this.name}" is empty.`);
    if (!this.reading) this.begin(this.held.split('\n'));
    return this.reading!.end();
  }

  private begin(lines: string[]): void {
    const format = this.isGiven ? this.formats[0] : formatOf(lines.slice(0, LINES_TO_TELL), this.formats);
    this.reading = new LogReading(format);
    this.reading.push(this.held);
    this.held = '';
  }
}
