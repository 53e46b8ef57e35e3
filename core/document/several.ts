/** Several items of a document set at once: the controls that all of them have. */
import { controlsOf, type Control, type Item } from './controls.ts';
import type { ShotDocument } from './schema.ts';

export interface SharedControl {
  /** That of the first item; its value is the first item's. */
  control: Control;
  /** One for each item, in order, the first included. */
  each: Control[];
}

/**
 * Controls that all items have under the same key, of the same kind and unit and with the same choices, in the order of the first. Names are each
 * item's own, and where things stand is moved, not set (`data/together.ts`): neither is among them, but for the place of suns.
 *
 * @example
 * const [samples] = sharedControls(document, lights).filter(({ control }) => control.label === 'Samples');
 * for (const { pointer } of samples.each) values[pointer] = 4;
 */
export function sharedControls(document: ShotDocument, items: readonly Item[]): SharedControl[] {
  const tables = items.map((item) => new Map(controlsOf(document, item).map((one) => [one.key.slice(item.pointer.length), one]))); // prettier-ignore
  const [first, ...others] = tables;
  if (!first) return [];
  return [...first].flatMap(([key, control]) => {
    if (key === '/name' || ['position', 'rotation', 'scale'].includes(control.part ?? '')) return [];
    const each = [control, ...others.flatMap((table) => table.get(key) ?? [])];
    const isShared = each.length === items.length && each.every((one) => isAlike(one, control));
    return isShared ? [{ control, each }] : [];
  });
}

const isAlike = (a: Control, b: Control): boolean =>
  a.kind === b.kind && a.optional === b.optional && a.unit === b.unit && String(a.choices) === String(b.choices);

/** What several stand at where they differ: the range of numbers, or how many ways there are. Null where they are alike. */
export function spreadOf(values: readonly unknown[]): string | null {
  const told = new Set(values.map((value) => JSON.stringify(value)));
  if (told.size < 2) return null;
  if (!values.every((value) => typeof value === 'number')) return `${told.size} different ones`;
  const short = (n: number) => String(Number(n.toPrecision(4)));
  return `${short(Math.min(...(values as number[])))} to ${short(Math.max(...(values as number[])))}`;
}
