/** Options as people type them, each refused with a sentence that names it. */
import { parseArgs, type ParseArgsConfig } from 'node:util';
import { BadUse } from './bad-use.ts';

export function parseOptions<T extends NonNullable<ParseArgsConfig['options']>>(
  args: string[],
  options: T,
  usage: string,
) {
  try {
    return parseArgs({ args, options, allowPositionals: true, strict: true });
  } catch (error) {
    throw new BadUse(`${(error as Error).message.split('\n')[0]}\n${usage}`, { cause: error });
  }
}

/** A whole number in a range, or undefined when the option was not given. */
export function wholeOption(name: string, text: string | undefined, least: number, most: number): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text);
  if (text.trim() === '' || !Number.isInteger(value) || value < least || value > most)
    throw new BadUse(`--${name} is "${text}"; it must be a whole number from ${least} to ${most}.`);
  return value;
}

/** A number in a range. */
export function numberOption(name: string, text: string, least: number, most: number): number {
  const value = Number(text);
  if (text.trim() === '' || !(value >= least && value <= most))
    throw new BadUse(`--${name} is "${text}"; it must be a number from ${least} to ${most}.`);
  return value;
}

/** Whole numbers parted by `by`, as many as `count`. */
export function numbersOption(name: string, text: string | undefined, by: string, count: number, shape: string) {
  if (text === undefined) return undefined;
  const values = text.split(by).map((part) => (part.trim() === '' ? NaN : Number(part)));
  if (values.length !== count || !values.every((v) => Number.isInteger(v) && v >= 0))
    throw new BadUse(`--${name} is "${text}"; it must look like ${shape}.`);
  return values;
}
