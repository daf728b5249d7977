'use client';

import { readingTitle } from '../../core/driver';
import { readingEntries, readingId, readingText, type ReadingEntry } from '../../core/pick';
import type { ReadingRef } from '../../core/show';
import { Picker } from '../kit';
import { useReadingChoices } from './use-reading-choices';

interface Props {
  readonly label: string;
  readonly chosen: ReadingRef | undefined;
  /** The text of the empty field, and of the row that clears it. */
  readonly none?: string;
  /** Which readings are offered; all when absent. */
  readonly only?: (entry: ReadingEntry) => boolean;
  readonly onPick: (reading: ReadingRef) => void;
  readonly onNone?: () => void;
}

/** One of all readings of the rig, with what each says now. */
export function ReadingPicker({ label, chosen, none = 'Choose a reading', only, onPick, onNone }: Props) {
  const choices = useReadingChoices();
  const device = chosen && choices.devices.find(({ id }) => id === chosen.device);
  const title = device && readingTitle(choices.documentOf(device.id), chosen.key);
  return (
    <Picker
      label={label}
      entries={() => readingEntries(choices, chosen).filter(only ?? (() => true))}
      memory="readings"
      value={chosen && readingId(chosen.device, chosen.key)}
      invalid={chosen && title === undefined}
      shown={
        !chosen ? (
          <span className="text-ink-soft">{none}</span>
        ) : title !== undefined ? (
          <>
            <span className="font-mono text-[0.93em] font-semibold">{device?.data.tag}</span> {title}
          </>
        ) : (
          `“${chosen.key}”, which no longer exists`
        )
      }
      aside={({ device, key }) => readingText(choices, device.id, key) ?? 'not known'}
      onPick={({ device, key }) => onPick({ device: device.id, key })}
      onNone={onNone && { title: none, pick: onNone }}
    />
  );
}
