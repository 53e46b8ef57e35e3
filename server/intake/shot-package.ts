/** A shot's present version as a package to download; the shot stays as it is. */
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import type { DryRunTold } from '../../core/contracts/intake.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { packShot } from '../../core/intake/files/package.ts';
import { sha256, zipOf } from '../../host/package-zip.ts';
import { apart } from '../apart.ts';
import { config } from '../config.ts';
import type { Context } from '../context.ts';
import { conflict } from '../errors.ts';
import { headOf } from '../shots/versions.ts';

export async function shotPackage(context: Context, code: string): Promise<Readable> {
  const head = await headOf(context.db, code);
  const manifest = JSON.parse(head.manifest) as Record<string, string>;
  const read = async (path: string) => (Object.hasOwn(manifest, path) ? context.blobs.get(manifest[path]) : null);
  try {
    return zipOf(await packShot(JSON.parse(head.document) as ShotDocument, read, sha256));
  } catch (error) {
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
