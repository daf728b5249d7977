'use client';

import { startSeries, firstSend } from '../../core/page';
import { useDesk } from '../desk';
import { askForShortcuts } from '../frame';

import { Button, Select } from '../kit';
import { useEditor, useEditorStore } from './editor-store';
import { useFacts } from './facts';
import { copyChosen, pasteHere } from './use-clipboard';
import { useVerbs } from './verbs';

/** What can be done with what is chosen, and in a line what that is. */
export function EditorTools() {
  const desk = useDesk();
  const verbs = useVerbs();
  const store = useEditorStore();
  const { show, page, controls, documentOf } = useFacts();
  const { shifts = [] } = page.data;
  const level = useEditor((state) => state.level);
  const ids = useEditor((state) => state.ids);
  const series = useEditor((state) => state.series);
  const tried = useEditor((state) => state.tried.size);
  const refused = useEditor((state) => state.preview?.refused);
  const [only] = ids.size === 1 ? controls.filter(({ id }) => ids.has(id)) : [];
  const send = only && firstSend(only.data);
  const draft = only && startSeries(only, documentOf(send?.device ?? ''));
  const none = ids.size === 0;
  return (
    <div
      className="sticky top-0 z-5 flex flex-wrap items-center gap-1.5 bg-ground pt-0.5 pb-1.5 [&_[data-slot=button]]:px-2.25 [&_[role=status]]:min-w-0 [&_[role=status]]:flex-[1_1_120px] [&_[role=status]]:overflow-hidden [&_[role=status]]:text-[14px] [&_[role=status]]:text-ellipsis [&_[role=status]]:whitespace-nowrap [&>i]:mx-1 [&>i]:h-5.5 [&>i]:w-px [&>i]:bg-rule"
      role="toolbar"
      aria-label="Editing"
    >
      <Button disabled={!show.undo} onClick={() => void desk.undo()} title={show.undo}>
        Undo
      </Button>
      <Button disabled={!show.redo} onClick={() => void desk.redo()} title={show.redo}>
        Redo
      </Button>
      <i aria-hidden />
      <Button disabled={none} onClick={() => copyChosen(verbs) && verbs.clear()}>
        Cut
      </Button>
      <Button disabled={none} onClick={() => copyChosen(verbs)}>
        Copy
      </Button>
      <Button onClick={() => void pasteHere(verbs)}>Paste</Button>
      <Button disabled={none} onClick={verbs.duplicate}>
        Duplicate
      </Button>
      <Button disabled={none} onClick={verbs.clear}>
        Clear
      </Button>
      <i aria-hidden />
      <Button
        disabled={!draft}
        aria-pressed={series !== undefined}
        title={draft ? undefined : 'Choose one control that sends something with a number or a choice.'}
        onClick={() => store.setState({ series: series ? undefined : draft, tab: 'chosen' })}
      >
        Series
      </Button>
      <Button onClick={verbs.makeZone}>Zone</Button>
      {shifts.length > 0 && (
        <Select
          label="Level"
          labelAt="before"
          value={level ?? ''}
          options={[{ value: '', title: 'usual' }, ...shifts.map(({ id, name }) => ({ value: id, title: name }))]}
          onChoose={(id) => store.setState({ level: id || undefined })}
        />
      )}
      <Button kind="ghost" onClick={askForShortcuts}>
        Keys
      </Button>
      {tried > 0 && (
        <span className="inline-flex items-center gap-2 border-l-6 border-warning pl-2">
          <b>! {tried === 1 ? 'A value is' : `${tried} values are`} tried by hand</b>
          <Button onClick={() => store.setState({ tried: new Map() })}>Back to the devices</Button>
        </span>
      )}
      <span className={refused ? 'bg-fault px-2 py-0.5 font-semibold text-fault-ink' : 'text-ink-soft'} role="status">
        {refused ?? saidOf(ids.size, show.undo)}
      </span>
    </div>
  );
}

function saidOf(chosen: number, undo: string | undefined): string {
  if (chosen > 1) return `${chosen} controls chosen`;
  return undo ? `Last edit: ${undo}` : '';
}
