/** The tables. Records and patches are JSON: they are validated before they come here. */
import {
  bigint,
  customType,
  index,
  integer,
  jsonb,
  primaryKey,
  pgTable,
  real,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'

const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' })

export const project = pgTable(
  'project',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    width: integer('width').notNull(),
    height: integer('height').notNull(),
    /** The records the project started with; acts build on them. */
    initial: jsonb('initial').notNull(),
    /** The act whose result is shown; null before any. */
    head: uuid('head'),
    /** How often the head has been moved: a sender says which one it knows. */
    revision: integer('revision').notNull().default(0),
    /** The sending that moved it last. */
    sending: uuid('sending'),
    /** A small picture for the shelf, WebP. */
    cover: bytea('cover'),
    created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
    changed: timestamp('changed', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index('project_changed').on(table.changed)],
)

export const act = pgTable(
  'act',
  {
    id: uuid('id').primaryKey(),
    project: uuid('project')
      .notNull()
      .references(() => project.id, { onDelete: 'cascade' }),
    /** Order of arrival within the project, from 1. */
    seq: integer('seq').notNull(),
    parent: uuid('parent'),
    label: text('label').notNull(),
    forward: jsonb('forward').notNull(),
    inverse: jsonb('inverse').notNull(),
    at: timestamp('at', { withTimezone: true }).notNull(),
  },
  (table) => [uniqueIndex('act_project_seq').on(table.project, table.seq)],
)

/** The records after an act, every so many acts, so that opening a project replays few. */
export const snapshot = pgTable('snapshot', {
  act: uuid('act')
    .primaryKey()
    .references(() => act.id, { onDelete: 'cascade' }),
  project: uuid('project')
    .notNull()
    .references(() => project.id, { onDelete: 'cascade' }),
  records: jsonb('records').notNull(),
})

/** Picture files, by the SHA-256 of their bytes: a picture uploaded twice is stored once. The bytes are files beside the database. */
export const asset = pgTable('asset', {
  sha256: text('sha256').primaryKey(),
  mediaType: text('media_type').notNull(),
  width: integer('width').notNull(),
  height: integer('height').notNull(),
  bytes: bigint('bytes', { mode: 'number' }).notNull(),
  /** True when a plain PNG stands beside the original, for readers that would show the original differently. */
  converted: integer('converted').notNull().default(0),
  /** Pixels per inch, where the file says so. */
  ppi: integer('ppi'),
  /** What its file was called when it was sent, the last time; null for what the application made itself. */
  name: text('name'),
  /** When it was sent, the last time. */
  created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
})

/** Which pictures any state of a project shows or looks at: what none names goes after a while. */
export const projectAsset = pgTable(
  'project_asset',
  {
    project: uuid('project')
      .notNull()
      .references(() => project.id, { onDelete: 'cascade' }),
    asset: text('asset')
      .notNull()
      .references(() => asset.sha256),
  },
  (table) => [primaryKey({ columns: [table.project, table.asset] }), index('project_asset_asset').on(table.asset)],
)

/** What took long to find, as grey PNG files (results.ts): by what decides it, and by the versions of the algorithms that made it. */
export const result = pgTable(
  'result',
  {
    project: uuid('project')
      .notNull()
      .references(() => project.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    version: text('version').notNull(),
    bytes: integer('bytes').notNull(),
    used: timestamp('used', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.project, table.name] }), index('result_used').on(table.used)],
)

/** The library: stored pictures that every project can take, by what they are for, in named groups. */
export const libraryPicture = pgTable(
  'library_picture',
  {
    /** A LibraryKind. */
    kind: text('kind').notNull(),
    asset: text('asset')
      .notNull()
      .references(() => asset.sha256),
    name: text('name').notNull(),
    /** Empty: in none. */
    group: text('group').notNull().default(''),
    /** Of a sky, a SkyPicture: read by the pages and kept here; null as long as nobody has read it. */
    reads: jsonb('reads'),
    added: timestamp('added', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.kind, table.asset] }), index('library_picture_asset').on(table.asset)],
)

/** Exports of projects: asked for by the server, made by a worker. */
export const exported = pgTable(
  'exported',
  {
    id: uuid('id').primaryKey(),
    project: uuid('project')
      .notNull()
      .references(() => project.id, { onDelete: 'cascade' }),
    /** An ExportInput. */
    input: jsonb('input').notNull(),
    /** "waiting" (for another of its project), "queued", "running", "done" or "failed". */
    state: text('state').notNull(),
    progress: real('progress').notNull().default(0),
    name: text('name').notNull(),
    mediaType: text('media_type').notNull(),
    bytes: bigint('bytes', { mode: 'number' }),
    /** Merged layers: a StoredPicture. */
    picture: jsonb('picture'),
    problem: text('problem'),
    created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
    /** The last sign of life. */
    touched: timestamp('touched', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [
    index('exported_project_state').on(table.project, table.state),
    index('exported_touched').on(table.touched),
  ],
)

/** One plan for many pictures. */
export const batch = pgTable('batch', {
  id: uuid('id').primaryKey(),
  name: text('name').notNull(),
  /** A BatchPlan. */
  plan: jsonb('plan').notNull(),
  /** "draft", "running", or "stopped". A running one whose pictures are all over is done. */
  state: text('state').notNull(),
  created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
  changed: timestamp('changed', { withTimezone: true }).notNull().defaultNow(),
})

/** The pictures of a batch, and what came of each. */
export const batchPicture = pgTable(
  'batch_picture',
  {
    batch: uuid('batch')
      .notNull()
      .references(() => batch.id, { onDelete: 'cascade' }),
    /** From 1, in the order they came. */
    number: integer('number').notNull(),
    asset: text('asset')
      .notNull()
      .references(() => asset.sha256),
    /** Of its file, without what it ends in. */
    name: text('name').notNull(),
    width: integer('width').notNull(),
    height: integer('height').notNull(),
    /** "new", "queued", "running", "done" or "failed". */
    state: text('state').notNull().default('new'),
    /** Which try this is: what an older one brings is not taken. */
    run: integer('run').notNull().default(0),
    /** 0-1: the share selected, and how unsure the matte is. */
    selected: real('selected'),
    doubt: real('doubt'),
    /** What steps said of what they found. */
    note: text('note'),
    problem: text('problem'),
    ms: integer('ms'),
    bytes: bigint('bytes', { mode: 'number' }),
    /** The project in which it is mended. */
    project: uuid('project').references(() => project.id, { onDelete: 'set null' }),
    touched: timestamp('touched', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.batch, table.number] }),
    index('batch_picture_state').on(table.batch, table.state),
    index('batch_picture_doubt').on(table.batch, table.doubt),
    index('batch_picture_asset').on(table.asset),
  ],
)
