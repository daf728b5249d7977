import { sql } from 'drizzle-orm';
import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';

/** The tables of `as-run.db`. Written by the as-run worker of the engine only. */

export const asRun = sqliteTable(
  'as_run',
  {
    n: integer('n').primaryKey(),
    at: integer('at').notNull(),
    kind: text('kind').notNull(),
    row: text('row').notNull(),
    /** What the row is about, of `RowClass`: each class has its own limit. */
    class: text('class').notNull().default('other'),
    /** Of a row that went through the journal: written twice it is one row. */
    entry: text('entry'),
  },
  (table) => [
    index('as_run_by_at').on(table.at),
    index('as_run_by_class').on(table.class, table.n),
    uniqueIndex('as_run_by_entry')
      .on(table.entry)
      .where(sql`entry is not null`),
  ],
);

/** What the engine must know again after a restart: the aim. */
export const engineState = sqliteTable('engine_state', {
  key: text('key').primaryKey(),
  value: text('value').notNull(),
});
