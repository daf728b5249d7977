'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { MacroProblem } from '../../core/check';
import { calledBy, copyMacroEdit, removeMacroEdit, valuesOf } from '../../core/macro';
import type { Scalar } from '../../core/result';
import type { DeskView, MacroData, MacroRecord } from '../../core/show';
import { useDesk } from '../desk';
import { useLive, useMarks, useRuns, useStatus } from '../live';
import { Button, newId } from '../parts';
import { CommitInput } from '../kit';

interface Props {
  readonly macro: MacroRecord;
  readonly show: DeskView;
  readonly problems: readonly MacroProblem[];
  readonly onChange: (to: (data: MacroData) => MacroData, what: string) => void;
}

/** The name, what can be begun and stopped, and what has to be mended first. */
export function MacroHead({ macro, show, problems, onChange }: Props) {
  const desk = useDesk();
  const live = useLive();
  const router = useRouter();
  const status = useStatus();
  const [given, setGiven] = useState<Readonly<Record<string, Scalar>>>({});
  const mark = useMarks().get(macro.id);
  const own = Object.entries(useRuns() ?? {}).filter(([, run]) => run.macro === macro.id);
  const hasWayOut = macro.data.segments.some(({ part }) => part === 'way out');
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
  return (
    <header className="macro-head">
      <CommitInput
        aria-label="Name of the macro"
        className="macro-name"
        value={macro.data.name}
        maxLength={60}
        onCommit={(name) => name.trim() !== '' && onChange((data) => ({ ...data, name: name.trim() }), 'Name')}
      />
      <div className="form-acts">
        {macro.data.params.map(({ name, title, value }) => (
          <label key={name} className="macro-given">
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
        <Button kind="strong" disabled={status?.aim === 'dry'} onClick={() => run('live')}>
          {status?.aim === 'rehearse' ? 'Start in the rehearsal' : 'Start live'}
        </Button>
        <Button onClick={() => run('dry')} title="The timeline plays, nothing is sent">
          Play dry
        </Button>
        {own.length > 0 && <Button onClick={() => own.forEach(([id]) => live.endRun(id, 'stop'))}>Stop now</Button>}
        {own.length > 0 && hasWayOut && (
          <Button onClick={() => own.forEach(([id]) => live.endRun(id, 'way out'))}>Take the way out</Button>
        )}
        <Button onClick={() => void desk.undo()}>Undo</Button>
        <Button onClick={() => void desk.redo()}>Redo</Button>
        <Button onClick={() => void desk.edit(copyMacroEdit(show.records, macro, newId))}>Copy the macro</Button>
        {removing ? (
          <span className="macro-removing" role="alert">
            {begunBy === 1 ? '1 control or macro begins' : `${begunBy} controls or macros begin`} it, and would begin
            nothing then.
            <Button onClick={remove}>Remove anyway</Button>
            <Button onClick={() => setRemoving(false)}>Keep it</Button>
          </span>
        ) : (
          <Button onClick={() => (begunBy > 0 ? setRemoving(true) : remove())}>Remove</Button>
        )}
      </div>
      {mark?.reason && (
        <p role="status" className="macro-said">
          {mark.outcome}: {mark.reason}
        </p>
      )}
      {problems.length > 0 && (
        <ul className="macro-problems" aria-label="To be mended">
          {problems.slice(0, 8).map(({ message, step }, n) => (
            <li key={`${n} ${message}`}>
              ✕ {message}
              {step !== undefined && <span className="muted"> (marked below)</span>}
            </li>
          ))}
          {problems.length > 8 && <li className="muted">and {problems.length - 8} more</li>}
        </ul>
      )}
    </header>
  );
}
