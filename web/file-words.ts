/** How states and sizes of files are told. */
import type { IntakeFile } from '../core/contracts/intake.ts';
import { number } from './format.ts';

const WORDS: Record<IntakeFile['state'], string> = {
  ok: 'there',
  missing: 'missing',
  unreadable: 'no image',
  outside: 'outside',
  absolute: 'absolute',
  case: 'case differs',
};
export const fileState = (state: IntakeFile['state']): string => WORDS[state];

export const fileSeverity = (state: IntakeFile['state']): string =>
  state === 'missing' || state === 'unreadable' ? 'stop' : state === 'ok' ? 'clear' : 'caution';

export const fileSize = (bytes: number): string =>
  bytes >= 2 ** 20 ? `${number(bytes / 2 ** 20, 1)} MB` : bytes ? `${number(Math.ceil(bytes / 1024))} KB` : '';
