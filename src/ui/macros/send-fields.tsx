'use client';

import { askedParams } from '../../core/driver';
import { valuesOf } from '../../core/macro';
import type { SentArgument, MacroRecord, MacroSend } from '../../core/show';
import type { Scalar } from '../../core/result';
import { ArgumentField, CommandPicker, useRigFacts } from '../fields';
import { newSend } from './add-step';

interface Props {
  readonly label: string;
  readonly send: MacroSend;
  readonly macro: MacroRecord;
  readonly onSend: (send: MacroSend) => void;
}

/** A command with its parameters; each has a value of its own, a parameter of the macro, or what a reading says then. */
export function SendFields({ label, send, macro, onSend }: Props) {
  const { documentOf, readings } = useRigFacts();
  const document = documentOf(send.device);
  const command = document?.commands[send.command];
  const set = (name: string, to: SentArgument | undefined) => {
    const { [name]: _, ...others } = send.params;
    onSend({ ...send, params: to === undefined ? others : { ...others, [name]: to } });
  };
  return (
    <div className="flex flex-col gap-2 border-l-3 border-rule pl-2.5">
      <CommandPicker
        label={label}
        chosen={{ device: send.device, command: send.command, values: ownValues(send) }}
        none="Choose a command"
        onPick={(device, id, values) => {
          const to = documentOf(device);
          if (to) onSend(newSend(to, device, id, values));
        }}
      />
      {askedParams(command).map(([name, param]) => {
        const argument = send.params[name];
        return (
          <ArgumentField
            key={name}
            param={param}
            argument={argument}
            value={typeof argument === 'object' ? undefined : argument}
            values={valuesOf(macro.data, {})}
            offered={macro.data.params}
            readings={readings.get(send.device)}
            family={param.listFrom ? document?.readings[param.listFrom] : undefined}
            onValue={(value) => set(name, value)}
            onArgument={(to) => set(name, to)}
          />
        );
      })}
    </div>
  );
}

/** The values that the step gives itself; what comes from elsewhere is known only when it runs. */
const ownValues = ({ params }: MacroSend): Record<string, Scalar | undefined> =>
  Object.fromEntries(
    Object.entries(params).map(([name, argument]) => [name, typeof argument === 'object' ? undefined : argument]),
  );
