/** Images that shots have, so that one can be taken into another. */
import { asc, eq } from 'drizzle-orm';
import type { ShotImages } from '../../core/contracts/events.ts';
import { isPictureName } from '../../core/formats/picture-names.ts';
import type { Context } from '../context.ts';
import { shots, versions } from '../db/schema.ts';

/** Of the head version of each shot that has any, by code. */
export async function shotImages({ db }: Context): Promise<ShotImages[]> {
  const heads = await db
    .select({ code: shots.code, name: shots.name, manifest: versions.manifest })
    .from(shots)
    .innerJoin(versions, eq(versions.id, shots.headVersionId))
    .orderBy(asc(shots.code));
  return heads
    .map(({ code, name, manifest }) => ({ code, name, images: imagesIn(manifest) }))
    .filter(({ images }) => Object.keys(images).length > 0);
}

/** @param manifest JSON of hashes by path */
const imagesIn = (manifest: string): Record<string, string> =>
  Object.fromEntries(
    Object.entries(JSON.parse(manifest) as Record<string, string>).filter(([path]) => isPictureName(path)),
  );
