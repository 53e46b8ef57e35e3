/**
 * Controls set to values: what a remedy asks for, what a person sets by hand, what a trial tries.
 *
 * @example
 * valuesPatch(document, ['preview'], { '/samples': 64, '/objects/chimney/seeThroughShadows': true });
 */
import { applyPatch, replaceValues, valueAt, type JsonPatch } from './patch.ts';
import { placesOf } from './pointers.ts';
import { InvalidInput } from './problem.ts';
import type { SheetName, ShotDocument } from './schema.ts';
import { validateDocument } from './validate.ts';

/** Values by the pointers of controls, see `pointers.ts`; a whole item where none stands yet adds it (`/lights/fill`). */
export type ControlValues = Record<string, unknown>;

/** Parts of a document whose items a value may add. */
const GROWS = /^\/(cameras|lights|objects|groups|meshes|materials|maps|textures|coats)\/[A-Za-z0-9_.-]+$/;

/**
 * The patch that sets values, those of a sheet in each of some sheets.
 * @throws InvalidInput where a pointer leads nowhere
 */
export function valuesPatch(document: ShotDocument, sheets: SheetName[], values: ControlValues): JsonPatch {
  const patch: JsonPatch = [];
  const present: ControlValues = {};
  for (const [pointer, value] of Object.entries(values))
    for (const place of placesOf(pointer, sheets))
      if (GROWS.test(place) && !stands(document, place)) patch.push({ op: 'add', path: place, value });
      else present[place] = value;
  return [...replaceValues(document, present), ...patch];
}

function stands(document: ShotDocument, place: string): boolean {
  try {
    valueAt(document, place);
    return true;
  } catch (error) {
    if (error instanceof InvalidInput) return false;
    throw error;
  }
}

/** The document with values set, checked as a whole. */
export const withValues = (document: ShotDocument, sheets: SheetName[], values: ControlValues): ShotDocument =>
  validateDocument(applyPatch(document, valuesPatch(document, sheets, values)), document.code);
