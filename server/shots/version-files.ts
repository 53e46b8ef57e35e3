/** The files of a version as a page reads them, to render with them itself. */
import { eq } from 'drizzle-orm';
import type { Context } from '../context.ts';
import { versions } from '../db/schema.ts';
import { notFound } from '../errors.ts';

/** Hashes by path. */
export async function manifestOf({ db }: Context, versionId: number): Promise<Record<string, string>> {
  const [version] = await db.select({ manifest: versions.manifest }).from(versions).where(eq(versions.id, versionId));
  if (!version) throw notFound(`version ${versionId}`);
  return JSON.parse(version.manifest) as Record<string, string>;
}

export async function fileBytes({ blobs }: Context, hash: string): Promise<Buffer> {
  const unknown = notFound(`file ${hash.slice(0, 64)}`);
  if (!/^[0-9a-f]{64}$/.test(hash)) throw unknown;
  return Buffer.from(await blobs.get(hash).catch(() => Promise.reject(unknown)));
}
