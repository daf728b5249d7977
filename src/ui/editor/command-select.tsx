'use client';

import { useRigFacts } from './facts';

interface CommandSelectProps {
  readonly label: string;
  readonly value: string;
  readonly none: string;
  readonly onChoose: (device: string, command: string) => void;
  readonly onNone?: () => void;
}

/** One of all commands of the rig, device by device. */
export function CommandSelect({ label, value, none, onChoose, onNone }: CommandSelectProps) {
  const { devices, documentOf } = useRigFacts();
  const [device = '', command = ''] = value.split(' ');
  const known = value === '' || documentOf(device)?.commands[command] !== undefined;
  return (
    <label>
      {label}
      <select
        value={value}
        onChange={(event) => {
          const [to = '', id = ''] = event.target.value.split(' ');
          if (to === '') onNone?.();
          else onChoose(to, id);
        }}
      >
        <option value="">{none}</option>
        {!known && <option value={value}>{command}, which is not there any more</option>}
        {devices.map(({ id, data }) => (
          <optgroup key={id} label={`${data.tag} ${data.name}`}>
            {Object.entries(documentOf(id)?.commands ?? {}).map(([name, { title }]) => (
              <option key={name} value={`${id} ${name}`}>
                {data.tag}: {title}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
    </label>
  );
}
