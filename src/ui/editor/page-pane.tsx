'use client';

import { useState, type FormEvent } from 'react';
import { useRouter } from 'next/navigation';
import {
  changePageEdit,
  duplicatePageEdit,
  movePageEdit,
  removePageEdit,
  type ControlRecord,
  type DeskView,
  type PageRecord,
} from '../../core/show';
import { useDesk } from '../desk';
import { Button, newId } from '../parts';

/** The page itself: its name, size and place, and what can be done with all of it. */
export function PagePane({
  show,
  page,
  controls,
}: {
  readonly show: DeskView;
  readonly page: PageRecord;
  readonly controls: readonly ControlRecord[];
}) {
  const desk = useDesk();
  // Only what was typed is kept here: what somebody else changes meanwhile shows at once, and what was typed stays.
  const [typed, setTyped] = useState<Partial<Pick<PageRecord['data'], 'name' | 'columns' | 'rows'>>>({});
  const form = { name: page.data.name, columns: page.data.columns, rows: page.data.rows, ...typed };
  const [error, setError] = useState('');
  const [removing, setRemoving] = useState(false);
  const router = useRouter();
  const earlier = movePageEdit(show.records, page, 'before');
  const later = movePageEdit(show.records, page, 'after');
  const duplicate = async () => {
    const { edit, page: copy } = duplicatePageEdit(show.records, page, newId);
    if (await desk.edit(edit)) router.push(`/pages/${copy.id}?edit=1`);
  };
  const remove = async () => {
    if (!removing) return setRemoving(true);
    if (await desk.edit(removePageEdit(show.records, page))) router.push('/pages');
  };
  const save = (event: FormEvent) => {
    event.preventDefault();
    const edit = changePageEdit(page, controls, form);
    setError(edit.ok ? '' : edit.error);
    if (edit.ok) void desk.edit(edit.value).then((done) => done && setTyped({}));
  };
  return (
    <form onSubmit={save} className="form">
      <h2>Page</h2>
      <p className="muted">Choose a button to change it, or an empty cell to add one.</p>
      <label>
        Name
        <input
          value={form.name}
          maxLength={60}
          required
          onChange={(e) => setTyped({ ...typed, name: e.target.value })}
        />
      </label>
      <div className="form-pair">
        <label>
          Columns
          <input
            type="number"
            min={1}
            max={64}
            value={form.columns}
            onChange={(e) => setTyped({ ...typed, columns: Number(e.target.value) })}
          />
        </label>
        <label>
          Rows
          <input
            type="number"
            min={1}
            max={64}
            value={form.rows}
            onChange={(e) => setTyped({ ...typed, rows: Number(e.target.value) })}
          />
        </label>
      </div>
      {error && (
        <p role="alert" className="form-error">
          {error}
        </p>
      )}
      <Button type="submit" kind="strong">
        Save page
      </Button>
      <div className="form-acts">
        <Button disabled={!earlier} onClick={() => earlier && void desk.edit(earlier)}>
          Earlier
        </Button>
        <Button disabled={!later} onClick={() => later && void desk.edit(later)}>
          Later
        </Button>
        <Button onClick={() => void duplicate()}>Duplicate</Button>
        <Button onClick={() => void remove()}>{removing ? 'Really remove the page' : 'Remove page'}</Button>
      </div>
      {removing && (
        <p className="muted">
          {controls.length === 0
            ? 'It has no controls.'
            : `${controls.length === 1 ? '1 control goes' : `${controls.length} controls go`} with it.`}{' '}
          Undo brings it back.
        </p>
      )}
    </form>
  );
}
