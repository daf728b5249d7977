'use client';

import { X } from 'lucide-react';
import { askedParams } from '../../core/driver';
import { macrosOf } from '../../core/macro';
import {
  nameOfRecord,
  startOf,
  type ControlRecord,
  type DeskView,
  type SendSpec,
  type WatchData,
} from '../../core/show';
import { CommandPicker, ParamField, useRigFacts } from '../fields';
import { Button, NumberField, Select } from '../kit';

interface Props {
  readonly show: DeskView;
  readonly data: WatchData;
  readonly onData: (what: string, to: WatchData) => void;
}

/** What a watch does: commands one after another, a macro, the press of a control. */
export function ThenFields({ show, data, onData }: Props) {
  const { documentOf } = useRigFacts();
  const { sends } = data;
  const put = (to: readonly SendSpec[], what = 'Commands') => onData(what, { ...data, sends: [...to] });
  const made = (device: string, command: string, values: Readonly<Record<string, string | number | boolean>>) => {
    const document = documentOf(device);
    return document && { device, command, params: { ...startOf(document, device, command, values).values } };
  };
  return (
    <>
      {sends.map((send, n) => (
        <SendFields
          key={`${n} ${send.device} ${send.command}`}
          send={send}
          n={n}
          onPick={(device, command, values) => {
            const to = made(device, command, values);
            if (to)
              put(
                sends.map((each, at) =>
                  at === n ? { ...to, ...(each.waitMs === undefined ? {} : { waitMs: each.waitMs }) } : each,
                ),
              );
          }}
          onSend={(to) => put(sends.map((each, at) => (at === n ? to : each)))}
          onRemove={() => put(sends.filter((_, at) => at !== n))}
        />
      ))}
      <CommandPicker
        label={sends.length === 0 ? 'Send' : 'And also'}
        none={sends.length === 0 ? 'Choose a command' : 'Add a command'}
        onPick={(device, command, values) => {
          const to = made(device, command, values);
          if (to) put([...sends, to]);
        }}
      />
      <MacroField show={show} data={data} onData={onData} />
      <PressField show={show} data={data} onData={onData} />
    </>
  );
}

interface SendProps {
  readonly send: SendSpec;
  readonly n: number;
  readonly onPick: (
    device: string,
    command: string,
    values: Readonly<Record<string, string | number | boolean>>,
  ) => void;
  readonly onSend: (to: SendSpec) => void;
  readonly onRemove: () => void;
}

function SendFields({ send, n, onPick, onSend, onRemove }: SendProps) {
  const { documentOf, readings } = useRigFacts();
  const document = documentOf(send.device);
  const command = document?.commands[send.command];
  const literals = Object.fromEntries(
    Object.entries(send.params).map(([name, value]) => [name, typeof value === 'object' ? undefined : value]),
  );
  return (
    <div className="flex flex-col gap-2 border-l-3 border-rule pl-2.5" role="group" aria-label={`Command ${n + 1}`}>
      {n > 0 && (
        <NumberField
          label="After"
          labelAt="before"
          unit="ms"
          min={0}
          max={60_000}
          value={send.waitMs ?? 0}
          onCommit={(ms) => onSend({ ...send, waitMs: Math.round(ms) })}
        />
      )}
      <div className="flex items-end gap-1.5 [&>*:first-child]:min-w-0 [&>*:first-child]:flex-1">
        <CommandPicker
          label={`Command ${n + 1}`}
          chosen={{ device: send.device, command: send.command, values: literals }}
          none="Choose a command"
          onPick={onPick}
        />
        <Button aria-label={`Remove command ${n + 1}`} onClick={onRemove}>
          <X size={16} aria-hidden />
        </Button>
      </div>
      {askedParams(command).map(([name, param]) => (
        <ParamField
          key={name}
          param={param}
          value={literals[name]}
          readings={readings.get(send.device)}
          family={param.listFrom ? document?.readings[param.listFrom] : undefined}
          commits
          onChange={(value) => {
            const { [name]: _, ...others } = send.params;
            onSend({ ...send, params: value === undefined ? others : { ...others, [name]: value } });
          }}
        />
      ))}
    </div>
  );
}

function MacroField({ show, data, onData }: Props) {
  const macros = macrosOf(show.records);
  const { runs } = data;
  const macro = macros.find(({ id }) => id === runs?.macro);
  const choose = (id: string) => {
    const { runs: _, ...rest } = data;
    onData('Macro', id === '' ? rest : { ...rest, runs: { macro: id, params: {} } });
  };
  return (
    <>
      <Select
        label="Start the macro"
        value={runs?.macro ?? ''}
        placeholder="a macro that no longer exists"
        options={[{ value: '', title: 'none' }, ...macros.map((each) => ({ value: each.id, title: each.data.name }))]}
        onChoose={choose}
      />
      {runs &&
        macro?.data.params.map(({ name, title, value }) => (
          <ParamField
            key={name}
            param={{
              title,
              value:
                typeof value === 'number'
                  ? { type: 'decimal', decimals: 3 }
                  : typeof value === 'boolean'
                    ? { type: 'onOff', on: 'on', off: 'off' }
                    : { type: 'text', maxLength: 200 },
              sends: 'value',
              optional: true,
            }}
            value={literal(runs.params[name]) ?? value}
            commits
            onChange={(to) => {
              const { [name]: _, ...others } = runs.params;
              onData('Macro', {
                ...data,
                runs: { ...runs, params: to === undefined ? others : { ...others, [name]: to } },
              });
            }}
          />
        ))}
    </>
  );
}

const literal = (argument: SendSpec['params'][string] | undefined) =>
  typeof argument === 'object' ? undefined : argument;

function PressField({ show, data, onData }: Props) {
  const pages = new Map(show.records.flatMap((each) => (each.kind === 'page' ? [[each.id, each.data.name]] : [])));
  const controls = show.records.filter(
    (each): each is ControlRecord => each.kind === 'control' && each.data.type === 'button',
  );
  return (
    <Select
      label="Press the control"
      value={data.presses ?? ''}
      placeholder="a control that no longer exists"
      options={[
        { value: '', title: 'none' },
        ...controls.map((each) => ({
          value: each.id,
          title: nameOfRecord(each),
          group: pages.get(each.data.page) ?? '?',
        })),
      ]}
      onChoose={(id) => {
        const { presses: _, ...rest } = data;
        onData('Pressed control', id === '' ? rest : { ...rest, presses: id });
      }}
    />
  );
}
