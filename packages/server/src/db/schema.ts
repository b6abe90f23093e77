import { sql } from 'drizzle-orm';
import { drawingUnits } from '@gull-pane/core/drawing/units';
import type { ArrangedDto } from '@gull-pane/protocol/arrangements';
import type { KeepCardDto } from '@gull-pane/protocol/cards';
import type { CameraDto } from '@gull-pane/protocol/camera';
import type { ChangeEvent } from '@gull-pane/protocol/events';
import type { BegunDto, CountsDto, ExtentsDto, LayerDto, SheetDto, WarningDto } from '@gull-pane/protocol/drawings';
import type { ImportStage } from '@gull-pane/protocol/jobs';
import type { LinkedDto } from '@gull-pane/protocol/links';
import type { MarkDto } from '@gull-pane/protocol/marks';
import type { PaperSheetDto, StripFieldsDto } from '@gull-pane/protocol/sheet-sets';
import type { StopDto } from '@gull-pane/protocol/tours';
import type { ReviewState } from '@gull-pane/protocol/revisions';
import type { TrailDto } from '@gull-pane/protocol/trail';
import type { ProblemDetails } from '@gull-pane/protocol/problems';
import {
  bigint,
  bigserial,
  boolean,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  serial,
  text,
  timestamp,
  uuid,
  uniqueIndex,
} from 'drizzle-orm/pg-core';

export const drawings = pgTable('drawing', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  kind: text({ enum: ['flat', 'solid'] })
    .notNull()
    .default('flat'),
  unit: text({ enum: drawingUnits }).notNull().default('none'),
  status: text({ enum: ['importing', 'ready', 'failed'] }).notNull(),
  /** Content that is served; 0 while there is none, below it if so many numbers are left free for what it was before. */
  revision: integer().notNull().default(0),
  counts: jsonb().$type<CountsDto>().notNull(),
  extents: jsonb().$type<ExtentsDto>(),
  /** What the reader could not take over. */
  report: jsonb().$type<WarningDto[]>().notNull(),
  sheets: jsonb().$type<SheetDto[]>().notNull().default([]),
  /** Of a drawing that was begun here. */
  begun: jsonb().$type<BegunDto>(),
  /** The view that Home goes to. */
  home: jsonb().$type<CameraDto>(),
  sourceBytes: bigint({ mode: 'number' }).notNull().default(0),
  createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  updatedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
});

export const layers = pgTable(
  'layer',
  {
    drawingId: uuid()
      .notNull()
      .references(() => drawings.id, { onDelete: 'cascade' }),
    /** Index in the drawing, in the order of the file. */
    number: integer().notNull(),
    name: text().notNull(),
    colour: text().notNull(),
    /** Whether the source has it switched off. */
    isOff: boolean().notNull().default(false),
    objects: integer().notNull(),
    segments: integer().notNull(),
    /** x, y, z triples of the convex hull. */
    support: doublePrecision().array().notNull(),
  },
  (table) => [primaryKey({ columns: [table.drawingId, table.number] })],
);

export const texts = pgTable(
  'text_mark',
  {
    drawingId: uuid()
      .notNull()
      .references(() => drawings.id, { onDelete: 'cascade' }),
    objectId: integer().notNull(),
    layer: integer().notNull(),
    content: text().notNull(),
    x: doublePrecision().notNull(),
    y: doublePrecision().notNull(),
    /** Size of the em square, drawing units. */
    size: doublePrecision().notNull(),
    angleRad: doublePrecision().notNull(),
  },
  (table) => [index('text_mark_drawing').on(table.drawingId)],
);

export const jobs = pgTable(
  'import_job',
  {
    id: uuid().primaryKey(),
    drawingId: uuid()
      .notNull()
      .references(() => drawings.id, { onDelete: 'cascade' }),
    state: text({ enum: ['queued', 'running', 'done', 'failed', 'cancelled'] }).notNull(),
    bytesRead: bigint({ mode: 'number' }).notNull().default(0),
    bytesTotal: bigint({ mode: 'number' }).notNull(),
    objects: integer().notNull().default(0),
    /** Of the file, without folders and ending. */
    fileName: text().notNull().default(''),
    error: jsonb().$type<ProblemDetails>(),
    stage: text().$type<ImportStage>().notNull().default('reading'),
    tiles: integer().notNull().default(0),
    tilesTotal: integer().notNull().default(0),
    /** The server that runs it, or ran it last. */
    worker: uuid(),
    /** When that server last sent a heartbeat: without a recent one another server takes the job over. */
    heartbeatAt: timestamp({ withTimezone: true }),
    /** How many times it was begun. */
    attempts: integer().notNull().default(0),
    /** The server that runs it has to stop. */
    isCancelRequested: boolean().notNull().default(false),
    createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
    endedAt: timestamp({ withTimezone: true }),
  },
  (table) => [
    index('import_job_drawing').on(table.drawingId),
    // however many ask at the same moment, a drawing has one import that waits or runs
    uniqueIndex('import_job_open')
      .on(table.drawingId)
      .where(sql`state in ('queued', 'running')`),
  ],
);

/** Content that no row names any more; its files are removed some time later. */
export const removedContents = pgTable('removed_content', {
  id: bigserial({ mode: 'number' }).primaryKey(),
  drawingId: uuid().notNull(),
  /** Null if all of the drawing was removed. */
  revision: integer(),
  removedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
});

/** What all servers of a database share. */
export const sharedSettings = pgTable('shared_setting', {
  name: text().primaryKey(),
  value: text().notNull(),
});

