/** What a shot holds on the disk, part by part, and what deleting each would free. */
import { asc, eq } from 'drizzle-orm';
import { statfs } from 'node:fs/promises';
import type { DiskTold, ShotStorage, StoredPart } from '../../core/contracts/storage.ts';
import { samplesOf } from '../../core/render/film/rounds.ts';
import { config } from '../config.ts';
import type { Context } from '../context.ts';
import { logs, pictureSets, renders, trials, versions } from '../db/schema.ts';
import { sidesOf } from '../db/sides.ts';
import { shotByCode } from '../versions/versions.ts';
import { keptBlobs, referencesAround, type Reference } from './references.ts';

/** Files that are asked for their size at a time. */
const TOGETHER = 64;

async function sizesOf({ blobs }: Context, hashes: Iterable<string>): Promise<Map<string, number>> {
  const wanted = [...hashes];
  const sizes = new Map<string, number>();
  for (let i = 0; i < wanted.length; i += TOGETHER)
    await Promise.all(wanted.slice(i, i + TOGETHER).map(async (hash) => sizes.set(hash, await blobs.size(hash))));
  return sizes;
}

export async function shotStorage(context: Context, code: string): Promise<ShotStorage> {
  const { db } = context;
  const shot = await shotByCode(db, code);
  const around = await referencesAround(db, shot.id);
  const sizes = await sizesOf(context, new Set(around.map(({ hash }) => hash)));
  const byHash = new Map<string, Reference[]>();
  for (const reference of around) {
    const present = byHash.get(reference.hash);
    if (present) present.push(reference);
    else byHash.set(reference.hash, [reference]);
  }
  /** Bytes that only what `isOwn` tells refers to. */
  const freed = (isOwn: (reference: Reference) => boolean): number => {
    let sum = 0;
    for (const [hash, references] of byHash) if (references.every(isOwn)) sum += sizes.get(hash)!;
    return sum;
  };
  const parts: StoredPart[] = [];
  const versionRows = await db
    .select({ id: versions.id, number: versions.number, parentId: versions.parentId, reason: versions.reason })
    .from(versions)
    .where(eq(versions.shotId, shot.id))
    .orderBy(asc(versions.number));
  const renderRows = await db.select().from(renders).where(eq(renders.shotId, shot.id)).orderBy(asc(renders.id));
  const trialRows = await db.select().from(trials).where(eq(trials.shotId, shot.id));
  for (const { id, number, reason } of versionRows) {
    const own = new Set(renderRows.filter((render) => render.versionId === id).map((render) => render.id));
    const child = versionRows.find(({ parentId }) => parentId === id);
    const why =
      id === shot.headVersionId
        ? 'it is the current version'
        : child
          ? `version ${child.number} was made from it`
          : null;
    const bytes = freed((r) => r.shot === shot.id && (r.version === id || (r.render !== null && own.has(r.render))));
    parts.push({ kind: 'version', id, title: `Version ${number}: ${reason}, with its renders`, bytes, why });
  }
  for (const render of renderRows) {
    const trial = trialRows.find((one) => sidesOf(one).includes(render.id));
    const { number } = versionRows.find(({ id }) => id === render.versionId)!;
    const why = trial
      ? `it is one side of trial ${trial.number}`
      : render.state === 'active'
        ? 'it is still rendering'
        : null;
    const title = `Render ${render.id}: ${render.sheet} of version ${number}, ${samplesOf(render.targetGroups)} samples`;
    parts.push({ kind: 'render', id: render.id, title, bytes: freed((r) => r.render === render.id), why });
  }
  for (const { id, name, take } of await db.select().from(pictureSets).where(eq(pictureSets.shotId, shot.id)))
    parts.push({ kind: 'pictures', id, title: `Pictures ${name}, take ${take}`, bytes: freed((r) => r.set === id), why: null }); // prettier-ignore
  for (const { id, name } of await db
    .select({ id: logs.id, name: logs.name })
    .from(logs)
    .where(eq(logs.shotId, shot.id)))
    parts.push({ kind: 'log', id, title: `Log ${name}`, bytes: freed((r) => r.log === id), why: null });
  const all = [...sizes.values()].reduce((a, b) => a + b, 0);
  return { code: shot.code, bytes: all, freed: freed((r) => r.shot === shot.id), parts };
}

/** What all shots hold, and what is left. Worked out when it is asked for, at most every few seconds. */
export async function diskTold(context: Context): Promise<DiskTold> {
  const { bavail, blocks, bsize } = await statfs(config.data);
  if (!held || Date.now() - held.at > HELD_MS) {
    const sizes = await sizesOf(context, await keptBlobs(context.db));
    held = { at: Date.now(), bytes: [...sizes.values()].reduce((a, b) => a + b, 0) };
  }
  return { held: held.bytes, free: bavail * bsize, size: blocks * bsize };
}
let held: { at: number; bytes: number } | null = null;
const HELD_MS = 30_000;
export const forgetHeld = (): void => {
  held = null;
};
