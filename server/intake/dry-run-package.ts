/** A shot packed, opened where nothing else is, and rendered there; on a thread, see `apart.ts`. */
import { createWriteStream } from 'node:fs';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { DryRunTold } from '../../core/contracts/intake.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { packShot } from '../../core/intake/files/package.ts';
import { dryRun } from '../../host/dry-run.ts';
import { sha256, zipOf } from '../../host/package-zip.ts';

export interface DryRunTask {
  document: ShotDocument;
  /** Where each file of the shot is on disk, by its path. */
  places: Record<string, string>;
  /** Where the package may stand meanwhile. */
  folder: string;
}

/** @returns how it went, or why no package could be made */
export async function dryRunPackage({ document, places, folder }: DryRunTask): Promise<DryRunTold> {
  const read = async (path: string) =>
    Object.hasOwn(places, path) ? new Uint8Array(await readFile(places[path])) : null;
  const own = await mkdtemp(join(folder, 'package-'));
  try {
    const packed = await packShot(document, read, sha256);
    const archive = join(own, 'package.zip');
    await pipeline(zipOf(packed), createWriteStream(archive));
    return { ...(await dryRun(archive, document, read)), before: packed.before, after: packed.after };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return { holds: false, why: error.message, pixels: 0, before: 0, after: 0 };
  } finally {
    await rm(own, { recursive: true, force: true });
  }
}
