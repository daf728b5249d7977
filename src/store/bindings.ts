import type { BindingChange } from '../core/live';
import { bindEdit, removeBindingEdit } from '../core/show';
import { commitEdit } from './edits';
import type { ShowDb } from './open';
import { recordsOfKind } from './records';

const window = 'bindingsofpanels';

/** Writes what hand gear is bound to. Returns why it cannot be written, as a sentence. */
export function writeBinding(
  db: ShowDb,
  change: BindingChange,
  now: number,
  newId: (kind: 'binding') => string,
): string | undefined {
  const all = recordsOfKind(db, 'binding');
  if (change.do === 'put') {
    const edit = bindEdit(all, change.binding, newId);
    return edit.ok ? commit(edit.value) : edit.error;
  }
  const record = all.find(({ id }) => id === change.id);
  return record && commit(removeBindingEdit(record));

  function commit(edit: Parameters<typeof commitEdit>[1]): string | undefined {
    const done = commitEdit(db, edit, window, now);
    return done.ok ? undefined : done.error.message;
  }
}
