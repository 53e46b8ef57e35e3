/** Carries repairs out on a document and its files; apart, see `apart/`. */
import type { PreflightRepair } from '../../../core/contracts/intake.ts';
import type { JsonPatch } from '../../../core/document/patch.ts';
import type { ShotDocument } from '../../../core/document/schema.ts';
import type { Profile } from '../../../core/intake/preflight/profile.ts';
import { repairAll } from '../../../core/intake/repair-all.ts';
import { carryOut } from '../../../core/intake/repairs/carry-out.ts';
import { BlobStore } from '../../blobs.ts';
import { readerOfManifest } from '../../manifest.ts';

export interface RepairTask {
  document: string;
  manifest: string;
  blobs: string;
  /** One repair, or all that a profile asks for. */
  work: { repair: PreflightRepair } | { profile: Profile };
}

/** @returns null where there is nothing to repair */
export async function repairTask({ document: text, manifest, blobs, work }: RepairTask): Promise<{
  patch: JsonPatch;
  /** Hashes of files that are new, by path. */
  files: Record<string, string>;
  /** What was carried out. */
  labels: string[];
} | null> {
  const store = new BlobStore(blobs);
  const document = JSON.parse(text) as ShotDocument;
  const read = readerOfManifest(store, manifest);
  const made =
    'repair' in work
      ? { ...(await carryOut(document, work.repair, read)), done: [] }
      : await repairAll(document, read, work.profile);
  if ('profile' in work && made.done.length === 0) return null;
  const files: Record<string, string> = {};
  for (const [path, bytes] of made.files) files[path] = await store.put(bytes);
  return { patch: made.patch, files, labels: made.done.map(({ label }) => label) };
}
