'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { SerialPortInfo } from '../../core/diagnosis';
import { cleanAddress, isSerialPort } from '../../core/net';
import { Button, Field } from '../kit';

interface Props {
  readonly value: string;
  readonly onChange: (path: string) => void;
  readonly onEnter: () => void;
}

/** The serial port of a device: one of those that the engine's computer has, or one that is typed. */
export function SerialPortField({ value, onChange, onEnter }: Props) {
  const [left, setLeft] = useState(false);
  const { data: ports, error, refetch, isFetching } = useSerialPorts();
  const wrong =
    left && value !== '' && !isSerialPort(value)
      ? 'A serial port is called /dev/ttyUSB0 or the like; on Windows, COM3.'
      : undefined;
  const clean = () => {
    setLeft(true);
    const understood = cleanAddress(value);
    if (isSerialPort(value.trim()) && understood.ok && understood.value.host !== value) onChange(understood.value.host);
  };
  return (
    <div className="col-span-full grid content-start gap-1.5">
      <Field label="Serial port" error={wrong}>
        {(ids) => (
          <input
            {...ids}
            value={value}
            maxLength={220}
            spellCheck={false}
            data-veil
            className="font-mono text-[0.93em]"
            onChange={(e) => {
              setLeft(false);
              onChange(e.target.value);
            }}
            onBlur={clean}
            onKeyDown={(e) => {
              if (e.key !== 'Enter') return;
              e.preventDefault();
              clean();
              if (isSerialPort(value)) onEnter();
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
        {ports?.length === 0 && 'No serial ports found. Plug in an adapter.'}
        <Button disabled={isFetching} onClick={() => void refetch()}>
          Look again
        </Button>
      </div>
    </div>
  );
}

function useSerialPorts() {
  return useQuery({
    queryKey: ['serial ports'],
    staleTime: 5000,
    queryFn: async (): Promise<readonly SerialPortInfo[]> => {
      const response = await fetch('/api/serial-ports');
      if (!response.ok) throw new Error('The serial ports could not be listed.');
      return (await response.json()) as readonly SerialPortInfo[];
    },
  });
}
