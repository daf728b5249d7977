'use client';

import { askedParams } from '../../core/driver';
import type { MacroArgument, MacroRecord, MacroSend } from '../../core/show';
import type { Scalar } from '../../core/result';
import { CommandPicker, ParamField, ReadingPicker, useRigFacts } from '../fields';
import { Select } from '../kit';
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
  const set = (name: string, to: MacroArgument | undefined) => {
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
        const own = typeof argument === 'object' ? undefined : argument;
        return (
          <div key={name} className="flex flex-col gap-1">
            {typeof argument !== 'object' && (
              <ParamField
                param={param}
                value={own}
                readings={readings.get(send.device)}
                family={param.listFrom ? document?.readings[param.listFrom] : undefined}
                commits
                onChange={(value) => set(name, value)}
              />
            )}
            <SourceField
              title={param.title}
              argument={argument}
              macro={macro}
              usual={param.default ?? 1}
              onArgument={(to) => set(name, to)}
            />
          </div>
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

interface SourceProps {
  readonly title: string;
  readonly argument: MacroArgument | undefined;
  readonly macro: MacroRecord;
  readonly usual: Scalar;
  readonly onArgument: (to: MacroArgument) => void;
}

/** Where a parameter's value comes from. */
function SourceField({ title, argument, macro, usual, onArgument }: SourceProps) {
  const { readable, documentOf } = useRigFacts();
  const reading = typeof argument === 'object' && 'reading' in argument ? argument.reading : undefined;
  const now = typeof argument !== 'object' ? '' : 'value' in argument ? `value ${argument.value}` : 'reading';
  const firstReading = () => {
    for (const { id } of readable) {
      const key = Object.entries(documentOf(id)?.readings ?? {}).find(([, { index }]) => !index)?.[0];
      if (key !== undefined) return { device: id, key };
    }
    return undefined;
  };
  return (
    <>
      <Select
        label={now === '' ? 'Taken from' : `${title} is`}
        value={now}
        options={[
          { value: '', title: 'its own value' },
          ...macro.data.params.map((param) => ({
            value: `value ${param.name}`,
            title: `the macro’s “${param.title}”`,
          })),
          { value: 'reading', title: 'a reading at that moment' },
        ]}
        onChoose={(source) => {
          const [kind, name = ''] = source.split(' ');
          const first = kind === 'reading' ? firstReading() : undefined;
          if (kind === 'value') onArgument({ value: name });
          else onArgument(first ? { reading: first } : usual);
        }}
      />
      {reading && (
        <ReadingPicker label="The reading" chosen={reading} onPick={(picked) => onArgument({ reading: picked })} />
      )}
    </>
  );
}
