/**
 * Items of the scene that a change does the same thing to, so that it can be made for all of them or for a chosen few:
 * `/objects/jar-4/seeThroughShadows` and `/objects/jar-5/seeThroughShadows`, both true.
 *
 * @example
 * alikeItems(remedy.values); // ['/objects/jar-4', '/objects/jar-5']
 * forItems(remedy.values, ['/objects/jar-5']); // what remains for one of them
 */
import { canonicalText } from './canonical.ts';
import { isOfDocument } from './pointers.ts';
import type { ControlValues } from './set-values.ts';

/** "/objects/jar-4" of a pointer inside it; null for whole items and for what stands in a sheet. */
const itemOf = (pointer: string): string | null =>
  isOfDocument(pointer) ? (/^(\/[^/]+\/[^/]+)\/./.exec(pointer)?.[1] ?? null) : null;

/** Pointers of the items that get the same values, where there are two or more; the most of them, in their order. */
export function alikeItems(values: ControlValues): string[] {
  const own = new Map<string, ControlValues>();
  for (const [pointer, value] of Object.entries(values)) {
    const item = itemOf(pointer);
    if (item) own.set(item, { ...own.get(item), [pointer.slice(item.length)]: value });
  }
  const alike = new Map<string, string[]>();
  for (const [item, its] of own) {
    const key = `${item.split('/')[1]} ${canonicalText(its)}`;
    alike.set(key, [...(alike.get(key) ?? []), item]);
  }
  const [most = []] = [...alike.values()].sort((a, b) => b.length - a.length);
  return most.length > 1 ? most : [];
}

/** The values without those of alike items that were not chosen. */
export function forItems(values: ControlValues, chosen: string[]): ControlValues {
  const left = new Set(alikeItems(values).filter((item) => !chosen.includes(item)));
  return Object.fromEntries(Object.entries(values).filter(([pointer]) => !left.has(itemOf(pointer) ?? '')));
}
