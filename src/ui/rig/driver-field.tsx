'use client';

import { useMemo } from 'react';
import type { DriverDocument } from '../../core/driver';
import { driverEntries } from '../../core/pick';
import { Picker } from '../kit';

interface Props {
  readonly drivers: readonly DriverDocument[];
  readonly value: string;
  readonly onChoose: (id: string) => void;
}

/** The driver, found by any word: what it is, what it does, how it is spoken to. */
export function DriverField({ drivers, value, onChoose }: Props) {
  const entries = useMemo(() => driverEntries(drivers), [drivers]);
  const chosen = entries.find(({ id }) => id === value);
  return (
    <Picker
      label="Driver"
      className="col-span-full max-w-xl"
      entries={() => entries}
      memory="drivers"
      value={value}
      invalid={value !== '' && !chosen}
      shown={
        chosen?.title ?? (
          <span className="text-ink-soft">{value === '' ? 'Choose a driver' : `${value}, which is not installed`}</span>
        )
      }
      placeholder="Role, protocol or function"
      aside={({ link }) => link}
      onPick={({ id }) => onChoose(id)}
    />
  );
}
