/** Writes a shot's package to where it is to stand; apart, see `apart/`. */
import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import type { ShotDocument } from '../../../core/document/schema.ts';
import { packShot } from '../../../core/intake/files/package.ts';
import { sha256, zipOf } from '../../../host/package-zip.ts';
import { BlobStore } from '../../blobs.ts';
import { conflict } from '../../errors.ts';
import { readerOfManifest } from '../../manifest.ts';

export interface PackTask {
  document: string;
  manifest: string;
  code: string;
  blobs: string;
  place: string;
}

export async function packTask({ document, manifest, code, blobs, place }: PackTask): Promise<void> {
  try {
    const read = readerOfManifest(new BlobStore(blobs), manifest);
    const packed = await packShot(JSON.parse(document) as ShotDocument, read, sha256);
    await pipeline(zipOf(packed), createWriteStream(place));
  } catch (error) {
    if (error instanceof RangeError) throw conflict(`No package was made of ${code}: ${error.message}.`);
    throw error;
  }
}
