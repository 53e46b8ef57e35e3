/** Signs, words, strings and numbers of a USD text, one after another, with their places. */
import type { UsdNumbers } from './layer.ts';

const SPACE = /[ \t\n;]/;
const WORD = /[A-Za-z_][\w:.]*/y;
const NUMBER = /[-+]?(?:inf\b|nan\b|(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)/y;
const isNumberSign = (code: number) =>
  (code >= 48 && code <= 57) || code === 43 || code === 45 || code === 46 || code === 69 || code === 101;

export class UsdScanner {
  private at = 0;
  /** Lines counted so far, up to where. */
  private counted = { at: 0, line: 1 };

  constructor(
    private readonly text: string,
    private readonly file: string,
  ) {}

  /** `file:line` of the next sign. */
  get where(): string {
    this.skip();
    let { at, line } = this.counted;
    for (let i = this.text.indexOf('\n', at); i >= 0 && i < this.at; i = this.text.indexOf('\n', at)) {
      line += 1;
      at = i + 1;
    }
    this.counted = { at, line };
    return `${this.file}:${line}`;
  }

  get atEnd(): boolean {
    this.skip();
    return this.at >= this.text.length;
  }

  fail(expected: string): never {
    const where = this.where;
    const found = this.atEnd ? 'the end of the file' : `"${this.text.slice(this.at, this.at + 30).split('\n')[0]}"`;
    throw new RangeError(`${where}: expected ${expected}, found ${found}`);
  }

  /** The next sign, unread. */
  peek(): string {
    this.skip();
    return this.text[this.at] ?? '';
  }

  /** Takes the sign if it is the next one. */
  take(sign: string): boolean {
    this.skip();
    if (!this.text.startsWith(sign, this.at)) return false;
    this.at += sign.length;
    return true;
  }

  need(sign: string): void {
    if (!this.take(sign)) this.fail(`"${sign}"`);
  }

  /** An identifier, with its namespaces and suffixes: `xformOp:translate.timeSamples`. Null when there is none. */
  word(): string | null {
    this.skip();
    WORD.lastIndex = this.at;
    const found = WORD.exec(this.text);
    if (!found) return null;
    this.at = WORD.lastIndex;
    return found[0];
  }

  /** Puts back what was read last. */
  back(word: string): void {
    this.at -= word.length;
  }

  number(): number | null {
    this.skip();
    NUMBER.lastIndex = this.at;
    const found = NUMBER.exec(this.text);
    if (!found) return null;
    this.at = NUMBER.lastIndex;
    return toNumber(found[0]);
  }

  /** A quoted string of any of the four kinds. */
  string(): string {
    this.skip();
    const { text } = this;
    const quote = text[this.at];
    if (quote !== '"' && quote !== "'") this.fail('a string in quotes');
    const mark = text.startsWith(quote.repeat(3), this.at) ? quote.repeat(3) : quote;
    let out = '';
    let i = this.at + mark.length;
    for (;;) {
      if (i >= text.length || (mark.length === 1 && text[i] === '\n')) this.fail('a closing quote');
      if (text.startsWith(mark, i)) break;
      if (text[i] === '\\') {
        out += ESCAPES[text[i + 1]] ?? text[i + 1] ?? '';
        i += 2;
      } else out += text[i++];
    }
    this.at = i + mark.length;
    return out;
  }

  /** `@path@` or `@@@path@@@`, without its marks. */
  asset(): string {
    const mark = this.take('@@@') ? '@@@' : (this.need('@'), '@');
    const end = this.text.indexOf(mark, this.at);
    if (end < 0) this.fail(`a closing ${mark}`);
    const path = this.text.slice(this.at, end);
    this.at = end + mark.length;
    return path;
  }

  /** `</a/b>` without its brackets. */
  path(): string {
    this.need('<');
    const end = this.text.indexOf('>', this.at);
    if (end < 0) this.fail('a closing >');
    const path = this.text.slice(this.at, end).trim();
    this.at = end + 1;
    return path;
  }

  /** Numbers to the bracket that closes the array, whose opening bracket was read; tuples flat. */
  numbers(): UsdNumbers {
    const values: number[] = [];
    const { text } = this;
    let depth = 0;
    let width = 0;
    for (;;) {
      this.skip();
      const sign = text[this.at];
      if (sign === ']' && depth === 0) break;
      if (sign === '(') depth += 1;
      else if (sign === ')') {
        depth -= 1;
        if (depth === 0 && width === 0) width = values.length;
      } else if (sign !== ',') {
        values.push(this.quickNumber());
        continue;
      }
      if (depth < 0 || depth > 2) this.fail('a number or "]"');
      this.at += 1;
    }
    this.at += 1;
    width ||= 1;
    if (values.length % width) this.fail(`tuples of ${width} numbers each before this`);
    return { kind: 'numbers', width, values: Float64Array.from(values) };
  }

  private quickNumber(): number {
    const { text } = this;
    let end = this.at;
    while (isNumberSign(text.charCodeAt(end))) end += 1;
    const value = end > this.at ? Number(text.slice(this.at, end)) : NaN;
    if (!Number.isNaN(value)) {
      this.at = end;
      return value;
    }
    return this.number() ?? this.fail('a number');
  }

  private skip(): void {
    const { text } = this;
    for (;;) {
      while (this.at < text.length && SPACE.test(text[this.at])) this.at += 1;
      if (text[this.at] === '#') this.at = lineEnd(text, this.at);
      else if (text.startsWith('//', this.at)) this.at = lineEnd(text, this.at);
      else return;
    }
  }
}

const ESCAPES: Record<string, string> = { n: '\n', t: '\t', r: '\r' };

function lineEnd(text: string, from: number): number {
  const end = text.indexOf('\n', from);
  return end < 0 ? text.length : end;
}

function toNumber(text: string): number {
  if (text.endsWith('inf')) return text.startsWith('-') ? -Infinity : Infinity;
  return text.endsWith('nan') ? NaN : Number(text);
}
