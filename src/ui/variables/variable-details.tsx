'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import type { Scalar } from '../../core/result';
import { longestVariableText, ownId, variableCommand, type VariableData, type VariableRecord } from '../../core/show';
import { changeVariableEdit, removeVariableEdit } from '../../core/variables';
import { useDesk } from '../desk';
import { Button, Checkbox, Confirm, Fold, NoteField, Select, TextField } from '../kit';
import { useLive, useMarks } from '../live';
import { OutcomeMark } from '../page';
import { ShapeFields } from './shape-fields';

interface Props {
  readonly variable: VariableRecord;
  readonly typeTitle: string;
  /** What it is worth now, in words. */
  readonly value: string;
  readonly onClose: () => void;
}

/** One variable: what it is worth now, how it counts, and what it is called. */
export function VariableDetails({ variable, typeTitle, value, onClose }: Props) {
  const desk = useDesk();
  const live = useLive();
  const mark = useMarks().get(ownId);
  const [isRemoving, setRemoving] = useState(false);
  const { data } = variable;
  const save = (what: string, to: VariableData) => void desk.edit(changeVariableEdit(variable, to, what));
  const tell = (verb: Parameters<typeof variableCommand>[0], params: Record<string, Scalar> = {}) =>
    live.tryCommand(ownId, variableCommand(verb, data.key), params, { gesture: 'tap' });
  return (
    <article
      className="flex h-full min-h-0 flex-col gap-2.5 overflow-y-auto px-4 pt-3 pb-20 [&>*]:shrink-0"
      aria-labelledby={`${variable.id}-name`}
    >
      <header className="grid gap-2 pb-3">
        <div className="flex items-center gap-2">
          <h2 id={`${variable.id}-name`} className="min-w-0 truncate text-[17px] font-semibold">
            {data.name}
          </h2>
          <span className="text-ink-soft">{typeTitle}</span>
          <Button kind="ghost" className="ml-auto" aria-label="Close details" onClick={onClose}>
            <X aria-hidden className="size-4" />
          </Button>
        </div>
        <SetNow data={data} value={value} tell={tell} />
        {mark && mark.outcome !== 'confirmed' && <OutcomeMark mark={mark} />}
        {mark?.reason !== undefined && mark.outcome !== 'confirmed' && <p className="text-[14px]">{mark.reason}</p>}
      </header>
      <Fold name="Name and use">
        <TextField
          label="Name"
          value={data.name}
          maxLength={40}
          onCommit={(name) => name.trim() !== '' && save('Name', { ...data, name: name.trim() })}
        />
        <p className="text-[14px] text-ink-soft">
          In labels and conditions it is <code className="font-mono">SHOW.variable.{data.key}</code>. Its commands are
          under SHOW, where commands are picked. This short name does not change when the variable is renamed.
        </p>
        <NoteField value={data.note} onCommit={(note) => save('Note', { ...data, note })} />
      </Fold>
      <Fold name="Values">
        <ShapeFields value={data.value} onValue={(to, what) => save(what, { ...data, value: to })} />
        <Checkbox
          label="Reset when the program starts"
          checked={data.resets === true}
          onChange={(on) => {
            const { resets: _, ...rest } = data;
            save('Start', on ? { ...rest, resets: true } : rest);
          }}
        />
      </Fold>
      <div className="pt-3">
        <Button onClick={() => setRemoving(true)}>Remove variable …</Button>
      </div>
      <Confirm
        title={`Remove variable ${data.name}?`}
        act="Remove variable"
        open={isRemoving}
        onOpenChange={setRemoving}
        onAct={() => {
          onClose();
          void desk.edit(removeVariableEdit(variable));
        }}
      >
        Labels, conditions and commands that use SHOW.variable.{data.key} will say that it is missing.
      </Confirm>
    </article>
  );
}

interface SetProps {
  readonly data: VariableData;
  readonly value: string;
  readonly tell: (verb: Parameters<typeof variableCommand>[0], params?: Record<string, Scalar>) => void;
}

/** What it is worth now, and the ways to change that by hand. */
function SetNow({ data, value, tell }: SetProps) {
  const shape = data.value;
  return (
    <div className="flex flex-wrap items-end gap-2" role="group" aria-label="Value now">
      <span className="mr-2 text-[20px]">{value}</span>
      {shape.type === 'number' && (
        <>
          <Button aria-label="One step down" onClick={() => tell('step', { by: -1 })}>
            −
          </Button>
          <Button aria-label="One step up" onClick={() => tell('step', { by: 1 })}>
            +
          </Button>
        </>
      )}
      {shape.type === 'onOff' && <Button onClick={() => tell('switch')}>Switch</Button>}
      {shape.type === 'choice' && (
        <Select
          label="Set to"
          labelAt="before"
          value={undefined}
          placeholder="Choose"
          options={shape.choices.map((choice) => ({ value: choice, title: choice }))}
          onChoose={(choice) => tell('set', { value: choice })}
        />
      )}
      {shape.type === 'text' && (
        <TextField
          label="Set to"
          labelAt="before"
          value=""
          maxLength={longestVariableText}
          onCommit={(text) => tell('set', { value: text })}
        />
      )}
      <Button onClick={() => tell('reset')}>Reset</Button>
    </div>
  );
}
