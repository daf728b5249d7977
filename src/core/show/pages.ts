import type { ControlRecord, PageRecord, ShowRecord } from './records';

/** The pages of a show in their order. */
export const pagesOf = (records: readonly ShowRecord[]): PageRecord[] =>
  records
    .filter((record): record is PageRecord => record.kind === 'page')
    .sort((a, b) => a.data.order - b.data.order || a.id.localeCompare(b.id));

/** The controls of a page. */
export const controlsOf = (records: readonly ShowRecord[], page: string): ControlRecord[] =>
  records.filter((record): record is ControlRecord => record.kind === 'control' && record.data.page === page);
