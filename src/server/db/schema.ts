import { boolean, customType, foreignKey, index, integer, jsonb, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';
import type { BlendMode } from '@/core/document/blendModes';
import { type Checks, FIRST_CHECKS } from '@/core/document/checks';
import type { Finish } from '@/core/document/finish';
import type { Colour, DrawingRole, LevelKind, LevelMedia, Reel, SheetNote } from '@/core/document/model';
import type { Sound } from '@/core/document/sound';
import type { TimingChart } from '@/core/document/timingChart';
import type { MadeBy } from '@/core/edit/madeBy';
import type { Step } from '@/core/edit/step';

const bytea = customType<{ data: Uint8Array; driverData: Uint8Array }>({
  dataType: () => 'bytea',
  toDriver: (value) => Buffer.from(value.buffer, value.byteOffset, value.byteLength),
  fromDriver: (value) => value,
});

const projectId = () =>
  text('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' });

/** When something was stored, or sent again, last: what nothing names is swept away some time after. */
const storedAt = () => timestamp('stored_at', { withTimezone: true }).notNull().defaultNow();

/** One row a project; `revision` counts the steps accepted so far. */
export const projects = pgTable('projects', {
  id: text('id').primaryKey(),
  title: text('title').notNull(),
  rateNum: integer('rate_num').notNull(),
  rateDen: integer('rate_den').notNull(),
  widthPx: integer('width_px').notNull(),
  heightPx: integer('height_px').notNull(),
  firstFrameNumber: integer('first_frame_number').notNull(),
  palette: jsonb('palette').$type<readonly Colour[]>().notNull().default([]),
  checks: jsonb('checks').$type<Checks>().notNull().default(FIRST_CHECKS),
  /** The form the document is written in; see `@/core/document/upgrade`. */
  version: integer('version').notNull().default(1),
  /** What lies on the reel; empty in documents of the first form, which had none. */
  reel: jsonb('reel').$type<Reel>().notNull().default({ items: [], sounds: [] }),
  /** Effects over the whole picture; empty in documents of the first three forms, which had none. */
  finish: jsonb('finish').$type<Finish>().notNull().default([]),
  revision: integer('revision').notNull().default(0),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  keptAt: timestamp('kept_at', { withTimezone: true }).notNull().defaultNow(),
  /** When it was put away from the shelf; null while it stands there. */
  putAwayAt: timestamp('put_away_at', { withTimezone: true }),
});

export const shots = pgTable(
  'shots',
  {
    projectId: projectId(),
    id: text('id').notNull(),
    position: integer('position').notNull(),
    code: text('code').notNull(),
    name: text('name').notNull(),
    note: text('note').notNull(),
    frames: integer('frames').notNull(),
    notes: jsonb('notes').$type<readonly SheetNote[]>().notNull(),
    sounds: jsonb('sounds').$type<readonly Sound[]>().notNull().default([]),
  },
  (table) => [primaryKey({ columns: [table.projectId, table.id] })],
);

export const levels = pgTable(
  'levels',
  {
    projectId: projectId(),
    shotId: text('shot_id').notNull(),
    id: text('id').notNull(),
    position: integer('position').notNull(),
    name: text('name').notNull(),
    kind: text('kind').$type<LevelKind>().notNull(),
    visible: boolean('visible').notNull(),
    locked: boolean('locked').notNull().default(false),
    opacityPercent: integer('opacity_percent').notNull(),
    blend: text('blend').$type<BlendMode>().notNull().default('normal'),
    charts: jsonb('charts').$type<readonly TimingChart[]>().notNull().default([]),
    media: jsonb('media').$type<LevelMedia | null>(),
  },
  (table) => [
    primaryKey({ columns: [table.projectId, table.id] }),
    foreignKey({ columns: [table.projectId, table.shotId], foreignColumns: [shots.projectId, shots.id] }).onDelete('cascade'),
  ],
);

export const drawings = pgTable(
  'drawings',
  {
    projectId: projectId(),
    levelId: text('level_id').notNull(),
    id: text('id').notNull(),
    position: integer('position').notNull(),
    number: text('number').notNull(),
    role: text('role').$type<DrawingRole>().notNull(),
    picture: text('picture').references(() => pictures.digest),
  },
  (table) => [
    primaryKey({ columns: [table.projectId, table.id] }),
    foreignKey({ columns: [table.projectId, table.levelId], foreignColumns: [levels.projectId, levels.id] }).onDelete('cascade'),
  ],
);

