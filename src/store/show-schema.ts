import { blob, index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** The tables of `show.db`. Written by the Next.js process, and by the one-shot preparation before it starts. */

/** The show as edited last: one row a record. */
export const records = sqliteTable(
  'records',
  {
    id: text('id').primaryKey(),
    kind: text('kind').notNull(),
    version: integer('version').notNull(),
    data: text('data').notNull(),
    /** SHA-256 of kind and data in canonical JSON. */
    hash: text('hash').notNull(),
    /** Number of the edit that last touched it. */
    seq: integer('seq').notNull(),
  },
  (table) => [index('records_by_seq').on(table.seq), index('records_by_kind').on(table.kind)],
);

/** Records that were removed, so that a reader can catch up from any edit number. */
export const tombstones = sqliteTable(
  'tombstones',
  {
    id: text('id').primaryKey(),
    kind: text('kind').notNull(),
    seq: integer('seq').notNull(),
  },
  (table) => [index('tombstones_by_seq').on(table.seq)],
);

/** Edits by desk window, for undo and redo. `edit` is what inverting takes back: the edit, or its undo. */
export const edits = sqliteTable(
  'edits',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    at: integer('at').notNull(),
    window: text('window').notNull(),
    title: text('title').notNull(),
    edit: text('edit').notNull(),
    /** What was changed with it besides records: drivers and sealed passwords, as they were and as they became. */
    beside: text('beside'),
    state: text('state', { enum: ['done', 'undone'] }).notNull(),
  },
  (table) => [index('edits_by_window').on(table.window, table.state)],
);

/** Contents of records in revisions, each stored once. */
export const contents = sqliteTable('contents', {
  hash: text('hash').primaryKey(),
  json: text('json').notNull(),
});

export const revisions = sqliteTable('revisions', {
  number: integer('number').primaryKey({ autoIncrement: true }),
  at: integer('at').notNull(),
  note: text('note').notNull(),
  /** True for one that has the drivers which were installed when it was made; older ones go with those that are installed now. */
  hasDrivers: integer('has_drivers', { mode: 'boolean' }).notNull().default(false),
});

/** The manifest of a revision: which records it has, by content. */
export const revisionEntries = sqliteTable(
  'revision_entries',
  {
    revision: integer('revision')
      .notNull()
      .references(() => revisions.number),
    id: text('id').notNull(),
    hash: text('hash')
      .notNull()
      .references(() => contents.hash),
  },
  (table) => [primaryKey({ columns: [table.revision, table.id] })],
);

/** The installed drivers of a revision, by content. */
export const revisionDrivers = sqliteTable(
  'revision_drivers',
  {
    revision: integer('revision')
      .notNull()
      .references(() => revisions.number),
    id: text('id').notNull(),
    hash: text('hash')
      .notNull()
      .references(() => contents.hash),
  },
  (table) => [primaryKey({ columns: [table.revision, table.id] })],
);

/** Driver documents that were installed here, besides those that ship. */
export const drivers = sqliteTable('drivers', {
  id: text('id').primaryKey(),
  json: text('json').notNull(),
  at: integer('at').notNull(),
});

/** Passwords by device, sealed with the key file of the data folder. Never in records, revisions or logs. */
export const secrets = sqliteTable('secrets', {
  device: text('device').primaryKey(),
  sealed: text('sealed').notNull(),
});

/** Pictures that controls show, each once, by the SHA-256 of its bytes. */
export const pictures = sqliteTable('pictures', {
  hash: text('hash').primaryKey(),
  type: text('type').notNull(),
  bytes: blob('bytes', { mode: 'buffer' }).notNull(),
});

/** Single values: the number of the last edit, the revision in service. */
export const meta = sqliteTable('meta', {
  key: text('key').primaryKey(),
  value: text('value').notNull(),
});
