'use client';

import { useMemo } from 'react';
import { readingEntries, readingId } from '../../core/pick';
import type { ReadingRef } from '../../core/show';
import { Picker } from '../kit';
import { useReadingChoices } from './use-reading-choices';

interface Props {
  readonly label: string;
  readonly chosen: ReadingRef | undefined;
  /** The text of the empty field, and of the row that clears it. */
  readonly none?: string;
  readonly onPick: (reading: ReadingRef) => void;
  readonly onNone?: () => void;
}

/** One of all readings of the rig, with what each says now. */
export function ReadingPicker({ label, chosen, none = 'Choose a reading', onPick, onNone }: Props) {
  const choices = useReadingChoices();
  const entries = useMemo(() => readingEntries(choices, chosen), [choices, chosen]);
  const byId = useMemo(() => new Map(entries.map((entry) => [entry.id, entry])), [entries]);
  const id = chosen && readingId(chosen.device, chosen.key);
  const now = id === undefined ? undefined : byId.get(id);
  return (
    <Picker
      label={label}
      entries={entries}
      memory="readings"
      value={id}
      invalid={chosen && !now}
      shown={
        !chosen ? (
          <span className="text-ink-soft">{none}</span>
        ) : now ? (
          <>
            <span className="font-mono text-[0.93em] font-semibold">{now.tag}</span> {now.title}
          </>
        ) : (
          `“${chosen.key}”, which no longer exists`
        )
      }
      aside={(entry) => byId.get(entry.id)?.now ?? 'not known'}
      onPick={({ device, key }) => onPick({ device: device.id, key })}
      onNone={onNone && { title: none, pick: onNone }}
    />
  );
}
