'use client';

import { useState } from 'react';
import {
  addControlEdit,
  emptyCells,
  type ControlRecord,
  type DeskView,
  type PageRecord,
  type startOf,
} from '../../core/show';
import { useDesk } from '../desk';
import { Button } from '../parts';
import { newId } from './new-id';

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
  if (!target) return null;
  const add = async () => {
    const controls = show.records.filter(
      (record): record is ControlRecord => record.kind === 'control' && record.data.page === target.id,
    );
    const cell = emptyCells(target, controls)[0] ?? { col: 0, row: target.data.rows };
    const edit = addControlEdit(target, cell, start, newId('ctl'), `Add “${title}” to ${target.data.name}`);
    if (await desk.edit(edit)) setPut(target.data.name);
  };
  return (
    <span className="put-on-page">
      <Button onClick={() => void add()}>{put === undefined ? 'Make it a button' : `On ${put} ✓`}</Button>
      <select aria-label="On which page" value={target.id} onChange={(e) => setPage(e.target.value)}>
        {pages.map(({ id, data }) => (
          <option key={id} value={id}>
            {data.name}
          </option>
        ))}
      </select>
    </span>
  );
}
