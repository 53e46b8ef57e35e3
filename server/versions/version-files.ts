/** The files of a version. */
import { eq } from 'drizzle-orm';
import type { Context } from '../context.ts';
import { versions } from '../db/schema.ts';
import { notFound } from '../errors.ts';

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
