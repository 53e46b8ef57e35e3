/** Shots, what is rendered and found of them, what is tried, and what was decided. */
import type { Examination, RenderPurpose } from '../../../core/contracts/events.ts';
import type { FamilyId } from '../../../core/diagnose/catalogue.ts';
import {
  boolean,
  doublePrecision,
  index,
  integer,
  pgTable,
  primaryKey,
  serial,
  text,
  timestamp,
  unique,
} from 'drizzle-orm/pg-core';
import { createdAt, region } from './columns.ts';

export const shots = pgTable('shots', {
  id: serial().primaryKey(),
  code: text().notNull().unique(),
  name: text().notNull(),
  /** The version that is worked on; undo and redo move it along the versions' parents. */
  headVersionId: integer(),
  /** Raised by every change that a page shows, in the transaction that makes it. */
  revision: integer().notNull().default(0),
  /** `CameIn` as JSON, where the shot was made from a scene of another format. */
  cameIn: text(),
  /** Names of the profile its show expects, and of the renderer it is for; null: none chosen. */
  showProfile: text(),
  targetProfile: text(),
  /** Raised by every change of its pictures, looks and balance, so that a page reads them again only then. */
  lookRevision: integer().notNull().default(0),
  /** `Balance` as JSON. */
  balance: text().notNull().default('{}'),
  /** `FarmRequest` as JSON; null until somebody says what farm it is for. */
  farm: text(),
  /** When somebody opened it last: work on the shot that was opened last goes first. */
  openedAt: timestamp({ withTimezone: true }),
  /** When it was archived: it is out of the list then, and nothing of it is gone. */
  archivedAt: timestamp({ withTimezone: true }),
  createdAt: createdAt(),
});

/** A version is the document's bytes and a manifest {path: SHA-256}. Never changed once written. */
export const versions = pgTable(
  'versions',
  {
    id: serial().primaryKey(),
    shotId: integer()
      .notNull()
      .references(() => shots.id),
    number: integer().notNull(),
    parentId: integer(),
    document: text().notNull(),
    manifest: text().notNull(),
    /** JSON Patch from the parent; null for what came in. */
    patch: text(),
    reason: text().notNull(),
    /** What somebody called it; empty: nothing. */
    name: text().notNull().default(''),
    createdAt: createdAt(),
  },
  (t) => [unique().on(t.shotId, t.number)],
);

/** Frames of a version that were asked for as one. */
export const frameRanges = pgTable(
  'frame_ranges',
  {
    id: serial().primaryKey(),
    shotId: integer()
      .notNull()
      .references(() => shots.id),
    createdAt: createdAt(),
  },
  (t) => [index().on(t.shotId)],
);

export const renders = pgTable(
  'renders',
  {
    id: serial().primaryKey(),
    shotId: integer()
      .notNull()
      .references(() => shots.id),
    versionId: integer()
      .notNull()
      .references(() => versions.id),
    /** `base`: the shot as it is; `trial`: one side of a trial; `frame`: one of a range of frames. */
    purpose: text().$type<RenderPurpose>().notNull(),
    rangeId: integer().references(() => frameRanges.id),
    /** Its frame; null: the document's. */
    frame: integer(),
    sheet: text().$type<'preview' | 'final'>().notNull(),
    /** JSON Patch on the version's document that this render is made with, and hashes by path of files that it has beside the version's. */
    patch: text().notNull(),
    files: text().notNull().default('{}'),
    ...region(),
    /** The sheet's frame, pixels. */
    frameWidth: integer().notNull(),
    frameHeight: integer().notNull(),
    /** Whether the region is all of the sheet's frame. Causes are looked for in whole frames. */
    wholeFrame: boolean().notNull(),
    seed: doublePrecision().notNull(),
    /** Groups of 4 samples that every tile is to reach. */
    targetGroups: integer().notNull(),
    tileSize: integer().notNull(),
    tileCount: integer().notNull(),
    /** Groups done, summed over tiles, and what they took. Counted once a tile and round. */
    doneGroups: integer().notNull().default(0),
    rays: doublePrecision().notNull().default(0),
    ms: doublePrecision().notNull().default(0),
    /** Raised with every tile. */
    revision: integer().notNull().default(0),
    state: text().$type<'active' | 'done' | 'stopped' | 'failed'>().notNull(),
    /** Whether causes were looked for in it: base renders only. */
    examined: text().$type<Examination>().notNull().default('no'),
    /** Raised when it is stopped or continued; jobs of an earlier epoch do nothing. */
    epoch: integer().notNull().default(0),
    error: text(),
    /** JSON list of sentences about what is unusual in the scene; null until it was compiled. */
    warnings: text(),
    /** JSON of what its scene tells by itself, see `predict/scene-figures.ts`; null until it was compiled. */
    sceneFigures: text(),
    /** Which build of the core made it: films of different builds are not mixed. */
    build: text().notNull(),
    createdAt: createdAt(),
    finishedAt: timestamp({ withTimezone: true }),
  },
  (t) => [index().on(t.shotId)],
);

/** A tile's film after so many groups. The first result wins; a later one holds the same bits. */
export const tiles = pgTable(
  'tiles',
  {
    renderId: integer()
      .notNull()
      .references(() => renders.id),
    tile: integer().notNull(),
    groups: integer().notNull(),
    film: text().notNull(),
    /** Blob of what its pixels took, apart because it is never the same twice; null in films that hold it themselves. */
    time: text(),
    /** Rays and milliseconds this round took. */
    rays: doublePrecision().notNull(),
    ms: doublePrecision().notNull(),
    worker: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.renderId, t.tile, t.groups] })],
);

