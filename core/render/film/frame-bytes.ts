/** What a render will take, told before it starts. */
import type { Sheet, ShotDocument } from '../../document/schema.ts';
import { filmBytes } from './film.ts';
import { filmLayout } from './film-layout.ts';

/** Bytes of all films of a frame: what a whole picture costs, its tiles kept apart or not. */
export const frameBytes = (document: ShotDocument, sheet: Sheet): number =>
  sheet.width * sheet.height * filmBytes(filmLayout(document, sheet));
