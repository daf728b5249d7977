'use client';

import { useEffect, useState } from 'react';
import { renderLabel } from '../../core/face';
import { lampNow } from '../../core/lamp';
import type { FaceView } from '../../core/live';
import {
  addControlEdit,
  controlsOf,
  emptyCells,
  removeControlEdit,
  type Cell,
  type ControlRecord,
  type DeskView,
  type PageRecord,
  type ReadingRef,
} from '../../core/show';
import { useDesk, useShow } from '../desk';
import { useReadingsOf } from '../live';
import { PageGrid } from '../page';
import { Button, newId } from '../parts';
import { AddPane } from './add-pane';
import { ControlPane } from './control-pane';
import { PagePane } from './page-pane';

type Chosen = { readonly control: string } | { readonly cell: Cell } | undefined;

const noMarks = new Map();

/** The page as edited last, with a form beside it. What is edited here is the draft while a revision is in service. */
export function PageEditor({ page: pageId }: { readonly page: string }) {
  const { show, failed } = useShow();
  const page = show?.records.find((record): record is PageRecord => record.kind === 'page' && record.id === pageId);
  if (failed)
    return <p className="page-waiting">The show could not be read. The desk may be starting; this is tried again.</p>;
  if (!show) return <p className="muted page-waiting">Fetching the show …</p>;
  if (!page) return <p className="page-waiting">There is no such page in the show.</p>;
  return <Editor show={show} page={page} />;
}

function Editor({ show, page }: { readonly show: DeskView; readonly page: PageRecord }) {
  const desk = useDesk();
  const [chosen, setChosen] = useState<Chosen>();
  const controls = controlsOf(show.records, page.id);
  const devices = show.records.filter((record) => record.kind === 'device');
  const readings = useReadingsOf(devices.map(({ id }) => id));
  const readingNow = (ref: ReadingRef) => readings.get(ref.device)?.[ref.key];
  const faceOf = ({ data }: ControlRecord): FaceView => ({
    segments: renderLabel(data.label, data.values, readingNow),
    lamp: lampNow(data.lamps, data.values, readingNow),
  });
  const faces = Object.fromEntries(controls.map((control) => [control.id, faceOf(control)]));
  const textOf = (id: string) => faces[id]?.segments.map(({ text }) => text).join('') ?? '';
  const control = chosen && 'control' in chosen ? controls.find(({ id }) => id === chosen.control) : undefined;
  // One row more than the page has, to grow into.
  const grown: PageRecord = { ...page, data: { ...page.data, rows: Math.min(64, page.data.rows + 1) } };

  const remove = async (record: ControlRecord) => {
    setChosen(undefined);
    await desk.edit(removeControlEdit(record, `Remove ${textOf(record.id)}`));
  };
  const add = async (cell: Cell, title: string, start: Parameters<typeof addControlEdit>[2]) => {
    const id = newId('ctl');
    if (await desk.edit(addControlEdit(page, cell, start, id, `Add ${title}`))) setChosen({ control: id });
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Escape') setChosen(undefined);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  return (
    <div className="editor">
      <div className="editor-page">
        <div className="editor-tools">
          <Button disabled={!show.undo} onClick={() => void desk.undo()} title={show.undo}>
            Undo
          </Button>
          <Button disabled={!show.redo} onClick={() => void desk.redo()} title={show.redo}>
            Redo
          </Button>
          <span className="muted">{show.undo ? `Last edit: ${show.undo}` : 'No edits in this window yet.'}</span>
        </div>
        <PageGrid
          layout={{ id: page.id, ...grown.data }}
          controls={Object.fromEntries(
            controls.map(({ id, data }) => [id, { ...data, pressable: true, guarded: false, holds: false }]),
          )}
          faces={faces}
          marks={noMarks}
          editing
          chosen={control?.id}
          emptyCells={emptyCells(grown, controls)}
          onPress={(id) => setChosen({ control: id })}
          onAdd={(cell) => setChosen({ cell })}
        />
      </div>
      <aside className="pane" aria-label="What is chosen">
        {control && (
          <ControlPane
            key={control.id}
            control={control}
            show={show}
            readings={readings}
            name={textOf(control.id)}
            onRemove={() => void remove(control)}
          />
        )}
        {chosen && 'cell' in chosen && (
          <AddPane
            show={show}
            readings={readings}
            usual={controls[0]?.data.responses.tap[0]?.device ?? controls[0]?.data.responses.held?.[0]?.device}
            onPick={(title, start) => void add(chosen.cell, title, start)}
          />
        )}
        {!control && !(chosen && 'cell' in chosen) && <PagePane show={show} page={page} controls={controls} />}
      </aside>
    </div>
  );
}
