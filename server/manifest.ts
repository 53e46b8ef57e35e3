/** Files of a version, read by their paths. */
import type { ReadFile } from '../core/render/compile/load-assets.ts';
import { DamagedBlob, type BlobStore } from './blobs.ts';

/** @param manifest its text: JSON of hashes by path */
export function readerOfManifest(blobs: BlobStore, manifest: string): ReadFile {
  const hashes = JSON.parse(manifest) as Record<string, string>;
  return async (path) => {
    if (!Object.hasOwn(hashes, path)) return null;
    return blobs.get(hashes[path]).catch((error: unknown) => Promise.reject(named(error, path)));
  };
}

/** Of which file stored bytes were, so that people know what to bring in again. */
const named = (error: unknown, path: string): unknown =>
  error instanceof DamagedBlob ? new DamagedBlob(error.hash, error.isGone, path) : error;
