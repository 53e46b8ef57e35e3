/** Views that a person named, and light groups set against each other: kept with the shot. */
import { eq } from 'drizzle-orm';
import type { BalanceRequest, LookRequest } from '../../core/contracts/requests.ts';
import type { Context } from '../context.ts';
import { looks, shots } from '../db/schema.ts';
import { notFound } from '../errors.ts';
import { lookChanged } from '../notify.ts';
import { shotByCode } from '../versions/versions.ts';

/** @returns its number */
export function keepLook({ db }: Context, code: string, { name, note, query, pins }: LookRequest): Promise<number> {
  return db.transaction(async (tx) => {
    const shot = await shotByCode(tx, code);
    const values = { shotId: shot.id, name, note, query: JSON.stringify(query), pins: JSON.stringify(pins) };
    const [row] = await tx.insert(looks).values(values).returning({ id: looks.id });
    await lookChanged(tx, shot.id);
    return row.id;
  });
}

export async function dropLook({ db }: Context, id: number): Promise<void> {
  await db.transaction(async (tx) => {
    const [row] = await tx.delete(looks).where(eq(looks.id, id)).returning({ shotId: looks.shotId });
    if (!row) throw notFound(`look ${id}`);
    await lookChanged(tx, row.shotId);
  });
}

export async function keepBalance({ db }: Context, code: string, balance: BalanceRequest): Promise<void> {
  await db.transaction(async (tx) => {
    const shot = await shotByCode(tx, code);
    await tx.update(shots).set({ balance: JSON.stringify(balance) }).where(eq(shots.id, shot.id)); // prettier-ignore
    await lookChanged(tx, shot.id);
  });
}
