/** The files of a version. */
import { eq } from 'drizzle-orm';
import type { ReadFile } from '../../core/render/load-assets.ts';
import { DamagedBlob, type BlobStore } from '../blobs.ts';
import type { Context } from '../context.ts';
import { versions } from '../db/schema.ts';
import { notFound } from '../errors.ts';

/** JSON of hashes by path. */
export async function manifestOf({ db }: Context, versionId: number): Promise<string> {
  const [version] = await db.select({ manifest: versions.manifest }).from(versions).where(eq(versions.id, versionId));
  if (!version) throw notFound(`version ${versionId}`);
  return version.manifest;
}

/** Reads a version's files by their paths. @param manifest its text */
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

/** Where a file of some version stands, by its hash. */
export async function filePlace({ blobs }: Context, hash: string): Promise<string> {
  if (!/^[0-9a-f]{64}$/.test(hash)) throw notFound(`file ${hash.slice(0, 64)}`);
  return blobs.sound(hash);
}
