/** What a show keeps as JSON beside its shots: what it expects, renderers, formats of logs. One line a kind. */
import type { ProfileKind } from '../contracts/intake.ts';
import { parseLogFormat } from './log/format.ts';
import { LOG_FORMATS } from './log/formats.ts';
import { defaultProfile, parseProfile } from './preflight/profile.ts';
import { TARGETS } from './target/registry.ts';
import { parseTarget } from './target/target.ts';

export interface ProfileSort {
  /** Those that ship. */
  ships: { name: string }[];
  /** @throws InvalidInput naming the place */
  parse(text: string, what: string): { name: string };
}

export const PROFILE_SORTS: Record<ProfileKind, ProfileSort> = {
  show: { ships: [defaultProfile()], parse: parseProfile },
  target: { ships: TARGETS, parse: parseTarget },
  'log-format': { ships: LOG_FORMATS, parse: parseLogFormat },
};

/** Places at which two profiles differ: JSON pointers, and what each says there. */
export function compareProfiles(a: unknown, b: unknown): { path: string; a: unknown; b: unknown }[] {
  const found: { path: string; a: unknown; b: unknown }[] = [];
  const walk = (x: unknown, y: unknown, path: string) => {
    if (x && y && typeof x === 'object' && typeof y === 'object' && Array.isArray(x) === Array.isArray(y)) {
      const [p, q] = [x as Record<string, unknown>, y as Record<string, unknown>];
      for (const key of new Set([...Object.keys(p), ...Object.keys(q)])) walk(p[key], q[key], `${path}/${key}`);
    } else if (x !== y) found.push({ path, a: x, b: y });
  };
  walk(a, b, '');
  return found;
}
