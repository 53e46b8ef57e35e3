/** A shot that begins with a picture: it has a frame of its size and nothing in it yet to render. */
import { eq } from 'drizzle-orm';
import { safeId } from '../../core/intake/ids.ts';
import { lookAt } from '../../core/data/transform.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { completeDocument } from '../../core/document/complete.ts';
import { validateDocument } from '../../core/document/validate.ts';
import type { PictureFacts } from '../../core/picture/brought.ts';
import { frameOf } from '../../core/picture/sequence/names.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { shots } from '../db/schema.ts';
import { RequestError } from '../errors.ts';
import { addShot } from '../shots/import-shot.ts';

/** Frames of one sequence go into one shot. @returns its code, made of the picture's name */
export async function shotForPicture(
  context: Context,
  tx: Transaction,
  name: string,
  { parts }: PictureFacts,
): Promise<string> {
  const { stem, frame } = frameOf(name);
  const base = stem.replace(/\.[^.]+$/, '').replace(/#+/g, '');
  const code =
    safeId(
      base
        .replaceAll('.', '-')
        .slice(0, 40)
        .replace(/^_+|_+$/g, ''),
    ) || 'picture';
  const [present] = await tx.select().from(shots).where(eq(shots.code, code));
  if (present) return code;
  const { minX, minY, maxX, maxY } = parts[0].displayWindow;
  const size = (length: number) => Math.max(16, Math.min(8192, length));
  const sheet = { width: size(maxX - minX + 1), height: size(maxY - minY + 1) };
  const document = validateDocument(
    completeDocument({
      schema: 'dusting.shot/1',
      code,
      name: base.replace(/[._-]+/g, ' ').trim() || name,
      frame: frame ?? 1,
      camera: 'camera',
      cameras: { camera: { name: 'camera', transform: lookAt([0, 0, 5], [0, 0, 0]), fieldOfView: 40 } },
      meshes: {},
      objects: {},
      sheets: { preview: sheet, final: sheet },
    }),
  );
  const made = { code, name: document.name, document: canonicalText(document), manifest: '{}', cameIn: null };
  await addShot(context, tx, made, `Started from ${name}`).catch((error: unknown) => {
    // Another frame of the sequence began it at the same moment.
    if (!(error instanceof RequestError && error.status === 409)) throw error;
  });
  return code;
}