/** Imports of a drawing whose content is kept. */
export const revisions = pgTable(
  'revision',
  {
    drawingId: uuid()
      .notNull()
      .references(() => drawings.id, { onDelete: 'cascade' }),
    number: integer().notNull(),
    name: text().notNull().default(''),
    fileName: text().notNull().default(''),
    sourceBytes: bigint({ mode: 'number' }).notNull().default(0),
    kind: text({ enum: ['flat', 'solid'] }).notNull(),
    unit: text({ enum: drawingUnits }).notNull(),
    counts: jsonb().$type<CountsDto>().notNull(),
    extents: jsonb().$type<ExtentsDto>(),
    sheets: jsonb().$type<SheetDto[]>().notNull().default([]),
    layers: jsonb().$type<LayerDto[]>().notNull(),
    importedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.drawingId, table.number] })],
);

/** What people said of the changes between two revisions. */
export const reviews = pgTable(
  'change_review',
  {
    drawingId: uuid()
      .notNull()
      .references(() => drawings.id, { onDelete: 'cascade' }),
    fromRevision: integer().notNull(),
    toRevision: integer().notNull(),
    change: text().notNull(),
    person: text().notNull(),
    state: text().$type<ReviewState>().notNull(),
    note: text().notNull().default(''),
    updatedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [
    primaryKey({
      name: 'change_review_pk',
      columns: [table.drawingId, table.fromRevision, table.toRevision, table.change, table.person],
    }),
  ],
);

/** What somebody has seen of a revision, a bit an object, in base64. */
export const seen = pgTable(
  'seen',
  {
    drawingId: uuid()
      .notNull()
      .references(() => drawings.id, { onDelete: 'cascade' }),
    revision: integer().notNull(),
    person: text().notNull(),
    bits: text().notNull(),
    updatedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ name: 'seen_pk', columns: [table.drawingId, table.revision, table.person] })],
);

/** Stands for a window that doesn't tell which one it is. */
export const NO_WINDOW = '00000000-0000-0000-0000-000000000000';

export const trails = pgTable(
  'trail',
  {
    drawingId: uuid()
      .notNull()
      .references(() => drawings.id, { onDelete: 'cascade' }),
    // each window keeps its own: none can lose another's
    windowId: uuid().notNull().default(NO_WINDOW),
    trail: jsonb().$type<TrailDto>().notNull(),
    updatedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.drawingId, table.windowId] })],
);

export const cards = pgTable(
  'view_card',
  {
    id: uuid().primaryKey(),
    drawingId: uuid()
      .notNull()
      .references(() => drawings.id, { onDelete: 'cascade' }),
    /** Cards stand in the order of these numbers. */
    position: doublePrecision().notNull(),
    /** Rises with each change: a change of an older one is a conflict. */
    version: integer().notNull().default(1),
    content: jsonb().$type<Omit<KeepCardDto, 'id' | 'position' | 'picture'>>().notNull(),
    /** A data address; in a column of its own, so that lists needn't read it. */
    picture: text().notNull().default(''),
    updatedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index('view_card_drawing').on(table.drawingId)],
);

export const tours = pgTable(
  'tour',
  {
    id: uuid().primaryKey(),
    drawingId: uuid()
      .notNull()
      .references(() => drawings.id, { onDelete: 'cascade' }),
    name: text().notNull(),
    position: doublePrecision().notNull(),
    loops: boolean().notNull().default(false),
    /** Rises with each change: a change of an older one is a conflict. */
    version: integer().notNull().default(1),
    stops: jsonb().$type<StopDto[]>().notNull(),
    updatedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index('tour_drawing').on(table.drawingId)],
);

/** Sheets laid out for paper. */
export const sheetSets = pgTable(
  'sheet_set',
  {
    id: uuid().primaryKey(),
    drawingId: uuid()
      .notNull()
      .references(() => drawings.id, { onDelete: 'cascade' }),
    name: text().notNull(),
    position: doublePrecision().notNull(),
    /** Rises with each change: a change of an older one is a conflict. */
    version: integer().notNull().default(1),
    fields: jsonb().$type<StripFieldsDto>().notNull(),
    sheets: jsonb().$type<PaperSheetDto[]>().notNull(),
    updatedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index('sheet_set_drawing').on(table.drawingId)],
);

export const marks = pgTable(
  'mark',
  {
    id: uuid().primaryKey(),
    drawingId: uuid()
      .notNull()
      .references(() => drawings.id, { onDelete: 'cascade' }),
    /** Marks are drawn in the order of these numbers. */
    serial: serial().notNull(),
    content: jsonb().$type<Omit<MarkDto, 'id'>>().notNull(),
    /** When it was deleted: for some time it keeps its place, so that undo brings it back there. */
    removedAt: timestamp({ withTimezone: true }),
  },
  (table) => [index('mark_drawing').on(table.drawingId)],
);

export const arrangements = pgTable('arrangement', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  position: doublePrecision().notNull(),
  /** Rises with each change: a change of an older one is a conflict. */
  version: integer().notNull().default(1),
  arranged: jsonb().$type<ArrangedDto>().notNull(),
  picture: text().notNull().default(''),
  updatedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
});

/** What short links open; an id is made of the content. */
export const links = pgTable('link', {
  id: text().primaryKey(),
  linked: jsonb().$type<LinkedDto>().notNull(),
  createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
});

/** What has changed, for windows that were away for a moment; the latest only. */
export const news = pgTable('news', {
  id: bigserial({ mode: 'number' }).primaryKey(),
  event: jsonb().$type<ChangeEvent>().notNull(),
  at: timestamp({ withTimezone: true }).notNull().defaultNow(),
});
