/**
 * The one way a shot comes in, the demo's and a user's alike: its document is checked, every file it
 * refers to is read and kept, and only then are rows written. Its first base render is queued with them.
 */
import { eq } from 'drizzle-orm';
import { canonicalText } from '../../core/document/canonical.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import { parseDocument } from '../../core/document/validate.ts';
import { loadAssets, referencedFiles } from '../../core/render/load-assets.ts';
import type { Context } from '../context.ts';
import { shots, versions } from '../db/schema.ts';
import { conflict } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { createRender } from '../render/renders.ts';
import type { ShotFiles } from './shot-files.ts';

export const DOCUMENT_FILE = 'shot.json';

/**
 * @returns the shot's code
 * @throws InvalidInput when document or files cannot be used; RequestError 409 when the code is taken
 */
export async function importShot(context: Context, files: ShotFiles): Promise<string> {
  const root = rootOf(files);
  const read = (path: string) => files.read(root + path);
  const text = new TextDecoder().decode((await read(DOCUMENT_FILE))!);
  const document = parseDocument(text, root + DOCUMENT_FILE);
  const [present] = await context.db.select().from(shots).where(eq(shots.code, document.code));
  if (present)
    throw conflict(`A shot with the code ${document.code} is here already. Give this one another code in shot.json.`);
  await loadAssets(document, read, document.code);
  const manifest: Record<string, string> = {};
  for (const path of referencedFiles(document)) manifest[path] = await context.blobs.put((await read(path))!);

  await context.db.transaction(async (tx) => {
    const [shot] = await tx.insert(shots).values({ code: document.code, name: document.name }).returning();
    const [version] = await tx
      .insert(versions)
      .values({
        shotId: shot.id,
        number: 1,
        document: canonicalText(document),
        manifest: canonicalText(manifest),
        reason: 'Came in',
      })
      .returning();
    await tx.update(shots).set({ headVersionId: version.id }).where(eq(shots.id, shot.id));
    await createRender(context, tx, { version, purpose: 'base', sheet: 'preview', patch: [], region: null });
    await shotChanged(tx, shot.id);
  });
  return document.code;
}

/** The folder, with its slash, that holds the document: the top one, or the only one that has it. */
function rootOf({ paths }: ShotFiles): string {
  const documents = paths.filter((path) => path === DOCUMENT_FILE || path.endsWith(`/${DOCUMENT_FILE}`));
  if (documents.length === 1) return documents[0].slice(0, -DOCUMENT_FILE.length);
  const found = documents.length ? documents.slice(0, 5).join(', ') : paths.slice(0, 5).join(', ') || 'no files';
  throw new InvalidInput('the upload', [{ path: '', value: found, expected: `exactly one ${DOCUMENT_FILE}` }]);
}
