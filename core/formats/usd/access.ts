/** What a prim says, as the types that code wants; at its default, or at its first time. */
import type { UsdNumbers, UsdPrim, UsdTarget, UsdValue } from './layer.ts';

export function valueOf(prim: UsdPrim, name: string): UsdValue | undefined {
  const attribute = prim.attributes.get(name);
  return attribute?.value ?? attribute?.samples?.[0]?.value;
}

/** Whether it changes with time. */
export const isAnimated = (prim: UsdPrim, name: string): boolean =>
  (prim.attributes.get(name)?.samples?.length ?? 0) > 1;

export const isNumbers = (value: UsdValue | undefined): value is UsdNumbers =>
  !!value && typeof value === 'object' && 'kind' in value && value.kind === 'numbers';

const isTarget = (value: UsdValue | undefined): value is UsdTarget =>
  !!value && typeof value === 'object' && 'kind' in value && value.kind === 'target';

export function numberOf(prim: UsdPrim, name: string): number | null {
  const value = valueOf(prim, name);
  return typeof value === 'number' && Number.isFinite(value) ? value : null;
}

/** The numbers of a tuple or an array, flat; an empty list has none. */
export function numbersOf(prim: UsdPrim, name: string): Float64Array | null {
  const value = valueOf(prim, name);
  if (isNumbers(value)) return value.values;
  return Array.isArray(value) && value.length === 0 ? new Float64Array(0) : null;
}

export function tripleOf(prim: UsdPrim, name: string): [number, number, number] | null {
  const values = numbersOf(prim, name);
  return values && values.length >= 3 && values.slice(0, 3).every(Number.isFinite)
    ? [values[0], values[1], values[2]]
    : null;
}

export function textOf(prim: UsdPrim, name: string): string | null {
  const value = valueOf(prim, name);
  return typeof value === 'string' ? value : null;
}

/** USD writes true and false as 1 and 0. */
export function flagOf(prim: UsdPrim, name: string): boolean | null {
  const value = valueOf(prim, name);
  return typeof value === 'boolean' ? value : typeof value === 'number' ? value !== 0 : null;
}

/** A file that an attribute names, and the file that says so. */
export function assetOf(prim: UsdPrim, name: string): { path: string; file: string } | null {
  const value = valueOf(prim, name);
  return isTarget(value) && value.asset ? { path: value.asset, file: value.file } : null;
}

export function wordsOf(prim: UsdPrim, name: string): string[] {
  const value = valueOf(prim, name);
  return Array.isArray(value) ? value.filter((item): item is string => typeof item === 'string') : [];
}
