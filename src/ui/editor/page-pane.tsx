'use client';

import { useState, type FormEvent } from 'react';
import { changePageEdit, type ControlRecord, type PageRecord } from '../../core/show';
import { useDesk } from '../desk';
import { Button } from '../parts';

/** The page itself: its name and size. */
export function PagePane({
  page,
  controls,
}: {
  readonly page: PageRecord;
  readonly controls: readonly ControlRecord[];
}) {
  const desk = useDesk();
  const [form, setForm] = useState({ name: page.data.name, columns: page.data.columns, rows: page.data.rows });
  const [error, setError] = useState('');
  const save = (event: FormEvent) => {
    event.preventDefault();
    const edit = changePageEdit(page, controls, form);
    setError(edit.ok ? '' : edit.error);
    if (edit.ok) void desk.edit(edit.value);
  };
  return (
    <form onSubmit={save} className="form">
      <h2>Page</h2>
      <p className="muted">Choose a button to change it, or an empty cell to add one.</p>
      <label>
        Name
        <input value={form.name} maxLength={60} required onChange={(e) => setForm({ ...form, name: e.target.value })} />
      </label>
      <div className="form-pair">
        <label>
          Columns
          <input
            type="number"
            min={1}
            max={64}
            value={form.columns}
            onChange={(e) => setForm({ ...form, columns: Number(e.target.value) })}
          />
        </label>
        <label>
          Rows
          <input
            type="number"
            min={1}
            max={64}
            value={form.rows}
            onChange={(e) => setForm({ ...form, rows: Number(e.target.value) })}
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
    </form>
  );
}
