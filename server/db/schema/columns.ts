/** Columns that many tables have. */
import { integer, timestamp } from 'drizzle-orm/pg-core';

export const createdAt = () => timestamp({ withTimezone: true }).notNull().defaultNow();
export const region = () => ({
  x: integer().notNull(),
  y: integer().notNull(),
  width: integer().notNull(),
  height: integer().notNull(),
});
