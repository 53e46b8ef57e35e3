/**
 * What is set otherwise in two documents, as people read it: dials of the sheets that were rendered, and controls of the
 * scene's items; items that only one of them has.
 *
 * @example
 * changedControls(before, 'preview', after, 'preview');   // ['Transmission limit: 8 → 20', 'key light, Intensity: 4 → 6']
 */
import { controlsOf, itemsOf, type Item } from './controls.ts';
import { DIALS, dialValue, isSameValue } from './dials.ts';
import type { SheetName, ShotDocument } from './schema.ts';

const MOST = 60;

export function changedControls(a: ShotDocument, sheetA: SheetName, b: ShotDocument, sheetB: SheetName): string[] {
  const told: string[] = [];
  for (const { pointer, label } of DIALS) {
    const [p, q] = [dialValue(a.sheets[sheetA], pointer), dialValue(b.sheets[sheetB], pointer)];
    if (!isSameValue(p, q)) told.push(`${label}: ${show(p)} → ${show(q)}`);
  }
  const before = new Map(itemsOf(a).map((item) => [item.pointer, item]));
  const after = new Map(itemsOf(b).map((item) => [item.pointer, item]));
  for (const [pointer, item] of before) {
    const other = after.get(pointer);
    if (!other) told.push(`${item.name}: gone`);
    else told.push(...changesOf(a, b, item));
  }
  for (const [pointer, item] of after) if (!before.has(pointer)) told.push(`${item.name}: new`);
  return told.length > MOST ? [...told.slice(0, MOST), `and ${told.length - MOST} more`] : told;
}

/** @param item one that stands in both documents */
export function changesOf(a: ShotDocument, b: ShotDocument, item: Item): string[] {
  const values = new Map(controlsOf(a, item).map((control) => [control.key, control.value]));
  return controlsOf(b, item).flatMap(({ key, label, unit, value }) => {
    const was = values.get(key);
    return JSON.stringify(was) === JSON.stringify(value)
      ? []
      : [`${item.group === 'Shot' ? '' : `${item.name}, `}${label}: ${show(was, unit)} → ${show(value, unit)}`];
  });
}

/** A value as it is told; numbers to six digits, each with its unit. */
export function show(value: unknown, unit = ''): string {
  if (value === null || value === undefined) return 'none';
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (typeof value === 'number')
    return `${Number(value.toPrecision(6))}${unit === '°' || unit === '' ? unit : ` ${unit}`}`;
  if (Array.isArray(value) && value.every((one) => typeof one === 'number'))
    return `${value.map((one) => Number(one.toPrecision(6))).join(', ')}${unit === '°' ? unit : unit && ` ${unit}`}`;
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  return text.length > 60 ? `${text.slice(0, 60)} …` : text;
}
