/** What came in with shots and how it is checked: preflight, profiles, logs. */
import type { ProfileKind } from '../../../core/contracts/intake.ts';
import { boolean, doublePrecision, index, integer, pgTable, primaryKey, serial, text } from 'drizzle-orm/pg-core';
import { createdAt } from './columns.ts';
import { shots, versions } from './work.ts';

/** What preflight says of a version, which never changes; made anew when what it is held against does. */
export const preflights = pgTable('preflights', {
  versionId: integer()
    .primaryKey()
    .references(() => versions.id),
  state: text().$type<'waiting' | 'done' | 'failed'>().notNull(),
  /** Raised when what it is held against changes: a job that began before writes nothing. */
  run: integer().notNull().default(0),
  error: text(),
  seconds: doublePrecision().notNull().default(0),
  /** Checks and files as JSON. */
  results: text(),
  stops: integer().notNull().default(0),
  cautions: integer().notNull().default(0),
  /** Sentences of what stops or wants a look, as JSON. */
  told: text().notNull().default('[]'),
});

/** What shows keep as JSON: what they expect, renderers, formats of logs. Those that ship are not among them. */
export const profiles = pgTable(
  'profiles',
  {
    kind: text().$type<ProfileKind>().notNull(),
    name: text().notNull(),
    body: text().notNull(),
    createdAt: createdAt(),
  },
  (t) => [primaryKey({ columns: [t.kind, t.name] })],
);

/** Logs that came with a shot, read on the way in. */
export const logs = pgTable(
  'logs',
  {
    id: serial().primaryKey(),
    shotId: integer()
      .notNull()
      .references(() => shots.id),
    name: text().notNull(),
    bytes: doublePrecision().notNull(),
    /** `ReadLog` as JSON. */
    body: text().notNull(),
    /** First lines, as JSON, and the whole text as a blob, to read it again by another format. */
    sample: text().notNull().default('[]'),
    blob: text(),
    /** `Statistics` that came beside it, as JSON. */
    statistics: text(),
    createdAt: createdAt(),
  },
  (t) => [index().on(t.shotId)],
);

/** What somebody decided about a kind of message, for this shot and all its logs. */
export const logDecisions = pgTable(
  'log_decisions',
  {
    shotId: integer()
      .notNull()
      .references(() => shots.id),
    key: text().notNull(),
    harmless: boolean().notNull(),
    why: text().notNull(),
    createdAt: createdAt(),
  },
  (t) => [primaryKey({ columns: [t.shotId, t.key] })],
);
