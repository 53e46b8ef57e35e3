/** What a show keeps as JSON beside its shots: what it expects, renderers, formats of logs. One line a kind. */
import type { ProfileKind } from '../contracts/intake.ts';
import { parseLogFormat } from './log/format.ts';
import { LOG_FORMATS } from './log/formats.ts';
import { defaultProfile, parseProfile } from './preflight/profile.ts';
import { TARGETS } from './fit/registry.ts';
import { parseTarget } from './fit/target.ts';

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
