/** Profiles that shows keep, and which of them a shot goes by. */
import { and, eq } from 'drizzle-orm';
import type { ProfileKind, ProfileTold } from '../../core/contracts/intake.ts';
import { defaultProfile, type Profile } from '../../core/intake/preflight/profile.ts';
import { PROFILE_SORTS } from '../../core/intake/profiles.ts';
import type { Target } from '../../core/intake/fit/target.ts';
import type { Context } from '../context.ts';
import type { Database, Transaction } from '../db/database.ts';
import { profiles, shots } from '../db/schema.ts';
import { conflict, notFound } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { shotByCode, type ShotRow } from '../versions/versions.ts';
import { checkAgain } from '../versions/preflight-queue.ts';

export async function listProfiles({ db }: Context): Promise<ProfileTold[]> {
  const own = await db.select().from(profiles).orderBy(profiles.name);
  const shipped = Object.entries(PROFILE_SORTS).flatMap(([kind, { ships }]) =>
    ships.map((one) => ({ kind: kind as ProfileKind, name: one.name, text: JSON.stringify(one), ships: true })),
  );
  return [...shipped, ...own.map(({ kind, name, body }) => ({ kind, name, text: body, ships: false }))];
}

/** Keeps a profile under its name; shots that go by it are checked again. */
export async function saveProfile(context: Context, kind: ProfileKind, text: string): Promise<{ name: string }> {
  const { parse, ships } = PROFILE_SORTS[kind];
  const { name } = parse(text, 'the profile');
  if (ships.some((one) => one.name === name))
    throw conflict(`"${name}" ships with Dusting and stays as it is. Give yours another name.`);
  await context.db.transaction(async (tx) => {
    await tx
      .insert(profiles)
      .values({ kind, name, body: text })
      .onConflictDoUpdate({ target: [profiles.kind, profiles.name], set: { body: text } });
    await checkThoseOf(context, tx, kind, name);
  });
  return { name };
}

export async function removeProfile(context: Context, kind: ProfileKind, name: string): Promise<void> {
  await context.db.transaction(async (tx) => {
    const [row] = await tx
      .delete(profiles)
      .where(and(eq(profiles.kind, kind), eq(profiles.name, name)))
      .returning();
    if (!row) throw notFound(`profile "${name.slice(0, 80)}" of yours`);
    await checkThoseOf(context, tx, kind, name);
  });
}

async function checkThoseOf(context: Context, tx: Transaction, kind: ProfileKind, name: string): Promise<void> {
  if (kind === 'log-format') return;
  const by = kind === 'show' ? shots.showProfile : shots.targetProfile;
  for (const shot of await tx.select().from(shots).where(eq(by, name)).orderBy(shots.id))
    await again(context, tx, shot);
}

/** Sets what a shot goes by; null: nothing in particular. */
export async function chooseProfiles(
  context: Context,
  code: string,
  chosen: { show: string | null; target: string | null },
): Promise<void> {
  await context.db.transaction(async (tx) => {
    const shot = await shotByCode(tx, code);
    for (const kind of ['show', 'target'] as const)
      if (chosen[kind] !== null && !(await find(tx, kind, chosen[kind])))
        throw notFound(`${kind} profile "${chosen[kind].slice(0, 80)}"`);
    // The check's row before the shot's, as the job does that writes it: in the other order they would wait for each other.
    await checkAgain(context, tx, shot.headVersionId!);
    await tx.update(shots).set({ showProfile: chosen.show, targetProfile: chosen.target }).where(eq(shots.id, shot.id));
    await shotChanged(tx, shot.id);
  });
}

async function again(context: Context, tx: Transaction, shot: ShotRow): Promise<void> {
  await checkAgain(context, tx, shot.headVersionId!);
  await shotChanged(tx, shot.id);
}

/** What a shot goes by; a profile that was removed since is as none. */
export async function profilesOf(
  db: Database | Transaction,
  { showProfile, targetProfile }: ShotRow,
): Promise<{ profile: Profile; target: Target | null }> {
  const show = showProfile === null ? null : await find(db, 'show', showProfile);
  const target = targetProfile === null ? null : await find(db, 'target', targetProfile);
  return { profile: (show as Profile | null) ?? defaultProfile(), target: target as Target | null };
}

async function find(db: Database | Transaction, kind: ProfileKind, name: string): Promise<{ name: string } | null> {
  const { parse, ships } = PROFILE_SORTS[kind];
  const shipped = ships.find((one) => one.name === name);
  if (shipped) return shipped;
  const [row] = await db
    .select()
    .from(profiles)
    .where(and(eq(profiles.kind, kind), eq(profiles.name, name)));
  return row ? parse(row.body, name) : null;
}
