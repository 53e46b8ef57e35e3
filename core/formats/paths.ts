/**
 * Paths as scene files write them, on POSIX and on Windows, led to where they point.
 *
 * @example
 * leadPath('scenes/yard.usda', '..\\textures\\straw.png'); // { path: 'textures/straw.png', kind: 'inside', backslashes: true }
 */
export interface LedPath {
  /** Normalised, forward slashes: below the root of the scene, or beginning with `../`, `/` or a drive. */
  path: string;
  kind: 'inside' | 'outside' | 'absolute';
  backslashes: boolean;
  /** Variables it holds, as `$SHOW`, that nobody resolved. */
  variables: string[];
}

const VARIABLE = /\$\{(\w+)\}|\$(\w+)|%(\w+)%/g;

/**
 * @param from file that holds the path, below the root
 * @param written the path as it stands there
 * @param variables values of variables, by name
 */
export function leadPath(from: string, written: string, variables: Record<string, string> = {}): LedPath {
  const missing: string[] = [];
  let path = written.trim().replace(VARIABLE, (text, a?: string, b?: string, c?: string) => {
    const name = a ?? b ?? c!;
    if (Object.hasOwn(variables, name)) return variables[name];
    missing.push(`$${name}`);
    return text;
  });
  const backslashes = path.includes('\\');
  path = path.replaceAll('\\', '/');
  if (/^file:/i.test(path)) path = path.replace(/^file:\/\/(localhost)?/i, '').replace(/^\/([A-Za-z]:)/, '$1');
  const isAbsolute = path.startsWith('/') || /^[A-Za-z]:/.test(path);
  const folder = from.includes('/') ? from.slice(0, from.lastIndexOf('/') + 1) : '';
  const led = normalise(isAbsolute ? path : folder + path);
  const kind = isAbsolute ? 'absolute' : led === '..' || led.startsWith('../') ? 'outside' : 'inside';
  return { path: led, kind, backslashes, variables: missing };
}

/** Without `.`, doubled slashes and every `..` that can be taken away. */
export function normalise(path: string): string {
  const share = path.startsWith('//') ? '//' : path.startsWith('/') ? '/' : '';
  const parts: string[] = [];
  for (const part of path.split('/')) {
    if (part === '' || part === '.') continue;
    if (part === '..' && parts.length && parts.at(-1) !== '..') parts.pop();
    else if (part === '..' && share) continue;
    else parts.push(part);
  }
  return share + parts.join('/');
}

export const fileName = (path: string): string => path.slice(path.lastIndexOf('/') + 1);
export const extensionOf = (path: string): string => /\.([^./\\]+)$/.exec(path)?.[1].toLowerCase() ?? '';
