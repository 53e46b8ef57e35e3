/** Removing blobs that nothing refers to any more: films of earlier rounds, and leftovers of refused uploads. */
import { asc, desc } from 'drizzle-orm';
import type { Context } from './context.ts';
import { findings, logs, pictures, tiles, versions } from './db/schema.ts';
import { log } from './log.ts';

/** Younger ones may belong to a transaction that is still open. */
const AGE_MS = 3600_000;

export async function sweepBlobs({ db, blobs }: Context): Promise<void> {
  const keep = new Set<string>();
  const latest = await db
    .selectDistinctOn([tiles.renderId, tiles.tile], { film: tiles.film })
    .from(tiles)
    .orderBy(asc(tiles.renderId), asc(tiles.tile), desc(tiles.groups));
  for (const { film } of latest) keep.add(film);
  for (const { mask } of await db.select({ mask: findings.mask }).from(findings)) keep.add(mask);
  for (const { blob } of await db.select({ blob: logs.blob }).from(logs)) if (blob !== null) keep.add(blob);
  for (const { blob } of await db.select({ blob: pictures.blob }).from(pictures)) keep.add(blob);
  for (const { manifest } of await db.selectDistinct({ manifest: versions.manifest }).from(versions))
    for (const hash of Object.values(JSON.parse(manifest) as Record<string, string>)) keep.add(hash);
  const removed = await blobs.sweep(keep, AGE_MS);
  if (removed) log.info({ removed }, 'blobs swept');
}
