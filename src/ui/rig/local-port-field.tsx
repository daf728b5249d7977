'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { LocalPortInfo } from '../../core/diagnosis';
import { cleanAddress, isMidiPort, isSerialPort, midiPlace, midiPortName } from '../../core/net';
import { Button, Field } from '../kit';

interface Props {
  readonly kind: 'serial' | 'midi';
  readonly value: string;
  readonly onChange: (place: string) => void;
  readonly onEnter: () => void;
}

/** What differs between the ports of a computer. A device’s address holds the place; people see the name. */
const kinds = {
  serial: {
    label: 'Serial port',
    path: '/api/serial-ports',
    isPlace: isSerialPort,
    nameOf: (place: string) => place,
    placeOf: (name: string) => name,
    wrong: 'A serial port is called /dev/ttyUSB0 or the like; on Windows, COM3.',
    none: 'No serial ports found. Plug in an adapter.',
    failed: 'The serial ports could not be listed.',
  },
  midi: {
    label: 'MIDI port',
    path: '/api/midi-ports',
    isPlace: isMidiPort,
    nameOf: (place: string) => (isMidiPort(place) ? midiPortName(place) : place),
    placeOf: (name: string) => (name.trim() === '' ? '' : midiPlace(name)),
    wrong: 'Type the name of the MIDI port as the system shows it.',
    none: 'No MIDI ports found. Switch the device on and plug it in.',
    failed: 'The MIDI ports could not be listed.',
  },
} as const;

/** The port of a device on the engine’s computer: one of those that it has, or one that is typed. */
export function LocalPortField({ kind, value, onChange, onEnter }: Props) {
  const [left, setLeft] = useState(false);
  const { label, isPlace, nameOf, placeOf, wrong, none } = kinds[kind];
  const { data: ports, error, refetch, isFetching } = usePorts(kind);
  const clean = () => {
    setLeft(true);
    const understood = cleanAddress(value);
    if (isPlace(value.trim()) && understood.ok && understood.value.host !== value) onChange(understood.value.host);
  };
  return (
    <div className="col-span-full grid content-start gap-1.5">
      <Field label={label} error={left && value !== '' && !isPlace(value) ? wrong : undefined}>
        {(ids) => (
          <input
            {...ids}
            value={nameOf(value)}
            maxLength={220}
            spellCheck={false}
            data-veil
            className="font-mono text-[0.93em]"
            onChange={(e) => {
              setLeft(false);
              onChange(placeOf(e.target.value));
            }}
            onBlur={clean}
            onKeyDown={(e) => {
              if (e.key !== 'Enter') return;
              e.preventDefault();
              clean();
              if (isPlace(value)) onEnter();
            }}
          />
        )}
      </Field>
      <div className="flex flex-wrap items-center gap-2 text-[13px] text-ink-soft">
        {(ports ?? [])
          .filter(({ path }) => path !== value)
          .map(({ path, title }) => (
            <Button key={path} onClick={() => onChange(path)}>{`Use ${title}`}</Button>
          ))}
        {error && `${error.message} `}
        {ports?.length === 0 && none}
        <Button disabled={isFetching} onClick={() => void refetch()}>
          Look again
        </Button>
      </div>
    </div>
  );
}

function usePorts(kind: Props['kind']) {
  const { path, failed } = kinds[kind];
  return useQuery({
    queryKey: ['ports of the computer', kind],
    staleTime: 5000,
    queryFn: async (): Promise<readonly LocalPortInfo[]> => {
      const response = await fetch(path);
      if (!response.ok) throw new Error(failed);
      return (await response.json()) as readonly LocalPortInfo[];
    },
  });
}
