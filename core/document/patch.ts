/**
 * Changes to a document are JSON Patches that begin by testing what they replace,
 * so that a patch made for another document fails instead of landing. Source: RFC 6902.
 *
 * @example
 * const patch = replaceValues(document, { '/sheets/preview/limits/transmission': 20 });
 * const after = applyPatch(document, patch);
 * const before = applyPatch(after, invertPatch(document, patch)); // same canonical text as `document`
 */
import jsonPatch, { type Operation } from 'fast-json-patch';
import { InvalidInput, showValue } from './problem.ts';

export type JsonPatch = Operation[];

/** A patch that sets the values at the given pointers, testing the present ones first. */
export function replaceValues(document: object, values: Record<string, unknown>): JsonPatch {
  const patch: JsonPatch = [];
  for (const [path, value] of Object.entries(values)) {
    const present = valueAt(document, path);
    if (JSON.stringify(present) === JSON.stringify(value)) continue;
    patch.push({ op: 'test', path, value: present }, { op: 'replace', path, value });
  }
  return patch;
}

export function valueAt(document: object, path: string): unknown {
  const value = safeValue(document, path);
  if (value === undefined)
    throw new InvalidInput('patch', [{ path, value: 'missing', expected: 'a place that exists' }]);
  return value;
}

/** The patched copy; `document` stays as it is. Throws InvalidInput naming the operation that did not fit. */
export function applyPatch<T extends object>(document: T, patch: JsonPatch): T {
  refuseOverwriting(document, patch);
  try {
    return jsonPatch.applyPatch(jsonPatch.deepClone(document) as T, patch, true, false, true).newDocument;
  } catch (error) {
    const failed = error as { operation?: Operation; message: string };
    const operation = failed.operation;
    const found = operation ? showValue(safeValue(document, operation.path)) : 'unknown';
    throw new InvalidInput('patch', [
      {
        path: operation?.path ?? '',
        value: found,
        expected:
          operation?.op === 'test'
            ? `${showValue((operation as { value: unknown }).value)}, which the patch was made for`
            : `a place where "${operation?.op ?? 'the patch'}" can be done (${failed.message.split('\n')[0]})`,
      },
    ]);
  }
}

/** RFC 6902 lets `add` overwrite a member that is there; what a patch adds was not there when it was made. */
function refuseOverwriting(document: object, patch: JsonPatch): void {
  const removed = new Set(patch.filter(({ op }) => op === 'remove' || op === 'move').map((one) => 'from' in one ? one.from : one.path)); // prettier-ignore
  for (const { op, path } of patch) {
    if (op !== 'add' || removed.has(path)) continue;
    const parent = safeValue(document, path.slice(0, path.lastIndexOf('/')));
    if (Array.isArray(parent)) continue;
    const present = safeValue(document, path);
    if (present === undefined) continue;
    throw new InvalidInput('patch', [{ path, value: showValue(present), expected: 'nothing there, to which something is added' }]); // prettier-ignore
  }
}

/** The patch that takes `applyPatch(document, patch)` back to `document`. */
export function invertPatch(document: object, patch: JsonPatch): JsonPatch {
  const after = applyPatch(document, patch);
  return jsonPatch.compare(after, document, true);
}

/** The patch that makes one document another, testing what it replaces. */
export const patchBetween = (before: object, after: object): JsonPatch => jsonPatch.compare(before, after, true);

function safeValue(document: object, path: string): unknown {
  try {
    return jsonPatch.getValueByPointer(document, path);
  } catch {
    return undefined;
  }
}
