/**
 * Regular expressions that people write, in linear time. JavaScript's own engine backtracks: `(a+)+$` on thirty letters
 * keeps it busy for minutes. RE2 (Cox, "Regular Expression Matching Can Be Simple And Fast", 2007) never does, and has
 * no look-around and no back-references for it. It takes 20 to 30 times as long a line, so the patterns that ship,
 * which are known not to backtrack far, go through the engine's own.
 *
 * @example
 * const pattern = compilePattern('^(?<time>[\\d.]+)s (?<message>.*)$');
 * pattern.groups('1.5s tile 4')?.message; // 'tile 4'
 */
import { RE2JS } from 're2js';

export interface Pattern {
  test(text: string): boolean;
  /** Named groups of the first match; null without one. */
  groups(text: string): Record<string, string | undefined> | null;
}

const shipped = new Set<string>();

/** Marks patterns as ours. @returns them */
export function ours<T extends string[]>(patterns: T): T {
  for (const pattern of patterns) shipped.add(pattern);
  return patterns;
}

/** @throws Error with what is wrong with it, in the engine's words */
export function compilePattern(pattern: string, { ignoreCase = false } = {}): Pattern {
  if (shipped.has(pattern)) {
    const native = new RegExp(pattern, ignoreCase ? 'i' : '');
    return { test: (text) => native.test(text), groups: (text) => native.exec(text)?.groups ?? null };
  }
  const linear = RE2JS.compile(RE2JS.translateRegExp(pattern), ignoreCase ? RE2JS.CASE_INSENSITIVE : 0);
  const names = Object.keys(linear.namedGroups());
  return {
    test: (text) => linear.matcher(text).find(),
    groups(text) {
      const matcher = linear.matcher(text);
      if (!matcher.find()) return null;
      return Object.fromEntries(names.map((name) => [name, matcher.group(name) ?? undefined]));
    },
  };
}
