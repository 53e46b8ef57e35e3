/** A folder that came in, read through and kept as blobs; apart, see `apart/`. */
import { stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { CameIn } from '../../../core/contracts/intake.ts';
import { canonicalText } from '../../../core/document/canonical.ts';
import { InvalidInput } from '../../../core/document/problem.ts';
import type { ShotDocument } from '../../../core/document/schema.ts';
import { parseDocument } from '../../../core/document/validate.ts';
import { knownFiles } from '../../../core/formats/scene-files.ts';
import { findScene, readerOf, readScene } from '../../../core/formats/scene-readers.ts';
import { takeOver } from '../../../core/intake/fit/take-over.ts';
import { DOCUMENT } from '../../../core/intake/from-shot.ts';
import { toShot } from '../../../core/intake/to-shot.ts';
import { neededFiles, type ReadFile } from '../../../core/render/compile/load-assets.ts';
import { decoders } from '../../../host/decoders.ts';
import { BlobStore } from '../../blobs.ts';
import { RequestError } from '../../errors.ts';
import { planOf, type RenderPlan } from './document.ts';
import { filesInFolder, type ShotFiles } from './folder-files.ts';

export interface ImportTask {
  /** Where the files that came in stand. */
  folder: string;
  /** Folder of the blobs. */
  blobs: string;
  /** Where the document's canonical text is to be written: large ones are slow from process to process. */
  text: string;
}

export interface ImportedFiles {
  code: string;
  name: string;
  /** JSON of hashes by path. */
  manifest: string;
  /** Null for shots of ours. */
  cameIn: CameIn | null;
  /** Of the preview's whole frame. */
  plan: RenderPlan;
}

interface BroughtIn {
  document: ShotDocument;
  read: ReadFile;
  cameIn: CameIn | null;
}

/** Bytes of a document: a hundred thousand objects. */
const LARGEST_DOCUMENT = 16 * 2 ** 20;

/** @throws InvalidInput or RequestError with what is wrong and where */
export async function importFiles({ folder, blobs, text }: ImportTask): Promise<ImportedFiles> {
  const { document, read, cameIn } = await bringIn(await filesInFolder(folder));
  const plan = planOf(document, 'preview', null);
  const store = new BlobStore(blobs);
  // What is missing is told by preflight and shown in the picture: a broken shot comes in to be mended.
  const manifest: Record<string, string> = {};
  for (const path of await neededFiles(document, read, document.code, 'stand in'))
    manifest[path] = await store.put((await read(path))!);
  const { code, name } = document;
  await writeFile(text, canonicalText(document));
  return { code, name, manifest: canonicalText(manifest), cameIn, plan };
}

/** A document and its files: a shot of ours, or one that is made of a scene. */
export async function bringIn(files: ShotFiles): Promise<BroughtIn> {
  const documents = files.paths.filter((path) => path === DOCUMENT || path.endsWith(`/${DOCUMENT}`));
  if (documents.length === 0 && files.paths.some((path) => readerOf(path))) return fromScene(files);
  if (documents.length !== 1) {
    const found = documents.length
      ? documents.slice(0, 5).join(', ')
      : files.paths.slice(0, 5).join(', ') || 'no files';
    const expected = documents.length
      ? `exactly one ${DOCUMENT}`
      : `one ${DOCUMENT}, or a scene (.gltf, .glb, .obj, .usda)`;
    throw new InvalidInput('the upload', [{ path: '', value: found, expected }]);
  }
  const { size } = await stat(join(files.folder, documents[0]));
  if (size > LARGEST_DOCUMENT)
    throw new RequestError(
      413,
      `${documents[0]} has ${(size / 2 ** 20).toFixed(1)} MB; a document has ${LARGEST_DOCUMENT / 2 ** 20} MB at most. Nothing was kept.`,
    );
  const root = documents[0].slice(0, -DOCUMENT.length);
  const read: ReadFile = (path) => files.read(root + path);
  const text = new TextDecoder().decode((await read(DOCUMENT))!);
  return { document: parseDocument(text, root + DOCUMENT), read, cameIn: null };
}

async function fromScene({ paths, read }: ShotFiles): Promise<BroughtIn> {
  try {
    const scene = await readScene(
      findScene(paths),
      knownFiles(paths, (path) => read(path)),
      decoders,
    );
    const made = await toShot(scene);
    const { format, file, repaired } = scene;
    return {
      document: made.document,
      read: async (path) => made.files.get(path) ?? null,
      cameIn: { format, file, notUnderstood: made.notUnderstood, repaired, takenOver: takeOver(scene, made) },
    };
  } catch (error) {
    if (error instanceof RangeError) throw new RequestError(400, `${error.message}. Nothing was kept.`);
    throw error;
  }
}
