/** What came in, as a shot of ours: a document that was sent, or one made from a scene of an open format. */
import type { CameIn } from '../../core/contracts/intake.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { parseDocument } from '../../core/document/validate.ts';
import { knownFiles } from '../../core/formats/scene-files.ts';
import { findScene, readScene, readerOf } from '../../core/formats/scene-readers.ts';
import { DOCUMENT } from '../../core/intake/from-shot.ts';
import { toShot } from '../../core/intake/to-shot.ts';
import type { ReadFile } from '../../core/render/load-assets.ts';
import { RequestError } from '../errors.ts';
import type { ShotFiles } from './shot-files.ts';

export interface BroughtIn {
  document: ShotDocument;
  read: ReadFile;
  /** Null for shots of ours. */
  cameIn: CameIn | null;
}

/** @throws InvalidInput or RequestError with what is wrong and where */
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
  const root = documents[0].slice(0, -DOCUMENT.length);
  const read: ReadFile = (path) => files.read(root + path);
  const text = new TextDecoder().decode((await read(DOCUMENT))!);
  return { document: parseDocument(text, root + DOCUMENT), read, cameIn: null };
}

async function fromScene(files: ShotFiles): Promise<BroughtIn> {
  try {
    const scene = await readScene(
      findScene(files.paths),
      knownFiles(files.paths, (path) => files.read(path)),
    );
    const made = await toShot(scene);
    return {
      document: made.document,
      read: async (path) => made.files.get(path) ?? null,
      cameIn: {
        format: scene.format,
        file: scene.file,
        notUnderstood: made.notUnderstood,
        repaired: scene.repaired,
      },
    };
  } catch (error) {
    if (error instanceof RangeError) throw new RequestError(400, `${error.message}. Nothing was kept.`);
    throw error;
  }
}
