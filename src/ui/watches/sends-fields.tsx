'use client';

import { X } from 'lucide-react';
import { askedParams } from '../../core/driver';
import { startOf, type SendSpec } from '../../core/show';
import { ArgumentField, CommandPicker, useRigFacts } from '../fields';
import { Button, NumberField } from '../kit';

interface Props {
  readonly sends: readonly SendSpec[];
  /** What the first one is called while there is none. */
  readonly label: string;
  readonly onSends: (to: readonly SendSpec[]) => void;
}

/** Commands one after another, each with a delay after the one before it. */
export function SendsFields({ sends, label, onSends }: Props) {
  const { documentOf } = useRigFacts();
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
              onSends(
                sends.map((each, at) =>
                  at === n ? { ...to, ...(each.waitMs === undefined ? {} : { waitMs: each.waitMs }) } : each,
                ),
              );
          }}
          onSend={(to) => onSends(sends.map((each, at) => (at === n ? to : each)))}
          onRemove={() => onSends(sends.filter((_, at) => at !== n))}
        />
      ))}
      <CommandPicker
        label={sends.length === 0 ? label : 'And also'}
        none={sends.length === 0 ? 'Choose a command' : 'Add a command'}
        onPick={(device, command, values) => {
          const to = made(device, command, values);
          if (to) onSends([...sends, to]);
        }}
      />
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
        <ArgumentField
          key={name}
          param={param}
          argument={send.params[name]}
          value={literals[name]}
          values={{}}
          readings={readings.get(send.device)}
          family={param.listFrom ? document?.readings[param.listFrom] : undefined}
          onValue={(value) => {
            const { [name]: _, ...others } = send.params;
            onSend({ ...send, params: value === undefined ? others : { ...others, [name]: value } });
          }}
          onArgument={(to) => onSend({ ...send, params: { ...send.params, [name]: to } })}
        />
      ))}
    </div>
  );
}
