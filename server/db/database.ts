/** The connection pool, migrations, and the queue's way into our transactions. */
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { sql } from 'drizzle-orm';
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { writeKey } from './once-key.ts';
import * as schema from './schema.ts';

export type Database = NodePgDatabase<typeof schema>;
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

const MIGRATION_LOCK = 814_200_117;

export function connect(url: string): { db: Database; pool: pg.Pool } {
  const pool = new pg.Pool({ connectionString: url, max: 14, connectionTimeoutMillis: 5000 });
  // A lost connection is replaced by the pool, and what was running on it is told by its own error. Without a listener,
  // on idle ones and on those in use, it would end the process.
  pool.on('error', () => {});
  pool.on('connect', (client) => client.on('error', () => {}));
  const db = drizzle(pool, { schema, casing: 'snake_case' });
  const transaction = db.transaction.bind(db);
  db.transaction = (work, options) =>
    transaction(async (tx) => {
      if (options?.accessMode !== 'read only') await writeKey(tx);
      return work(tx);
    }, options);
  return { db, pool };
}

/** Brings the tables up to date; processes that start together take turns. */
export async function migrateDatabase(url: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  // A lost connection is told by the query that it ends.
  client.on('error', () => {});
  await client.connect();
  try {
    const db = drizzle(client, { casing: 'snake_case' });
    await db.execute(sql`select pg_advisory_lock(${MIGRATION_LOCK})`);
    // Beside this file in the source, beside the bundle when built.
    const folder = ['./migrations', './db/migrations']
      .map((place) => fileURLToPath(new URL(place, import.meta.url)))
      .find(existsSync)!;
    await migrate(db, { migrationsFolder: folder });
  } finally {
    await client.end();
  }
}
