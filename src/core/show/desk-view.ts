import type { DriverDocument } from '../driver';
import type { Problem } from '../result';
import { applyEdit, type Edit } from './edit';
import type { ShowRecord } from './records';

/** The drivers at hand; they change rarely and are fetched apart from the show. */
export interface DriversView {
  readonly drivers: readonly DriverDocument[];
  /** Those of the drivers that were installed here, by id; the others ship. */
  readonly installed: readonly string[];
}

/** What the desk's editors need of the show as edited last. */
export interface DeskView extends DriversView {
  readonly seq: number;
  readonly records: readonly ShowRecord[];
  /** Changes with the drivers at hand. */
  readonly driversKey: string;
  /** Devices that have a password; the passwords themselves stay where they are. */
  readonly withPassword: readonly string[];
  readonly service: {
    /** The revision in service, or `null` while edits go through at once. */
    readonly running: number | null;
    /** Records that differ from it. */
    readonly drafted: number;
    readonly canStepBack: boolean;
  };
  /** What undo and redo would do in this window, by title. */
  readonly undo?: string;
  readonly redo?: string;
}

/** The show as edited last, apart from the drivers. */
export type ShowNow = Omit<DeskView, keyof DriversView>;

/** What has changed in the show since an edit number; everything, where `since` is `null`. */
export interface ShowNews extends Omit<ShowNow, 'records'> {
  readonly since: number | null;
  readonly puts: readonly ShowRecord[];
  readonly removes: readonly string[];
}

/** The show with the news in it. Records that did not change stay the same objects. `undefined` when news are missing between. */
export function withNews(before: ShowNow | undefined, news: ShowNews): ShowNow | undefined {
  const { since, puts, removes, ...rest } = news;
  if (since === null) return { ...rest, records: puts };
  if (!before || since > before.seq || news.seq < before.seq) return undefined;
  return { ...rest, records: withChanges(before.records, puts, removes) };
}

/** The records as they will be once edits that are still on their way have arrived. An edit that has, or no longer fits, changes nothing. */
export function withPending(records: readonly ShowRecord[], pending: readonly Edit[]): readonly ShowRecord[] {
  let now = records;
  for (const edit of pending) {
    const touched = new Set(edit.changes.map((change) => (change.op === 'update' ? change.to.id : change.record.id)));
    const known = new Map(now.flatMap((record) => (touched.has(record.id) ? [[record.id, record]] : [])));
    const result = applyEdit((id) => known.get(id), edit);
    if (!result.ok) continue;
    now = withChanges(
      now,
      result.value.puts,
      result.value.removes.map(({ id }) => id),
    );
  }
  return now;
}

function withChanges(
  records: readonly ShowRecord[],
  puts: readonly ShowRecord[],
  removes: readonly string[],
): readonly ShowRecord[] {
  if (puts.length === 0 && removes.length === 0) return records;
  const news = new Map(puts.map((record) => [record.id, record]));
  const gone = new Set(removes);
  const kept = records.flatMap((record) => {
    const put = news.get(record.id);
    news.delete(record.id);
    return put ? [put] : gone.has(record.id) ? [] : [record];
  });
  return [...kept, ...news.values()];
}

/** What an action of the desk answers. */
export type ActionResult =
  | { readonly ok: true; readonly said: string }
  | {
      readonly ok: false;
      readonly message: string;
      /** What a person may insist on all the same. */
      readonly code?: 'older-driver';
      /** Everything that is wrong with a document, each with its place. */
      readonly problems?: readonly Problem[];
    };

/** How much undo history and how many revisions there are, and how much of them is kept. */
export interface HistoryFigures {
  readonly edits: number;
  readonly bytes: number;
  readonly revisions: number;
  readonly limits: {
    readonly edits: number;
    readonly bytes: number;
    readonly ageMs: number;
    readonly revisions: number;
  };
}
