/** Pictures that were brought in beside shots, and views that a person named. */
import { doublePrecision, index, integer, pgTable, serial, text, unique } from 'drizzle-orm/pg-core';
import { createdAt } from './columns.ts';
import { shots } from './work.ts';

/** Pictures that came under one name: a file, or the frames of a sequence. */
export const pictureSets = pgTable(
  'picture_sets',
  {
    id: serial().primaryKey(),
    shotId: integer()
      .notNull()
      .references(() => shots.id),
    /** The file's name with signs for the frame's number. */
    name: text().notNull(),
    take: integer().notNull(),
    /** `SetReading` as JSON. */
    reading: text().notNull(),
    createdAt: createdAt(),
  },
  (t) => [unique().on(t.shotId, t.name, t.take)],
);

export const pictures = pgTable(
  'pictures',
  {
    id: serial().primaryKey(),
    setId: integer()
      .notNull()
      .references(() => pictureSets.id),
    name: text().notNull(),
    frame: integer(),
    blob: text().notNull(),
    bytes: doublePrecision().notNull(),
    /** `PictureFacts` as JSON, read once on the way in. */
    facts: text().notNull(),
    createdAt: createdAt(),
  },
  (t) => [unique().on(t.setId, t.name)],
);

/** Views of a shot that a person named. */
export const looks = pgTable(
  'looks',
  {
    id: serial().primaryKey(),
    shotId: integer()
      .notNull()
      .references(() => shots.id),
    name: text().notNull(),
    note: text().notNull(),
    /** Query of its address, and pins, as JSON. */
    query: text().notNull(),
    pins: text().notNull(),
    createdAt: createdAt(),
  },
  (t) => [index().on(t.shotId)],
);
