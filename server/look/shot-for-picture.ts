/** A shot that begins with a picture: it has a frame of its size and nothing in it yet to render. */
import { eq } from 'drizzle-orm';
import { lookAt } from '../../core/data/transform.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { completeDocument } from '../../core/document/complete.ts';
import { validateDocument } from '../../core/document/validate.ts';
import type { PictureFacts } from '../../core/picture/brought.ts';
import { frameOf } from '../../core/picture/sequence/names.ts';
import type { Context } from '../context.ts';
import { shots, versions } from '../db/schema.ts';
import { queuePreflight } from '../intake/preflight-queue.ts';
import { shotChanged } from '../notify.ts';

/** Frames of one sequence go into one shot. @returns its code, made of the picture's name */
export async function shotForPicture(context: Context, name: string, { parts }: PictureFacts): Promise<string> {
  const { stem, frame } = frameOf(name);
  const base = stem.replace(/\.[^.]+$/, '').replace(/#+/g, '');
  const code = base.replace(/[^A-Za-z0-9_-]+/g, '-').replace(/^[-_]+|[-_]+$/g, '').slice(0, 40) || 'picture'; // prettier-ignore
  const [present] = await context.db.select().from(shots).where(eq(shots.code, code));
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
  await context.db.transaction(async (tx) => {
    const [shot] = await tx.insert(shots).values({ code, name: document.name }).returning();
    const [version] = await tx
      .insert(versions)
      .values({
        shotId: shot.id,
        number: 1,
        document: canonicalText(document),
        manifest: '{}',
        reason: `Begun by ${name}`,
      }) // prettier-ignore
      .returning();
    await tx.update(shots).set({ headVersionId: version.id }).where(eq(shots.id, shot.id));
    await queuePreflight(context, tx, version.id);
    await shotChanged(tx, shot.id);
  });
  return code;
}
