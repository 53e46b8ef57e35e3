/** What the server needs to run: who is signed in, requests that are one, jobs in hand. */
import { integer, pgTable, text, timestamp } from 'drizzle-orm/pg-core';
import { createdAt } from './columns.ts';

/** Who is signed in. The key is made of the token as well, so that a new token ends all of them. */
export const sessions = pgTable('sessions', {
  key: text().primaryKey(),
  expiresAt: timestamp({ withTimezone: true }).notNull(),
});

/** Requests that said by a key of theirs that they are one, however often they are sent. */
export const onceKeys = pgTable('once_keys', {
  key: text().primaryKey(),
  /** `{ status, body }` as JSON; null while it is being done, and where the process died before it could say. */
  answer: text(),
  createdAt: createdAt(),
});

/** Jobs that a worker process has in hand, and how often they went wrong. */
export const takenJobs = pgTable('taken_jobs', {
  jobId: text().primaryKey(),
  queue: text().notNull(),
  /** Number of the process, which holds a lock by it for as long as it lives; null: nobody has it. */
  worker: integer(),
  errors: integer().notNull().default(0),
  /** Processes that ended with it in hand. */
  deaths: integer().notNull().default(0),
});
