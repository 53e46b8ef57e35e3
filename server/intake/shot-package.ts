/** A shot's present version as a package to download; the shot stays as it is. */
import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { DryRunTold } from '../../core/contracts/intake.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { packShot } from '../../core/intake/files/package.ts';
import { sha256, zipOf } from '../../host/package-zip.ts';
import { apart } from '../apart.ts';
import { config } from '../config.ts';
import type { Context } from '../context.ts';
import { conflict } from '../errors.ts';
import { headOf } from '../shots/versions.ts';

/** Packages stay so long, so that a download that broke off can go on where it was. */
const KEPT_MS = 24 * 3600_000;

/** @returns where the package stands: made once for each version, so that parts of it can be asked for again */
export async function shotPackage(context: Context, code: string): Promise<string> {
  const head = await headOf(context.db, code);
  const folder = join(config.data, 'packages');
  const place = join(folder, `${head.id}.zip`);
  await mkdir(folder, { recursive: true });
  for (const name of await readdir(folder)) {
    const old = join(folder, name);
    const found = await stat(old).catch(() => null);
    if (found && Date.now() - found.mtimeMs > KEPT_MS) await rm(old, { force: true });
  }
  if (await stat(place).catch(() => null)) return place;
  const manifest = JSON.parse(head.manifest) as Record<string, string>;
  const read = async (path: string) => (Object.hasOwn(manifest, path) ? context.blobs.get(manifest[path]) : null);
  const half = join(folder, `${randomUUID()}.part`);
  try {
    const packed = await packShot(JSON.parse(head.document) as ShotDocument, read, sha256);
    await pipeline(zipOf(packed), createWriteStream(half));
    await rename(half, place);
    return place;
  } catch (error) {
    await rm(half, { force: true });
    if (error instanceof RangeError) throw conflict(`No package was made of ${code}: ${error.message}.`);
    throw error;
  }
}

/** Packs the shot, opens the package where nothing else is, and holds its picture against the shot's. */
export async function dryRunShot(context: Context, code: string): Promise<DryRunTold> {
  const head = await headOf(context.db, code);
  const manifest = JSON.parse(head.manifest) as Record<string, string>;
  const places = Object.entries(manifest).map(([path, hash]) => [path, context.blobs.place(hash)]);
  const folder = join(config.data, 'uploads');
  await mkdir(folder, { recursive: true });
  return apart('dryRunPackage', {
    document: JSON.parse(head.document) as ShotDocument,
    places: Object.fromEntries(places) as Record<string, string>,
    folder,
  });
}
