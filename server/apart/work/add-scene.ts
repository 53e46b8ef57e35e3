/** Objects of a scene or shot that came in, for a shot that is there: read, kept as blobs, and told as values; apart, see `apart/`. */
import { addedObjects } from '../../../core/document/add-objects.ts';
import type { ShotDocument } from '../../../core/document/schema.ts';
import type { ControlValues } from '../../../core/document/set-values.ts';
import type { AddedScene } from '../../../core/contracts/intake.ts';
import { neededFiles } from '../../../core/render/compile/load-assets.ts';
import { sha256 } from '../../../host/package-zip.ts';
import { BlobStore } from '../../blobs.ts';
import { RequestError } from '../../errors.ts';
import { freePath } from '../../manifest.ts';
import { filesInFolder } from './folder-files.ts';
import { bringIn } from './import-files.ts';

export interface AddSceneTask {
  /** Texts of the version they are for. */
  document: string;
  manifest: string;
  folder: string;
  blobs: string;
}

/** @throws InvalidInput or RequestError with what is wrong and where */
export async function addScene(
  task: AddSceneTask,
): Promise<{ told: AddedScene; values: ControlValues; taken: Record<string, string> }> {
  const { document: from, read, cameIn } = await bringIn(await filesInFolder(task.folder));
  const document = JSON.parse(task.document) as ShotDocument;
  const manifest = JSON.parse(task.manifest) as Record<string, string>;
  if (Object.keys(from.objects).length === 0) throw new RequestError(400, 'It has no objects. Nothing was added.');
  const store = new BlobStore(task.blobs);
  const taken: Record<string, string> = {};
  const paths = new Map<string, string>();
  for (const path of await neededFiles(from, read, from.code, 'stand in')) {
    const bytes = (await read(path))!;
    const hash = sha256(bytes);
    const free = freePath({ ...manifest, ...taken }, path, hash);
    paths.set(path, free);
    if (manifest[free] !== hash) taken[free] = await store.put(bytes);
  }
  const { values, objects } = addedObjects(document, from, (path) => paths.get(path) ?? freePath(manifest, path, null));
  const { lights, cameras } = from;
  const leftOut = { lights: Object.keys(lights).length, cameras: Object.keys(cameras).length };
  return { told: { objects, leftOut, notUnderstood: cameIn?.notUnderstood ?? [] }, values, taken };
}
