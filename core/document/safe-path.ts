/**
 * Paths of a shot's files: below the shot's folder wherever it stands, on any system. The one rule for uploads, archives,
 * documents, packages and repairs.
 */

/** Name of the JSON Schema format. */
export const SAFE_PATH = 'path-in-shot';

const LONGEST = 500;
/** Bytes of a name that Linux, macOS and Windows all take. */
const LONGEST_NAME = 255;
/** Controls, the line breaks of Unicode, what turns text around, and what Windows or a URL read as something else. */
// eslint-disable-next-line no-control-regex -- controls are what is looked for
const STRANGE = /[\u0000-\u001f\u007f-\u009f\u2028\u2029\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff\\:]/;
/** Devices, whatever their ending (Microsoft, "Naming Files, Paths, and Namespaces"). */
const DEVICE = /^(con|prn|aux|nul|com[0-9]|lpt[0-9])(\.|$)/i;

/**
 * Why a path is not taken, or null where it is: relative, with forward slashes, each part of it an ordinary name.
 * @returns a phrase that goes on after "… is not taken: "
 */
export function faultOfPath(path: string): string | null {
  if (path === '') return 'it is empty';
  if (path.length > LONGEST) return `it has more than ${LONGEST} characters`;
  if (STRANGE.test(path)) return 'it holds a control character, a backslash or a colon';
  if (isReservedName(path)) return 'it is a reserved name';
  for (const name of path.split('/')) {
    if (name === '') return path.startsWith('/') ? 'it does not begin in the folder' : 'it has an empty part';
    if (name === '.' || name === '..') return 'it leaves its folder or stays in it by dots';
    if (DEVICE.test(name)) return `"${name}" is the name of a device`;
    if (/[. ]$/.test(name)) return `"${name}" ends in a dot or a space`;
    if (new TextEncoder().encode(name).length > LONGEST_NAME) return `a part of it has more than ${LONGEST_NAME} bytes`;
  }
  return null;
}

/** Whether every JavaScript object answers to the name, whatever is in it. */
export const isReservedName = (name: string): boolean => Object.hasOwn(Object.prototype, name);

export const isSafePath = (path: string): boolean => faultOfPath(path) === null;
