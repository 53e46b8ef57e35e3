/** Places at which two profiles differ: JSON pointers, and what each says there; undefined where it says nothing. */
export interface ProfileDifference {
  path: string;
  a: unknown;
  b: unknown;
}

/** @example compareProfiles({ width: 960 }, { width: 1920 }); // [{ path: '/width', a: 960, b: 1920 }] */
export function compareProfiles(a: unknown, b: unknown, path = ''): ProfileDifference[] {
  if (!isBranch(a) || !isBranch(b) || Array.isArray(a) !== Array.isArray(b)) return a === b ? [] : [{ path, a, b }];
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...keys].flatMap((key) => compareProfiles(a[key], b[key], `${path}/${key}`));
}

const isBranch = (value: unknown): value is Record<string, unknown> => !!value && typeof value === 'object';
