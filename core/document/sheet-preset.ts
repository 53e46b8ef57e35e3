/**
 * A sheet as a file by itself, to be taken to another shot: JSON with the values of its dials by their pointers, so that a
 * preset may hold all of them or a few.
 *
 * @example
 * const text = presetText('night final', sheet);
 * presetValues(text, document, 'final'); // { name: 'night final', values: { '/samples': 128, … } }
 */
import { DIALS, dialValue, isSameValue } from './dials.ts';
import { InvalidInput, type Problem } from './problem.ts';
import type { Sheet, SheetName, ShotDocument } from './schema.ts';
import { withValues, type ControlValues } from './set-values.ts';

export const PRESET_SCHEMA = 'dusting.sheet/1';

/** @param name what it is called */
export function presetText(name: string, sheet: Sheet): string {
  const dials = Object.fromEntries(DIALS.map(({ pointer }) => [pointer, dialValue(sheet, pointer)]));
  return `${JSON.stringify({ schema: PRESET_SCHEMA, name, dials }, null, 2)}\n`;
}

/**
 * Values that a preset sets in a sheet of a document, where they stand otherwise.
 * @throws InvalidInput naming what it is not, a dial that there is none of, or a value that a dial cannot take
 */
export function presetValues(
  text: string,
  document: ShotDocument,
  into: SheetName,
): { name: string; values: ControlValues } {
  const { name, dials } = parsed(text);
  const unknown = Object.keys(dials).filter((pointer) => !DIALS.some((dial) => dial.pointer === pointer));
  if (unknown.length > 0)
    throw new InvalidInput('preset', unknown.map((path): Problem => ({ path, value: 'given', expected: 'a dial of a sheet' }))); // prettier-ignore
  const sheet = document.sheets[into];
  const values = Object.fromEntries(Object.entries(dials).filter(([pointer, value]) => !isSameValue(dialValue(sheet, pointer), value))); // prettier-ignore
  withValues(document, [into], values);
  return { name, values };
}

function parsed(text: string): { name: string; dials: ControlValues } {
  const refuse = (path: string, value: string, expected: string) => new InvalidInput('preset', [{ path, value, expected }]); // prettier-ignore
  let preset: { schema?: unknown; name?: unknown; dials?: unknown } | null;
  try {
    preset = JSON.parse(text) as typeof preset;
  } catch (error) {
    throw refuse('', (error as Error).message, 'JSON');
  }
  if (preset?.schema !== PRESET_SCHEMA) throw refuse('/schema', JSON.stringify(preset?.schema) ?? 'missing', PRESET_SCHEMA); // prettier-ignore
  const { name, dials } = preset;
  if (typeof dials !== 'object' || dials === null || Array.isArray(dials))
    throw refuse('/dials', JSON.stringify(dials) ?? 'missing', 'values by the pointers of dials');
  return { name: typeof name === 'string' ? name.slice(0, 200) : '', dials: dials as ControlValues };
}
