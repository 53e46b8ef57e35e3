/** The document of a version, and its files. */
import { eq } from 'drizzle-orm';
import type { Context } from '../context.ts';
import { versions } from '../db/schema.ts';
import { notFound } from '../errors.ts';

/** The document of a version, as JSON. */
export async function documentOf({ db }: Context, versionId: number): Promise<string> {
  const [version] = await db.select({ document: versions.document }).from(versions).where(eq(versions.id, versionId));
  if (!version) throw notFound(`version ${versionId}`);
  return version.document;
}

/** JSON of hashes by path. */
export async function manifestOf({ db }: Context, versionId: number): Promise<string> {
  const [version] = await db.select({ manifest: versions.manifest }).from(versions).where(eq(versions.id, versionId));
  if (!version) throw notFound(`version ${versionId}`);
  return version.manifest;
}

/** Where a file of some version stands, by its hash. */
export async function filePlace({ blobs }: Context, hash: string): Promise<string> {
  if (!/^[0-9a-f]{64}$/.test(hash)) throw notFound(`file ${hash.slice(0, 64)}`);
  return blobs.sound(hash);
}
