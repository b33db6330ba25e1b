import { bigserial, customType, integer, jsonb, pgTable, primaryKey, real, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core';

const bytea = customType<{ data: Uint8Array; driverData: Buffer }>({
  dataType: () => 'bytea',
  toDriver: (value) => Buffer.from(value.buffer, value.byteOffset, value.byteLength),
  fromDriver: (value) => new Uint8Array(value.buffer, value.byteOffset, value.byteLength),
});

/** One row a level. `version` counts its edits; `check` is the last check and what version it saw. */
export const levels = pgTable('levels', {
  id: uuid('id').primaryKey(),
  version: integer('version').notNull().default(0),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  savedAt: timestamp('saved_at', { withTimezone: true }).notNull().defaultNow(),
  /** the one client that may write, until when */
  writer: text('writer'),
  writerUntil: timestamp('writer_until', { withTimezone: true }),
  check: jsonb('check'),
  checkVersion: integer('check_version'),
  /** version of the document's form its rows are in */
  document: integer('document').notNull(),
});

/** One row an object of a level; `seq` keeps the order in which they were added. */
export const objects = pgTable(
  'objects',
  {
    levelId: uuid('level_id')
      .notNull()
      .references(() => levels.id, { onDelete: 'cascade' }),
    id: text('id').notNull(),
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    kind: text('kind').notNull(),
    version: integer('version').notNull(),
    body: jsonb('body').notNull(),
  },
  (t) => [primaryKey({ columns: [t.levelId, t.id] })],
);

/** One row a raster tile, packed as core/num/fixed has it. */
export const tiles = pgTable(
  'tiles',
  {
    levelId: uuid('level_id')
      .notNull()
      .references(() => levels.id, { onDelete: 'cascade' }),
    key: text('key').notNull(),
    data: bytea('data').notNull(),
  },
  (t) => [primaryKey({ columns: [t.levelId, t.key] })],
);

/** The edit log. The edit's own uuid is the key, so that a repeat after a lost answer is found. */
export const edits = pgTable(
  'edits',
  {
    id: uuid('id').primaryKey(),
    levelId: uuid('level_id')
      .notNull()
      .references(() => levels.id, { onDelete: 'cascade' }),
    /** the level's version once this edit was in */
    version: integer('version').notNull(),
    client: text('client').notNull(),
    body: jsonb('body').notNull(),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
    /** what the body says of itself, so that a conflict is found without reading bodies */
    label: text('label').notNull(),
    reads: text('reads').array().notNull(),
    writes: text('writes').array().notNull(),
    /** length of the body, for reading the log in pages */
    bytes: integer('bytes').notNull(),
  },
  (t) => [uniqueIndex('edits_level_version').on(t.levelId, t.version)],
);

/** Old edits without their bodies: a row holds those of one client among many that followed each other. */
export const folded = pgTable(
  'folded',
  {
    levelId: uuid('level_id')
      .notNull()
      .references(() => levels.id, { onDelete: 'cascade' }),
    /** the lowest and the highest of `versions` */
    first: integer('first').notNull(),
    last: integer('last').notNull(),
    client: text('client').notNull(),
    ids: uuid('ids').array().notNull(),
    versions: integer('versions').array().notNull(),
    /** what they touched, all together */
    reads: text('reads').array().notNull(),
    writes: text('writes').array().notNull(),
  },
  (t) => [primaryKey({ columns: [t.levelId, t.first, t.client] })],
);

/** Long work: what is asked, how far it is and what came of it. Files go with the job. */
export const jobs = pgTable('jobs', {
  id: uuid('id').primaryKey(),
  kind: text('kind').notNull(),
  levelId: uuid('level_id').references(() => levels.id, { onDelete: 'cascade' }),
  version: integer('version'),
  state: text('state').$type<'queued' | 'running' | 'done' | 'failed' | 'cancelled'>().notNull().default('queued'),
  progress: real('progress').notNull().default(0),
  input: jsonb('input'),
  file: bytea('file'),
  result: jsonb('result'),
  output: bytea('output'),
  code: text('code'),
  error: text('error'),
  tries: integer('tries').notNull().default(0),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  /** when its worker last said that it lives */
  seenAt: timestamp('seen_at', { withTimezone: true }).notNull().defaultNow(),
});

/** GLB files of assets by content hash; levels name them in their asset objects. */
export const assets = pgTable('assets', {
  hash: text('hash').primaryKey(),
  data: bytea('data').notNull(),
  /** what the library shows: see core/kit/asset */
  summary: jsonb('summary').notNull(),
  addedAt: timestamp('added_at', { withTimezone: true }).notNull().defaultNow(),
});
