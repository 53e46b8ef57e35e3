/** What a render will take, told before it starts. */
import type { Sheet, ShotDocument } from '../../document/schema.ts';
import { filmBytes } from './film.ts';
import { filmLayout } from './film-layout.ts';

/** Bytes of all films of a frame: what a whole picture costs, its tiles kept apart or not. */
export const frameBytes = (document: ShotDocument, sheet: Sheet): number =>
  sheet.width * sheet.height * filmBytes(filmLayout(document, sheet));

/** "3.2 GB", for sentences. */
export function tellBytes(bytes: number): string {
  const units = ['bytes', 'kB', 'MB', 'GB', 'TB'];
  let at = 0;
  while (bytes >= 1000 && at < units.length - 1) {
    bytes /= 1000;
    at++;
  }
  return `${at === 0 ? bytes : bytes.toPrecision(3)} ${units[at]}`;
}
