import { bigserial, customType, index, integer, jsonb, pgTable, primaryKey, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core';

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
});

/** One row an object of a level; `seq` keeps the order in which they were added. */
export const objects = pgTable('objects', {
  levelId: uuid('level_id').notNull().references(() => levels.id, { onDelete: 'cascade' }),
  id: text('id').notNull(),
  seq: bigserial('seq', { mode: 'number' }).notNull(),
  kind: text('kind').notNull(),
  version: integer('version').notNull(),
  body: jsonb('body').notNull(),
}, (t) => [primaryKey({ columns: [t.levelId, t.id] })]);

/** One row a raster tile, packed as core/num/fixed has it. */
export const tiles = pgTable('tiles', {
  levelId: uuid('level_id').notNull().references(() => levels.id, { onDelete: 'cascade' }),
  key: text('key').notNull(),
  data: bytea('data').notNull(),
}, (t) => [primaryKey({ columns: [t.levelId, t.key] })]);

/** The edit log. The edit's own uuid is the key, so that a repeat after a lost answer is found. */
export const edits = pgTable('edits', {
  id: uuid('id').primaryKey(),
  levelId: uuid('level_id').notNull().references(() => levels.id, { onDelete: 'cascade' }),
  /** the level's version once this edit was in */
  version: integer('version').notNull(),
  client: text('client').notNull(),
  body: jsonb('body').notNull(),
  at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
}, (t) => [uniqueIndex('edits_level_version').on(t.levelId, t.version), index('edits_level').on(t.levelId)]);

/** GLB files of assets by content hash; levels name them in their asset objects. */
export const assets = pgTable('assets', {
  hash: text('hash').primaryKey(),
  data: bytea('data').notNull(),
  /** what the library shows: see core/kit/asset */
  summary: jsonb('summary').notNull(),
  addedAt: timestamp('added_at', { withTimezone: true }).notNull().defaultNow(),
});