/** A level's exposures in order; a null drawing is blank. */
export const exposures = pgTable(
  'exposures',
  {
    projectId: projectId(),
    levelId: text('level_id').notNull(),
    position: integer('position').notNull(),
    drawingId: text('drawing_id'),
    frames: integer('frames').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.projectId, table.levelId, table.position] }),
    foreignKey({ columns: [table.projectId, table.levelId], foreignColumns: [levels.projectId, levels.id] }).onDelete('cascade'),
  ],
);

/** Pictures by the digest of their pixels, stored once however many drawings show them. */
export const pictures = pgTable('pictures', {
  digest: text('digest').primaryKey(),
  widthPx: integer('width_px').notNull(),
  heightPx: integer('height_px').notNull(),
  sizeBytes: integer('size_bytes').notNull(),
  png: bytea('png').notNull(),
  storedAt: storedAt(),
});

/** Every accepted step with the revision it made; `batchId` names the sending it came with, so that none is taken twice. */
export const journal = pgTable(
  'journal',
  {
    projectId: projectId(),
    revision: integer('revision').notNull(),
    batchId: text('batch_id').notNull(),
    /** The form the step is written in; see `@/core/document/upgrade`. */
    version: integer('version').notNull().default(1),
    step: jsonb('step').$type<Step>().notNull(),
    /** The step's own id, by which a window knows that it is its own; null for steps of the first version. */
    stepId: text('step_id'),
    /** The step that undoes it where it was made; null for steps of the first version. */
    inverse: jsonb('inverse').$type<Step>(),
    /** The window that made it; null for steps of the first version. */
    madeBy: jsonb('made_by').$type<MadeBy>(),
    madeAt: timestamp('made_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.projectId, table.revision] }), index('journal_batch').on(table.projectId, table.batchId)],
);

/** Whole documents as they were at some revisions, so that any other is few steps away from one. They can be worked out again. */
export const snapshots = pgTable(
  'snapshots',
  {
    projectId: projectId(),
    revision: integer('revision').notNull(),
    /** The form the document is written in; see `@/core/document/upgrade`. */
    version: integer('version').notNull(),
    document: jsonb('document').$type<unknown>().notNull(),
  },
  (table) => [primaryKey({ columns: [table.projectId, table.revision] })],
);

/** Revisions that were given a name. */
export const moments = pgTable(
  'moments',
  {
    projectId: projectId(),
    revision: integer('revision').notNull(),
    name: text('name').notNull(),
    namedAt: timestamp('named_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.projectId, table.revision] })],
);

/** Shots that somebody has taken in hand, and who. */
export const shotsInHand = pgTable(
  'shots_in_hand',
  {
    projectId: projectId(),
    shotId: text('shot_id').notNull(),
    personId: text('person_id').notNull(),
    name: text('name').notNull(),
    colour: text('colour').notNull(),
    takenAt: timestamp('taken_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.projectId, table.shotId] })],
);

/** Receipts of handovers, as they were made. */
export const receipts = pgTable('receipts', {
  id: text('id').primaryKey(),
  projectId: projectId(),
  madeAt: timestamp('made_at', { withTimezone: true }).notNull().defaultNow(),
  /** The form the body is written in; see `@/contracts/versions`. */
  version: integer('version').notNull().default(1),
  body: jsonb('body').$type<unknown>().notNull(),
});

/** What a person has settled about the program itself, apart from any project: each setting by its name. */
export const settings = pgTable('settings', {
  name: text('name').primaryKey(),
  version: integer('version').notNull().default(1),
  value: jsonb('value').$type<unknown>().notNull(),
});

/** Files that were brought in, byte for byte as they were, by the SHA-256 of those bytes. */
export const originals = pgTable('originals', {
  digest: text('digest').primaryKey(),
  sizeBytes: integer('size_bytes').notNull(),
  storedAt: storedAt(),
  /** The whole file, as it was kept at first; null when it is kept in parts. */
  file: bytea('file'),
});

/**
 * A file's bytes in parts, in the order of `position`: a long recording is never held whole. They are written before
 * the row of `originals` that says all of them are there, each by itself, so that nobody waits for a large file.
 */
export const originalParts = pgTable(
  'original_parts',
  {
    digest: text('digest').notNull(),
    position: integer('position').notNull(),
    bytes: bytea('bytes').notNull(),
    storedAt: storedAt(),
  },
  (table) => [primaryKey({ columns: [table.digest, table.position] })],
);

/** Which original a project's pictures were made from, and under what name it was brought in. */
export const sources = pgTable(
  'sources',
  {
    projectId: projectId(),
    original: text('original')
      .notNull()
      .references(() => originals.digest),
    fileName: text('file_name').notNull(),
    levelId: text('level_id').notNull(),
    broughtAt: timestamp('brought_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.projectId, table.original, table.fileName, table.levelId] })],
);
