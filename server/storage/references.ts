/** Which rows refer to which blobs: what deleting one would free, and what nobody refers to any more. */
import { sql } from 'drizzle-orm';
import type { Database, Transaction } from '../db/database.ts';

/** A reference from something of a shot; the ids that are not null say from what. */
export interface Reference {
  shot: number;
  version: number | null;
  render: number | null;
  set: number | null;
  log: number | null;
  hash: string;
}

/** All references there are, as a query. Films of earlier rounds are none: a tile's latest holds them. */
const references = sql`
  select r.shot_id as shot, null::int as version, t.render_id as render, null::int as set, null::int as log, t.film as hash
    from (select distinct on (render_id, tile) * from tiles order by render_id, tile, groups desc) t
    join renders r on r.id = t.render_id
  union all
  select r.shot_id, null, t.render_id, null, null, t.time
    from (select distinct on (render_id, tile) * from tiles order by render_id, tile, groups desc) t
    join renders r on r.id = t.render_id where t.time is not null
  union all
  select shot_id, case when render_id is null then version_id end, render_id, null, null, mask from findings where mask is not null
  union all
  select r.shot_id, null, r.id, null, null, e.found from examinations e join renders r on r.id = e.render_id
  union all
  select r.shot_id, null, r.id, null, null, f.value from renders r cross join lateral json_each_text(r.files::json) f
  union all
  select t.shot_id, t.version_id, null, null, null, f.value from trials t cross join lateral json_each_text(t.files::json) f
  union all
  select v.shot_id, v.id, null, null, null, f.value from versions v cross join lateral json_each_text(v.manifest::json) f
  union all
  select shot_id, null, null, null, id, blob from logs where blob is not null
  union all
  select s.shot_id, null, null, s.id, null, p.blob from pictures p join picture_sets s on s.id = p.set_id`;

/** Hashes of all blobs that anything refers to. */
export async function keptBlobs(db: Database | Transaction): Promise<Set<string>> {
  const { rows } = await db.execute<{ hash: string }>(sql`select distinct hash from (${references}) all_of_them`);
  return new Set(rows.map(({ hash }) => hash));
}

/** Every reference to what a shot refers to, others' as well. */
export async function referencesAround(db: Database | Transaction, shotId: number): Promise<Reference[]> {
  const { rows } = await db.execute<Reference & Record<string, unknown>>(sql`
    with all_of_them as materialized (${references})
    select * from all_of_them where hash in (select hash from all_of_them where shot = ${shotId})`);
  return rows;
}
