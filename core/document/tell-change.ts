/**
 * What a patch changes, in the words of the controls it sets: for the history of a shot and for the names of trials.
 *
 * @example
 * tellChange(before, after, patch);   // ['sun, Elevation: 12° → 30°', 'Samples: 32 → 128 (preview)']
 */
import { changesOf, show } from './changed-controls.ts';
import { itemsOf } from './controls.ts';
import { DIALS } from './dials.ts';
import type { JsonPatch } from './patch.ts';
import { valueAt } from './patch.ts';
import { REMOVABLE } from './remove-items.ts';
import type { SheetName, ShotDocument } from './schema.ts';

const nameOf = (item: { name?: string }, id: string): string => item.name || id;

/**
 * One line for each control that stands otherwise, and each item that came or went.
 * @param options.withSheets names the sheets of dials; false where there is one that everybody knows
 */
export function tellChange(
  before: ShotDocument,
  after: ShotDocument,
  patch: JsonPatch,
  { withSheets = true } = {},
): string[] {
  const told = new Set<string>();
  const dials = new Map<string, SheetName[]>();
  const items = new Set<string>();
  for (const { op, path } of patch) {
    if (op === 'test') continue;
    const [, part, id, ...rest] = path.split('/');
    if (part === 'sheets') {
      const pointer = `/${rest.join('/')}`;
      const label = DIALS.find((dial) => dial.pointer === pointer)?.label ?? rest.join(' ');
      const line = `${label}: ${show(valueAt(before, path))} → ${show(valueAt(after, path))}`;
      dials.set(line, [...(dials.get(line) ?? []), id as SheetName]);
    } else if (part === 'meshes' && op === 'add') {
      // The object that has it tells of it.
      continue;
    } else if (part in REMOVABLE && rest.length === 0) {
      const word = REMOVABLE[part as keyof typeof REMOVABLE];
      if (op === 'add') told.add(`${nameOf(valueAt(after, path) as object, id)}: new ${word}`);
      else if (op === 'remove') told.add(`${nameOf(valueAt(before, path) as object, id)}: ${word} deleted`);
      else items.add(path);
    } else items.add(part in REMOVABLE ? `/${part}/${id}` : `/${part}`);
  }
  const [old, known] = [before, after].map(
    (document) => new Map(itemsOf(document).map((item) => [item.pointer, item])),
  );
  for (const pointer of items) {
    const place = pointer === '/camera' ? '/frame' : pointer;
    const [was, item] = [old.get(place), known.get(place)];
    const lines = was && item ? changesOf(before, after, item) : was ? [`${was.name}: gone`] : item ? [`${item.name}: new`] : []; // prettier-ignore
    for (const line of lines.length ? lines : [`${pointer.slice(1).replaceAll('/', ' ')}: changed`]) told.add(line);
  }
  for (const [line, sheets] of dials) told.add(withSheets ? `${line} (${sheets.join(' and ')})` : line);
  return [...told];
}

/** The lines as one, the first of them where they are many. */
export function tellInOne(lines: string[], most = 4): string {
  const rest = lines.length - most;
  return rest > 0 ? `${lines.slice(0, most).join('; ')}; and ${rest} more` : lines.join('; ');
}
