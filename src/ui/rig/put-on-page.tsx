'use client';

import { useState } from 'react';
import {
  addControlEdit,
  addPageEdit,
  emptyCells,
  type ControlRecord,
  type DeskView,
  type PageRecord,
  type startOf,
} from '../../core/show';
import { useDesk } from '../desk';
import { Button, newId } from '../parts';

interface Props {
  readonly show: DeskView;
  readonly title: string;
  readonly start: ReturnType<typeof startOf>;
}

/** Turns what worked into a button on the first free cell of a page. */
export function PutOnPage({ show, title, start }: Props) {
  const desk = useDesk();
  const pages = show.records.filter((record): record is PageRecord => record.kind === 'page');
  const [page, setPage] = useState('');
  const [put, setPut] = useState<string>();
  const target = pages.find(({ id }) => id === page) ?? [...pages].sort((a, b) => a.data.order - b.data.order)[0];
  const add = async () => {
    // With no page yet, the first one is made for it in the same step.
    const { page: into, changes } = target
      ? { page: target, changes: [] }
      : (({ page: made, edit }) => ({ page: made, changes: edit.changes }))(
          addPageEdit(show.records, 'First page', newId('page')),
        );
    const controls = show.records.filter(
      (record): record is ControlRecord => record.kind === 'control' && record.data.page === into.id,
    );
    const cell = emptyCells(into, controls)[0] ?? { col: 0, row: into.data.rows };
    const edit = addControlEdit(into, cell, start, newId('ctl'), `Add “${title}” to ${into.data.name}`);
    if (await desk.edit({ ...edit, changes: [...changes, ...edit.changes] })) setPut(into.data.name);
  };
  return (
    <span className="put-on-page">
      <Button onClick={() => void add()}>{put === undefined ? 'Make it a button' : `On ${put} ✓`}</Button>
      {target && (
        <select aria-label="On which page" value={target.id} onChange={(e) => setPage(e.target.value)}>
          {pages.map(({ id, data }) => (
            <option key={id} value={id}>
              {data.name}
            </option>
          ))}
        </select>
      )}
    </span>
  );
}
