/** Pictures that are brought in beside a shot, whoever made them: stored by their hash, read once, told in sets. */
import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import type { ReadingRequest } from '../../core/contracts/requests.ts';
import { isPictureName, PICTURE_ENDINGS } from '../../core/formats/picture-names.ts';
import type { KeptLook, PictureFacts, PictureSet, SetReading, ShotPictures } from '../../core/picture/brought.ts';
import type { Balance } from '../../core/picture/balance.ts';
import { frameOf } from '../../core/picture/sequence/names.ts';
import { spaceOf } from '../../core/picture/spaces.ts';
import { apart } from '../apart/apart.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { looks, pictures, pictureSets } from '../db/schema.ts';
import { notFound, RequestError } from '../errors.ts';
import type { ReceivedFile } from '../received.ts';
import { lookChanged } from '../notify.ts';
import { lockHead, shotByCode } from '../versions/versions.ts';
import { shotForPicture } from './shot-for-picture.ts';

export interface Added {
  /** Shot that it is in: a new one where none was named. */
  code: string;
  set: number;
  picture: number;
}

/**
 * Takes a picture as it streams in. Nothing is kept of one that breaks off or cannot be read; one that is cut short is
 * kept, and says so. The same bytes under the same name are the same picture.
 * @param code of the shot; null starts one
 * @throws RequestError 400 with what is wrong with it
 */
export async function addPicture(
  context: Context,
  code: string | null,
  name: string,
  { place, bytes, hash, gone }: ReceivedFile,
): Promise<Added> {
  const called = pictureName(name);
  if (code !== null) await shotByCode(context.db, code);
  const facts = await apart('examineFile', { place, name: called }, { gone, bytes });
  await context.blobs.adopt(place, hash);
  return context.db.transaction(async (tx) => {
    const into = code ?? (await shotForPicture(context, tx, called, facts));
    return { code: into, ...(await keep(tx, into, called, hash, bytes, facts)) };
  });
}

/** What a picture is called: the last part of its path. @throws RequestError 400 for what is no picture's */
export function pictureName(name: string): string {
  const called = name.split(/[\\/]/).at(-1)!.slice(0, 200);
  if (!isPictureName(called))
    throw new RequestError(400, `"${called}" cannot be read as a picture; ${PICTURE_ENDINGS.join(', ')} can.`);
  return called;
}

async function keep(
  tx: Transaction,
  code: string,
  name: string,
  blob: string,
  bytes: number,
  facts: PictureFacts,
): Promise<{ set: number; picture: number }> {
  // Locked, so that frames that come at the same time go into one set.
  const { shot } = await lockHead(tx, code);
  const { stem, frame } = frameOf(name);
  const sets = await tx
    .select()
    .from(pictureSets)
    .where(and(eq(pictureSets.shotId, shot.id), eq(pictureSets.name, stem)))
    .orderBy(desc(pictureSets.take));
  const known = sets.length
    ? await tx.select().from(pictures).where(and(inArray(pictures.setId, sets.map(({ id }) => id)), eq(pictures.name, name))) // prettier-ignore
    : [];
  const same = known.find((picture) => picture.blob === blob);
  if (same) return { set: same.setId, picture: same.id };
  let set = sets[0];
  if (!set || known.some((picture) => picture.setId === set.id)) {
    const reading = JSON.stringify(readingOf(facts));
    [set] = await tx.insert(pictureSets).values({ shotId: shot.id, name: stem, take: (set?.take ?? 0) + 1, reading }).returning(); // prettier-ignore
  }
  const [row] = await tx.insert(pictures).values({ setId: set.id, name, frame, blob, bytes, facts: JSON.stringify(facts) }).returning(); // prettier-ignore
  await lookChanged(tx, shot.id);
  return { set: set.id, picture: row.id };
}

/** What the file says of itself, for a person to correct. */
function readingOf({ parts }: PictureFacts): SetReading {
  const attributes = Object.assign({}, ...parts.map((part) => part.attributes)) as Record<string, unknown>;
  const samples = Math.round(Number(attributes.samples ?? attributes['dusting/samples']));
  const chromaticities = attributes.chromaticities;
  return {
    roles: {},
    space: Array.isArray(chromaticities) && chromaticities.length === 8 ? spaceOf(chromaticities as number[]) : null,
    bakedExposure: 0,
    samples: Number.isInteger(samples) && samples > 0 ? samples : null,
  };
}

export async function shotPictures({ db }: Context, code: string): Promise<ShotPictures> {
  const shot = await shotByCode(db, code);
  const sets = await db.select().from(pictureSets).where(eq(pictureSets.shotId, shot.id)).orderBy(asc(pictureSets.id));
  const rows = sets.length
    ? await db.select().from(pictures).where(inArray(pictures.setId, sets.map(({ id }) => id))).orderBy(asc(pictures.frame), asc(pictures.id)) // prettier-ignore
    : [];
  const kept = await db.select().from(looks).where(eq(looks.shotId, shot.id)).orderBy(asc(looks.id));
  return {
    sets: sets.map(({ id, name, take, reading }): PictureSet => ({
      id,
      name,
      take,
      reading: JSON.parse(reading) as SetReading,
      pictures: rows
        .filter(({ setId }) => setId === id)
        .map(({ id: own, name: file, frame, bytes, facts, createdAt }) => ({
          id: own,
          name: file,
          frame,
          bytes,
          facts: JSON.parse(facts) as PictureFacts,
          createdAt: createdAt.toISOString(),
        })),
    })),
    looks: kept.map(({ id, name, note, query, pins, createdAt }): KeptLook => ({
      id,
      name,
      note,
      query: JSON.parse(query) as KeptLook['query'],
      pins: JSON.parse(pins) as KeptLook['pins'],
      createdAt: createdAt.toISOString(),
    })),
    balance: JSON.parse(shot.balance) as Balance,
  };
}

/** Where a picture's bytes stand, and what its file was called. */
export async function picturePlace({ db, blobs }: Context, id: number): Promise<{ place: string; name: string }> {
  const [row] = await db.select().from(pictures).where(eq(pictures.id, id));
  if (!row) throw notFound(`picture ${id}`);
  return { place: await blobs.sound(row.blob), name: row.name };
}

export async function readSet({ db }: Context, id: number, reading: ReadingRequest): Promise<void> {
  await db.transaction(async (tx) => {
    const [row] = await tx
      .update(pictureSets)
      .set({ reading: JSON.stringify(reading) })
      .where(eq(pictureSets.id, id))
      .returning({ shotId: pictureSets.shotId });
    if (!row) throw notFound(`set of pictures ${id}`);
    await lookChanged(tx, row.shotId);
  });
}

/** Takes a set, or one of its frames, off the shot. */
export async function dropSet({ db }: Context, id: number): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.delete(pictures).where(eq(pictures.setId, id));
    const [row] = await tx.delete(pictureSets).where(eq(pictureSets.id, id)).returning({ shotId: pictureSets.shotId });
    if (!row) throw notFound(`set of pictures ${id}`);
    await lookChanged(tx, row.shotId);
  });
}
