/** What came in, as a shot of ours: a document that was sent, or one made from a scene of an open format. */
import type { CameIn } from '../../core/contracts/intake.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { parseDocument } from '../../core/document/validate.ts';
import { readerOf } from '../../core/formats/scene-readers.ts';
import { DOCUMENT } from '../../core/intake/from-shot.ts';
import type { ReadFile } from '../../core/render/load-assets.ts';
import { RequestError } from '../errors.ts';
import { apart } from '../apart.ts';
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

async function fromScene({ folder }: ShotFiles): Promise<BroughtIn> {
  const made = await apart('makeShot', folder);
  if ('refused' in made && made.problems.length) throw new InvalidInput('the upload', made.problems);
  if ('refused' in made) throw new RequestError(400, `${made.refused}. Nothing was kept.`);
  return { document: made.document, read: async (path) => made.files.get(path) ?? null, cameIn: made.cameIn };
}
