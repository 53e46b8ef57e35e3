/** A shot packed, opened where nothing else is, and rendered there; apart, see `apart/`. */
import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { DryRunTold } from '../../../core/contracts/intake.ts';
import type { ShotDocument } from '../../../core/document/schema.ts';
import { packShot } from '../../../core/intake/files/package.ts';
import { dryRun } from '../../../host/dry-run.ts';
import { sha256, zipOf } from '../../../host/package-zip.ts';
import { BlobStore } from '../../blobs.ts';
import { readerOfManifest } from '../../manifest.ts';

export interface DryRunTask {
  document: string;
  manifest: string;
  blobs: string;
  /** Where the package may stand meanwhile. */
  folder: string;
}

/** @returns how it went, or why no package could be made */
export async function dryRunPackage({ document: text, manifest, blobs, folder }: DryRunTask): Promise<DryRunTold> {
  const document = JSON.parse(text) as ShotDocument;
  const read = readerOfManifest(new BlobStore(blobs), manifest);
  await mkdir(folder, { recursive: true });
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
