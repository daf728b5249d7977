'use client';

import { useState } from 'react';
import { controlsOf, pagesOf, type DeskView, type startOf } from '../../core/show';
import { addControlEdit, addPageEdit, emptyCells } from '../../core/page';
import { useDesk } from '../desk';
import { newId, Tick } from '../parts';
import { Button, Select } from '../kit';

interface Props {
  readonly show: DeskView;
  readonly title: string;
  readonly start: ReturnType<typeof startOf>;
}

/** Turns what worked into a button on the first free cell of a page. */
export function PutOnPage({ show, title, start }: Props) {
  const desk = useDesk();
  const pages = pagesOf(show.records);
  const [page, setPage] = useState('');
  const [put, setPut] = useState<string>();
  const target = pages.find(({ id }) => id === page) ?? pages[0];
  const add = async () => {
    // With no page yet, the first one is made for it in the same step.
    const made = target ? undefined : addPageEdit(show.records, 'First page', newId('page'));
    const into = target ?? made?.page;
    if (!into) return;
    const cell = emptyCells(into, controlsOf(show.records, into.id))[0] ?? { col: 0, row: into.data.rows };
    const edit = addControlEdit(into, cell, start, newId('ctl'), `Add “${title}” to ${into.data.name}`);
    if (await desk.edit({ ...edit, changes: [...(made?.edit.changes ?? []), ...edit.changes] })) setPut(into.data.name);
  };
  return (
    <span className="inline-flex">
      <Button onClick={() => void add()}>
        {put !== undefined && <Tick />}
        {put === undefined ? 'Make it a button' : `On ${put}`}
      </Button>
      {target && (
        <Select
          label="On which page"
          labelAt="hidden"
          value={target.id}
          options={pages.map(({ id, data }) => ({ value: id, title: data.name }))}
          onChoose={setPage}
        />
      )}
    </span>
  );
}
