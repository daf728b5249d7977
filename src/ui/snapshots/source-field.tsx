'use client';

import { memberKey } from '../../core/driver';
import { NumberField, Select } from '../kit';
import type { SnapshotFacts } from './use-snapshot-facts';

interface SourceProps {
  readonly label: string;
  readonly facts: SnapshotFacts;
  readonly device: string;
  readonly keep: string;
  readonly value: number | undefined;
  readonly onChoose: (to: number) => void;
}

/** A source of a device by its name, where it lists them. */
export function SourceField({ label, facts, device, keep, value, onChoose }: SourceProps) {
  const document = facts.documentOf(device);
  const names = document?.layouts[document.keeps[keep]?.layout ?? '']?.names;
  const index = names === undefined ? undefined : document?.readings[names]?.index;
  if (names === undefined || !index || typeof index.to !== 'number')
    return (
      <NumberField
        label={label}
        value={value}
        min={0}
        max={9999}
        className="w-32"
        onCommit={(to) => onChoose(Math.round(to))}
      />
    );
  const all = Array.from({ length: index.to - index.from + 1 }, (_, n) => index.from + n);
  // One that the device does not have stays to be seen.
  const numbers = value === undefined || all.includes(value) ? all : [value, ...all];
  return (
    <Select
      label={label}
      value={value === undefined ? undefined : String(value)}
      options={numbers.map((number) => ({
        value: String(number),
        title: `${number} ${String(facts.readingNow(device, memberKey(names, number))?.value ?? '')}`.trim(),
      }))}
      onChoose={(to) => onChoose(Number(to))}
    />
  );
}
