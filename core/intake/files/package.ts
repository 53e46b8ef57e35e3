/**
 * A shot as a package: its document and every file it needs, equal files once. The shot itself stays as it is.
 */
import { canonicalText } from '../../document/canonical.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { neededFiles, referencedFiles } from '../../render/compile/load-assets.ts';
import { DOCUMENT } from '../from-shot.ts';

export interface ShotPackage {
  /** By path in the package, in order. */
  files: Map<string, Uint8Array>;
  /** Bytes of all files the shot names, and of those in the package. */
  before: number;
  after: number;
  /** Files that another one stands for: path and the path that is kept. */
  same: [string, string][];
}

/**
 * @param read a file of the shot; null when it is not there
 * @param hash text that is the same for equal bytes alone
 * @throws RangeError naming each file that is not there
 */
export async function packShot(
  document: ShotDocument,
  read: (path: string) => Promise<Uint8Array | null>,
  hash: (bytes: Uint8Array) => string,
): Promise<ShotPackage> {
  const missing: string[] = [];
  for (const path of referencedFiles(document)) if (!(await read(path))) missing.push(path);
  if (missing.length) {
    const lack = missing.length === 1 ? 'a file' : `${missing.length} files`;
    throw new RangeError(`the package lacks ${lack}: ${missing.slice(0, 10).join(', ')}`);
  }
  // What other files name is found under the path they name it by; what the document names can be one file for several.
  const own = new Set(referencedFiles(document));
  const kept = new Map<string, string>();
  const files = new Map<string, Uint8Array>();
  const as = new Map<string, string>();
  const same: ShotPackage['same'] = [];
  let before = 0;
  for (const path of await neededFiles(document, read, 'the package')) {
    const bytes = (await read(path))!;
    before += bytes.byteLength;
    const key = hash(bytes);
    const first = own.has(path) ? kept.get(key) : undefined;
    as.set(path, first ?? path);
    if (first !== undefined) same.push([path, first]);
    else {
      kept.set(key, path);
      files.set(path, bytes);
    }
  }
  const packed = structuredCopy(document);
  for (const reference of [...Object.values(packed.textures), ...Object.values(packed.meshes)])
    reference.file = as.get(reference.file)!;
  for (const item of [...Object.values(packed.maps), ...Object.values(packed.coats)])
    if (item.kind === 'shared') item.file = as.get(item.file)!;
  const text = new TextEncoder().encode(canonicalText(packed));
  const after = [...files.values()].reduce((sum, { byteLength }) => sum + byteLength, text.byteLength);
  const unpacked = new TextEncoder().encode(canonicalText(document)).byteLength;
  return { files: new Map([[DOCUMENT, text], ...files]), before: before + unpacked, after, same };
}

const structuredCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
