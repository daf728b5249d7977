'use client';

import { Ellipsis, X } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { MacroProblem } from '../../core/check';
import { axisOf, calledBy, copyMacroEdit, removeMacroEdit, valuesOf, type PlannedSegment } from '../../core/macro';
import { macroFileOf, macroFileText } from '../../core/exchange';
import type { Scalar } from '../../core/result';
import type { DeskView, MacroData, MacroRecord } from '../../core/show';
import { useDesk } from '../desk';
import { useLive, useMarks, useStatus } from '../live';
import { durationText, fetchPictures, newId, saveJson } from '../parts';
import { Button, CommitInput, Menu, Segmented } from '../kit';

interface Props {
  readonly macro: MacroRecord;
  readonly show: DeskView;
  readonly problems: readonly MacroProblem[];
  readonly plan: readonly PlannedSegment[];
  readonly rateName: string;
  readonly view: MacroView;
  readonly onView: (view: MacroView) => void;
  /** Shows what holds for the whole macro. */
  readonly onWhole: () => void;
  readonly onChange: (to: (data: MacroData) => MacroData, what: string) => void;
}

export type MacroView = 'timeline' | 'list' | 'runs';
const views = [
  ['timeline', 'Timeline'],
  ['list', 'List'],
  ['runs', 'Runs'],
] as const;

/** With the macros that it begins. */
const saveMacro = async ({ records }: DeskView, macro: MacroRecord): Promise<void> =>
  saveJson(
    `${macro.data.name.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase() || 'macro'}.macros.json`,
    macroFileText(macroFileOf(records, [macro], await fetchPictures(records))),
  );

/** The name, what can be begun and stopped, and what has to be mended first. */
export function MacroHead(props: Props) {
  const { macro, show, problems, plan, rateName, view, onView, onChange, onWhole } = props;
  const desk = useDesk();
  const live = useLive();
  const router = useRouter();
  const status = useStatus();
  const [given, setGiven] = useState<Readonly<Record<string, Scalar>>>({});
  const mark = useMarks().get(macro.id);
  const [removing, setRemoving] = useState(false);
  const begunBy = show.records.filter(
    (each) =>
      (each.kind === 'control' && each.data.responses.runs?.macro === macro.id) ||
      (each.kind === 'macro' && calledBy(each).includes(macro.id)),
  ).length;
  const remove = () => {
    void desk.edit(removeMacroEdit(macro));
    router.push('/macros');
  };
  const run = (aim: 'live' | 'dry') => live.runMacro(macro.id, valuesOf(macro.data, given), aim);
  const { lengthMs } = axisOf(plan, 1);
  const count = macro.data.segments.reduce((sum, { steps }) => sum + steps.length, 0);
  const waits = macro.data.segments.filter(({ waits: each }) => each).length;
  return (
    <header className="grid gap-2">
      <div className="flex flex-wrap items-start gap-x-3 gap-y-2">
        <div className="min-w-0 flex-[1_1_240px]">
          <CommitInput
            aria-label="Name of the macro"
            className="block min-h-0 w-full border border-transparent bg-transparent px-0 text-[20px] font-semibold [font-stretch:88%] hover:border-rule-strong focus:border-rule-strong"
            value={macro.data.name}
            maxLength={60}
            onCommit={(name) => name.trim() !== '' && onChange((data) => ({ ...data, name: name.trim() }), 'Name')}
          />
          <p className="truncate text-[13px] text-ink-soft">
            {durationText(lengthMs)}
            {waits > 0 && ` and ${waits === 1 ? 'a wait' : `${waits} waits`}`} ·{' '}
            {count === 1 ? '1 step' : `${count} steps`} · {rateName} frames a second
          </p>
        </div>
        <Segmented
          label="View"
          value={view}
          options={views.map(([value, title]) => ({ value, title }))}
          onChoose={onView}
        />
        <Button onClick={() => run('dry')} title="The timeline plays, nothing is sent">
          Play dry
        </Button>
        <Button kind="strong" disabled={status?.aim === 'dry'} onClick={() => run('live')}>
          {status?.aim === 'rehearse' ? 'Start in the rehearsal' : 'Start live'}
        </Button>
        <Menu
          acts={[
            { title: 'Settings of the macro', run: onWhole },
            { title: 'Undo', run: () => void desk.undo() },
            { title: 'Redo', run: () => void desk.redo() },
            { title: 'Copy macro', run: () => void desk.edit(copyMacroEdit(show.records, macro, newId)) },
            { title: 'Save as a file', run: () => void saveMacro(show, macro) },
            { title: 'Remove macro', run: () => (begunBy > 0 ? setRemoving(true) : remove()) },
          ]}
        >
          <Button kind="ghost" aria-label="More for this macro">
            <Ellipsis size={18} aria-hidden />
          </Button>
        </Menu>
      </div>
      {macro.data.params.length > 0 && (
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          {macro.data.params.map(({ name, title, value }) => (
            <label key={name} className="flex items-center gap-1.5 [&_input]:w-22.5">
              {title}
              <input
                type={typeof value === 'number' ? 'number' : 'text'}
                step="any"
                value={String(given[name] ?? value)}
                onChange={(event) =>
                  setGiven({
                    ...given,
                    [name]: typeof value === 'number' ? Number(event.target.value) : event.target.value,
                  })
                }
              />
            </label>
          ))}
        </div>
      )}
      {removing && (
        <p className="macro-removing" role="alert">
          {begunBy === 1 ? '1 control or macro starts' : `${begunBy} controls or macros start`} it, and would then start
          nothing. <Button onClick={remove}>Remove anyway</Button>{' '}
          <Button onClick={() => setRemoving(false)}>Cancel</Button>
        </p>
      )}
      {mark?.reason && (
        <p role="status" className="mt-2.5 font-semibold">
          {mark.outcome}: {mark.reason}
        </p>
      )}
      {problems.length > 0 && (
        <ul className="mt-2.5 font-semibold" aria-label="To be mended">
          {problems.slice(0, 8).map(({ message, step }, n) => (
            <li key={`${n} ${message}`}>
              <X size={14} strokeWidth={3} className="inline" aria-hidden /> {message}
              {step !== undefined && <span className="text-ink-soft"> (marked below)</span>}
            </li>
          ))}
          {problems.length > 8 && <li className="text-ink-soft">and {problems.length - 8} more</li>}
        </ul>
      )}
    </header>
  );
}
