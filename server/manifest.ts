/** Files of a version, read by their paths. */
import { canonicalText } from '../core/document/canonical.ts';
import type { ReadFile } from '../core/render/compile/load-assets.ts';
import { DamagedBlob, type BlobStore } from './blobs.ts';

/** A manifest with files beside its own, or in the place of some. */
export const withFiles = (manifest: string, files: Record<string, string>): string =>
  Object.keys(files).length
    ? canonicalText({ ...(JSON.parse(manifest) as Record<string, string>), ...files })
    : manifest;

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

/** "geometry/scene.glb", or "geometry/scene-2.glb" where another file has that path. @param hash null: it is missing */
export function freePath(manifest: Record<string, string>, path: string, hash: string | null): string {
  const dot = path.lastIndexOf('.') > path.lastIndexOf('/') ? path.lastIndexOf('.') : path.length;
  for (let n = 1; ; n++) {
    const one = n === 1 ? path : `${path.slice(0, dot)}-${n}${path.slice(dot)}`;
    if (!Object.hasOwn(manifest, one) || manifest[one] === hash) return one;
  }
}
