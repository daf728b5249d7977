'use client';

import { useState } from 'react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import {
  changePageEdit,
  duplicatePageEdit,
  legendOf,
  placePageEdit,
  outsideOf,
  removePageEdit,
  resizePageEdit,
  type Outside,
  type PageSize,
} from '../../core/page';
import { pagesOf } from '../../core/show';
import { OutsidePart } from '../outside';
import { newId } from '../parts';
import { Button, buttonClass, CommitInput, formPartClass } from '../kit';
import { CalledFields } from './called-fields';
import { useFacts } from './facts';
import { ImportPages } from './import-pages';
import { LevelFields } from './level-fields';
import { savePages } from './save-file';
import { useVerbs } from './verbs';
import { WhatIsWrongOfPage } from './what-is-wrong';

const ways: readonly { readonly way: Outside; readonly title: string }[] = [
  { way: 'inside', title: 'Move into free cells' },
  { way: 'new page', title: 'Move to a page of their own' },
  { way: 'remove', title: 'Remove' },
];

/** The page itself: its name, size, note and legend, and what can be done with all of it. */
export function PagePane() {
  const verbs = useVerbs();
  const { show, page, controls, tagOf } = useFacts();
  // A size that would leave controls outside waits for an answer.
  const [asked, setAsked] = useState<PageSize>();
  const [removing, setRemoving] = useState(false);
  const router = useRouter();
  const pages = pagesOf(show.records);
  const place = pages.findIndex(({ id }) => id === page.id);
  const moveTo = (to: number) => void verbs.edit(placePageEdit(show.records, page, to));
  const legend = legendOf(page.data, controls, tagOf);
  const outside = asked ? outsideOf(controls, asked).length : 0;

  const resize = (size: PageSize, way?: Outside) => {
    if (!way && outsideOf(controls, size).length > 0) return setAsked(size);
    const made = resizePageEdit(show.records, page, size, way, newId);
    if (!made.ok) return verbs.say(made.error, true);
    setAsked(undefined);
    void verbs.edit(made.value);
  };
  const size = (name: keyof PageSize, text: string) => {
    const { columns, rows } = asked ?? page.data;
    const count = Math.round(Number(text));
    if (count >= 1 && count <= 64) resize({ columns, rows, [name]: count });
  };
  const duplicate = async () => {
    const { edit, page: copy } = duplicatePageEdit(show.records, page, newId);
    if (await verbs.edit(edit)) router.push(`/pages/${copy.id}?edit=1`);
  };
  const remove = async () => {
    if (!removing) return setRemoving(true);
    if (await verbs.edit(removePageEdit(show.records, page))) router.push('/pages');
  };
  return (
    <div className="form">
      <h2>Page</h2>
      <WhatIsWrongOfPage />
      <label>
        Name
        <CommitInput
          value={page.data.name}
          maxLength={60}
          onCommit={(name) => name.trim() !== '' && void verbs.edit(changePageEdit(page, { name }))}
        />
      </label>
      <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
        {(['columns', 'rows'] as const).map((name) => (
          <label key={name}>
            {name === 'columns' ? 'Columns' : 'Rows'}
            <CommitInput
              type="number"
              min={1}
              max={64}
              value={String(asked?.[name] ?? page.data[name])}
              onCommit={(text) => size(name, text)}
            />
          </label>
        ))}
      </div>
      {asked && (
        <div role="alert" className="flex flex-col gap-2 border border-rule-strong p-2.5">
          <p>
            {outside === 1 ? 'One control lies' : `${outside} controls lie`} outside {asked.columns} columns by{' '}
            {asked.rows} rows. Where {outside === 1 ? 'does it' : 'do they'} go?
          </p>
          <div className="col-span-full flex flex-wrap gap-2.5">
            {ways.map(({ way, title }) => (
              <Button key={way} onClick={() => resize(asked, way)}>
                {title}
              </Button>
            ))}
            <Button onClick={() => setAsked(undefined)}>Leave the size</Button>
          </div>
        </div>
      )}
      <label>
        Note for the crew
        <NoteField
          value={page.data.note}
          onCommit={(note) => void verbs.edit(changePageEdit(page, { note }, `Note of page ${page.data.name}`))}
        />
      </label>
      <label className="col-span-full flex flex-row items-center gap-2">
        <input
          type="checkbox"
          checked={page.data.badges ?? false}
          onChange={(event) =>
            void verbs.edit(changePageEdit(page, { badges: event.target.checked }, 'Tags of devices on panels'))
          }
        />
        Panels show the tags of the devices
      </label>
      {legend.length > 0 && (
        <section className={formPartClass} aria-label="Legend">
          <h3>Legend</h3>
          {legend.map(({ tint, text }) => (
            <label key={tint} className="flex-row! items-center gap-2! [&_input]:flex-1">
              <i data-tint={tint} aria-hidden />
              <span className="sr-only">What {tint} stands for</span>
              <CommitInput
                value={text}
                maxLength={40}
                onCommit={(to) => {
                  const { [tint]: _, ...others } = page.data.legend ?? {};
                  const written = to.trim() === '' ? others : { ...others, [tint]: to };
                  void verbs.edit(changePageEdit(page, { legend: written }, `Legend of page ${page.data.name}`));
                }}
              />
            </label>
          ))}
        </section>
      )}
      <LevelFields />
      <CalledFields />
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button onClick={() => void savePages(show.records, [page], page.data.name)}>Save page as a file</Button>
        <Button onClick={() => void savePages(show.records, pagesOf(show.records), 'all-pages')}>Save all pages</Button>
        <ImportPages show={show} />
        <Link className={buttonClass()} href={`/pages/${page.id}/sheet`}>
          Page sheet
        </Link>
      </div>
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button disabled={place === 0} onClick={() => moveTo(place - 1)}>
          Earlier
        </Button>
        <Button disabled={place === pages.length - 1} onClick={() => moveTo(place + 1)}>
          Later
        </Button>
        <Button onClick={() => void duplicate()}>Duplicate page</Button>
        <Button onClick={() => void remove()}>{removing ? 'Really remove the page' : 'Remove page'}</Button>
      </div>
      <OutsidePart records={show.records} of={page} />
      {removing && (
        <p className="text-ink-soft">
          {controls.length === 0
            ? 'It has no controls.'
            : `${controls.length === 1 ? '1 control goes' : `${controls.length} controls go`} with it.`}{' '}
          Undo brings it back.
        </p>
      )}
    </div>
  );
}

function NoteField({ value, onCommit }: { readonly value: string; readonly onCommit: (text: string) => void }) {
  const [typed, setTyped] = useState<string>();
  return (
    <textarea
      value={typed ?? value}
      rows={3}
      maxLength={2000}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => {
        if (typed !== undefined && typed !== value) onCommit(typed);
        setTyped(undefined);
      }}
    />
  );
}