/** What a family found in a render by itself, until all have looked and their findings are arranged. */
export const examinations = pgTable(
  'examinations',
  {
    renderId: integer()
      .notNull()
      .references(() => renders.id),
    /** Groups that every pixel had: a render that goes on is looked at anew. */
    groups: integer().notNull(),
    family: text().$type<FamilyId>().notNull(),
    /** Blob of its findings with their masks, as `v8.serialize` writes them. */
    found: text().notNull(),
    /** The most that looking held at a time. */
    bytes: doublePrecision().notNull(),
  },
  (t) => [primaryKey({ columns: [t.renderId, t.groups, t.family] })],
);

/** Lines of the log of each render, in the order in which they were written. */
export const renderLines = pgTable(
  'render_lines',
  {
    id: serial().primaryKey(),
    renderId: integer()
      .notNull()
      .references(() => renders.id),
    text: text().notNull(),
  },
  (t) => [index().on(t.renderId)],
);

/** Rounds of a batch of tiles that were finished, so that what follows them is queued once. */
export const batches = pgTable('batches', {
  id: text().primaryKey(),
  renderId: integer()
    .notNull()
    .references(() => renders.id),
});

/** What was found in a render, or in a version by itself. */
export const findings = pgTable(
  'findings',
  {
    id: serial().primaryKey(),
    shotId: integer()
      .notNull()
      .references(() => shots.id),
    versionId: integer()
      .notNull()
      .references(() => versions.id),
    /** Null: the version was checked, and nothing rendered. */
    renderId: integer().references(() => renders.id),
    key: text().notNull(),
    /**
     * Which look it was found by; of one render or version the latest counts, and older findings stay. Samples per pixel that
     * the render had, for a continued one is examined again; the run of preflight.
     */
    samples: integer().notNull(),
    /** `Finding` as JSON, written once: predictions are stored before any trial and never rewritten. */
    body: text().notNull(),
    /** What lists show of it, as JSON; see `FindingSummary`. */
    summary: text().notNull().default('{}'),
    /** Blob: one byte a pixel of the full frame; null: it is about no pixels. */
    mask: text(),
    position: integer().notNull(),
    createdAt: createdAt(),
  },
  (t) => [unique().on(t.versionId, t.renderId, t.key, t.samples).nullsNotDistinct()],
);

/** Trials of several values of one thing, which share the render without any of them. */
export const sweeps = pgTable(
  'sweeps',
  {
    id: serial().primaryKey(),
    shotId: integer()
      .notNull()
      .references(() => shots.id),
    title: text().notNull(),
    /** The control that all of them set, where it is one. */
    pointer: text(),
    createdAt: createdAt(),
  },
  (t) => [index().on(t.shotId)],
);

export const trials = pgTable(
  'trials',
  {
    id: serial().primaryKey(),
    shotId: integer()
      .notNull()
      .references(() => shots.id),
    number: integer().notNull(),
    /** Null for values that a person set by hand. */
    findingId: integer().references(() => findings.id),
    remedyId: text(),
    title: text().notNull(),
    versionId: integer()
      .notNull()
      .references(() => versions.id),
    sheet: text().$type<'preview' | 'final'>().notNull(),
    /** JSON Patch on the version's document, and hashes by path of files that it makes. */
    patch: text().notNull(),
    files: text().notNull().default('{}'),
    /** JSON Patch of a second render, which is added into the one with the change; null: there is none. */
    alonePatch: text(),
    ...region(),
    state: text().$type<'predicting' | 'rendering' | 'done' | 'stopped' | 'failed'>().notNull(),
    error: text(),
    /** `Effect` as JSON; the prediction is there before the first ray of the trial, and stays. */
    predicted: text(),
    measured: text(),
    beforeRenderId: integer().references(() => renders.id),
    afterRenderId: integer().references(() => renders.id),
    aloneRenderId: integer().references(() => renders.id),
    sweepId: integer().references(() => sweeps.id),
    /** What it is called among the steps of its sweep. */
    step: text(),
    createdAt: createdAt(),
  },
  (t) => [unique().on(t.shotId, t.number)],
);

/** What a frame of a version takes by a sheet, measured; see `FrameTimeSummary`. */
export const frameTimes = pgTable(
  'frame_times',
  {
    versionId: integer()
      .notNull()
      .references(() => versions.id),
    sheet: text().$type<'preview' | 'final'>().notNull(),
    state: text().$type<'waiting' | 'done' | 'failed'>().notNull(),
    error: text(),
    threadSeconds: doublePrecision().notNull().default(0),
    onceSeconds: doublePrecision().notNull().default(0),
    rays: doublePrecision().notNull().default(0),
    share: doublePrecision().notNull().default(0),
  },
  (t) => [primaryKey({ columns: [t.versionId, t.sheet] })],
);

/** What a person decided: about a trial (keep, drop) or about a finding (put aside). */
export const decisions = pgTable('decisions', {
  id: serial().primaryKey(),
  shotId: integer()
    .notNull()
    .references(() => shots.id),
  trialId: integer().references(() => trials.id),
  findingId: integer().references(() => findings.id),
  verdict: text().$type<'keep' | 'drop' | 'put aside' | 'take up'>().notNull(),
  reason: text().notNull().default(''),
  /** The version that keeping made. */
  versionId: integer().references(() => versions.id),
  createdAt: createdAt(),
});
