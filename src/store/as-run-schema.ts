import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** The tables of `as-run.db`. Written by the as-run worker of the engine only. */

export const asRun = sqliteTable(
  'as_run',
  {
    n: integer('n').primaryKey(),
    at: integer('at').notNull(),
    kind: text('kind').notNull(),
    row: text('row').notNull(),
  },
  (table) => [index('as_run_by_at').on(table.at)],
);

/** What the engine must know again after a restart: the aim. */
export const engineState = sqliteTable('engine_state', {
  key: text('key').primaryKey(),
  value: text('value').notNull(),
});
