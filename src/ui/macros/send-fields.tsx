'use client';

import type { MacroArgument, MacroRecord, MacroSend } from '../../core/show';
import type { Scalar } from '../../core/result';
import { CommandSelect, ParamField, useRigFacts } from '../editor';
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
    <div className="send-fields">
      <CommandSelect
        label={label}
        value={`${send.device} ${send.command}`}
        none="choose …"
        onChoose={(device, id) => {
          const to = documentOf(device);
          if (to) onSend(newSend(to, device, id));
        }}
      />
      {Object.entries(command?.params ?? {}).map(([name, param]) => {
        const argument = send.params[name];
        const own = typeof argument === 'object' ? undefined : argument;
        return (
          <div key={name} className="send-param">
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

interface SourceProps {
  readonly title: string;
  readonly argument: MacroArgument | undefined;
  readonly macro: MacroRecord;
  readonly usual: Scalar;
  readonly onArgument: (to: MacroArgument) => void;
}

/** Where a parameter's value comes from. */
function SourceField({ title, argument, macro, usual, onArgument }: SourceProps) {
  const { devices, documentOf } = useRigFacts();
  const now =
    typeof argument !== 'object'
      ? ''
      : 'value' in argument
        ? `value ${argument.value}`
        : `reading ${argument.reading.device} ${argument.reading.key}`;
  return (
    <label className="muted">
      {now === '' ? 'taken from' : `${title} is`}
      <select
        value={now}
        onChange={(event) => {
          const [kind, a = '', b = ''] = event.target.value.split(' ');
          if (kind === 'value') onArgument({ value: a });
          else if (kind === 'reading') onArgument({ reading: { device: a, key: b } });
          else onArgument(usual);
        }}
      >
        <option value="">its own value</option>
        {macro.data.params.map((param) => (
          <option key={param.name} value={`value ${param.name}`}>
            the macro’s “{param.title}”
          </option>
        ))}
        {devices.map(({ id, data }) => (
          <optgroup key={id} label={`what ${data.tag} says then`}>
            {Object.entries(documentOf(id)?.readings ?? {})
              .filter(([, { index }]) => !index)
              .map(([key, reading]) => (
                <option key={key} value={`reading ${id} ${key}`}>
                  {data.tag} {reading.title}
                </option>
              ))}
          </optgroup>
        ))}
      </select>
    </label>
  );
}
