'use client';

import { useState } from 'react';
import {
  changePanelEdit,
  pathProblem,
  removePanelEdit,
  type DeskView,
  type PageRecord,
  type BindingRecord,
  type PanelRecord,
} from '../../core/show';
import { useDesk } from '../desk';

import { GearBindings } from './gear-bindings';
import { HiddenControls } from './hidden-controls';
import { JoinPart } from './join-part';
import { Button, buttonClass } from '../kit';
import { PanelPagesField } from './panel-pages-field';
import { PanelSettings } from './panel-settings';

interface Props {
  readonly panel: PanelRecord;
  readonly pages: readonly PageRecord[];
  readonly show: DeskView;
}

type Part = 'pages' | 'hidden' | 'settings' | 'gear' | 'join';

/** One panel: its name and address, what it shows, and the way in. */
export function PanelRow({ panel, pages, show }: Props) {
  const desk = useDesk();
  const [open, setOpen] = useState<Part>();
  const [wrong, setWrong] = useState<string>();
  const { name, path, pages: own, hidden } = panel.data;
  const change = (to: Partial<PanelRecord['data']>, what: string) => void desk.edit(changePanelEdit(panel, to, what));
  const bindings = show.records.filter(
    (record): record is BindingRecord => record.kind === 'binding' && record.data.panel === panel.id,
  );
  const toggle = (part: Part) => setOpen(open === part ? undefined : part);
  const shown = own.length === 0 ? 'all pages' : own.length === 1 ? '1 page' : `${own.length} pages`;
  return (
    <li className="border-b border-rule-strong py-2.5" aria-label={name}>
      <div className="flex flex-wrap items-center gap-x-3.5 gap-y-2">
        <label>
          <span className="sr-only">Name of the panel</span>
          <input
            key={name}
            defaultValue={name}
            maxLength={60}
            className="w-36 font-bold"
            onBlur={(event) => {
              const to = event.target.value.trim();
              if (to !== '' && to !== name) change({ name: to }, 'Name');
            }}
          />
        </label>
        <label className="font-mono text-[0.93em] [&_input]:w-24">
          /panel/
          <input
            key={path}
            aria-label="Address of the panel"
            aria-invalid={wrong !== undefined}
            defaultValue={path}
            maxLength={30}
            spellCheck={false}
            onBlur={(event) => {
              const to = event.target.value.trim();
              const problem = pathProblem(to, panel.id, show.records);
              setWrong(problem);
              if (problem === undefined && to !== path) change({ path: to }, 'Address');
            }}
          />
        </label>
        <Button className="w-24" aria-expanded={open === 'pages'} onClick={() => toggle('pages')}>
          {shown}
        </Button>
        <Button className="w-33" aria-expanded={open === 'hidden'} onClick={() => toggle('hidden')}>
          {hidden.length === 0 ? 'Hide controls' : `${hidden.length} hidden`}
        </Button>
        {bindings.length > 0 && (
          <Button aria-expanded={open === 'gear'} onClick={() => toggle('gear')}>
            {bindings.length} on hand gear
          </Button>
        )}
        <Button aria-expanded={open === 'settings'} onClick={() => toggle('settings')}>
          Settings
        </Button>
        <span className="ml-auto flex gap-2">
          <a className={buttonClass()} href={`/panel/${path}`} target="_blank">
            Open
          </a>
          <Button kind="strong" aria-expanded={open === 'join'} onClick={() => toggle('join')}>
            Let a screen join
          </Button>
          <Button
            kind="ghost"
            onClick={() => void desk.edit(removePanelEdit(panel, show.records))}
            aria-label={`Remove ${name}`}
          >
            Remove
          </Button>
        </span>
      </div>
      {wrong && (
        <p role="alert" className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
          {wrong}
        </p>
      )}
      {open === 'pages' && (
        <PanelPagesField pages={pages} own={own} onChange={(to) => change({ pages: [...to] }, 'Pages')} />
      )}
      {open === 'settings' && <PanelSettings panel={panel.data} onChange={change} />}
      {open === 'gear' && bindings.length > 0 && <GearBindings show={show} bindings={bindings} />}
      {open === 'hidden' && (
        <HiddenControls
          pages={own.length === 0 ? pages : pages.filter(({ id }) => own.includes(id))}
          show={show}
          hidden={hidden}
          onChange={(to) => change({ hidden: [...to] }, 'Hidden controls')}
        />
      )}
      {open === 'join' && <JoinPart panel={panel.id} rights="That screen then has the rights of this panel only." />}
    </li>
  );
}
