'use client';

import { firstTest, shapeOf, startValue } from '../../core/page';
import { plainButton, type DeskView, type ReadingRef, type WatchWhen } from '../../core/show';
import { hasKeys } from '../../core/watch';
import { ConditionFields } from '../editor';
import { ParamField, ReadingPicker, useRigFacts } from '../fields';
import { Checkbox, NumberField, Segmented } from '../kit';
import { KeyFields } from './key-fields';
import { MessageFields } from './message-fields';
import { ScheduleFields } from './schedule-fields';

interface Props {
  readonly show: DeskView;
  readonly when: WatchWhen;
  readonly onWhen: (to: WatchWhen) => void;
}

const kinds = [
  { value: 'true', title: 'Condition' },
  { value: 'change', title: 'Change' },
  { value: 'key', title: 'Key' },
  { value: 'time', title: 'Time' },
  { value: 'message', title: 'Message' },
] as const;

/** What a watch waits for: a condition that becomes true, a reading that changes, a key that goes on, a message, or a time. */
export function WhenFields({ show, when, onWhen }: Props) {
  const firstReading = useFirstReading(when);
  const { devices, documentOf } = useRigFacts();
  const switcher = devices.find(({ id }) => hasKeys(documentOf(id)));
  const offered = kinds.filter(({ value }) => value !== 'key' || switcher !== undefined || when.is === 'key');
  const choose = (is: WatchWhen['is']) => {
    if (is === when.is) return;
    if (is === 'time') onWhen({ is, schedule: { is: 'daily', time: '12:00' } });
    else if (is === 'change') onWhen({ is, reading: firstReading.reading });
    else if (is === 'message') onWhen({ is, text: 'go' });
    else if (is === 'key') onWhen({ is, switcher: switcher?.id ?? '', key: 1, preRoll: 0 });
    else onWhen({ is, condition: firstReading, forMs: 0 });
  };
  return (
    <>
      <Segmented label="Waits for" options={offered} value={when.is} onChoose={choose} />
      {when.is === 'true' && (
        <>
          <ConditionFields
            condition={when.condition}
            data={plainButton}
            word="when this becomes true"
            onChange={(condition) => onWhen({ ...when, condition })}
          />
          <NumberField
            label="And stays true for"
            unit="ms"
            min={0}
            max={3_600_000}
            value={when.forMs}
            onCommit={(forMs) => onWhen({ ...when, forMs: forMs > 0 && forMs < 100 ? 100 : Math.round(forMs) })}
          />
        </>
      )}
      {when.is === 'change' && <ChangeFields when={when} onWhen={onWhen} />}
      {when.is === 'key' && <KeyFields show={show} when={when} onWhen={onWhen} />}
      {when.is === 'message' && <MessageFields show={show} when={when} onWhen={onWhen} />}
      {when.is === 'time' && <ScheduleFields show={show} when={when} onWhen={onWhen} />}
    </>
  );
}

type Change = Extract<WatchWhen, { is: 'change' }>;

/** A reading, and the value that it has to take where any will not do. */
function ChangeFields({ when, onWhen }: { readonly when: Change; readonly onWhen: (to: WatchWhen) => void }) {
  const { documentOf, readings } = useRigFacts();
  const { reading, to } = when;
  const document = documentOf(reading.device);
  const shape = shapeOf(document, reading.key);
  const pick = (picked: ReadingRef) => onWhen({ is: 'change', reading: picked });
  return (
    <>
      <ReadingPicker label="Reading" chosen={reading} onPick={pick} />
      <Checkbox
        label="Only when it changes to this value"
        checked={to !== undefined}
        onChange={(on) =>
          onWhen({ is: 'change', reading, ...(on ? { to: startValue(document, reading.key, true) } : {}) })
        }
      />
      {to !== undefined && (
        <ParamField
          key={`${reading.device} ${reading.key}`}
          param={{ title: 'This value', value: shape ?? { type: 'text' }, sends: 'index', optional: false }}
          value={to}
          readings={readings.get(reading.device)}
          commits
          onChange={(value) => value !== undefined && onWhen({ ...when, to: value })}
        />
      )}
    </>
  );
}

/** The reading that the watch is about already, as far as it is about one; else the first one of the rig. */
function useFirstReading(when: WatchWhen) {
  const { readable, devices, documentOf, readings } = useRigFacts();
  const known = when.is === 'change' ? when.reading : when.is === 'true' ? oneOf(when.condition) : undefined;
  if (known)
    return { op: 'equals', reading: known, to: startValue(documentOf(known.device), known.key, true) } as const;
  const device = devices[0]?.id ?? 'own';
  return (
    firstTest({ devices: readable, documentOf, readings }, device, plainButton) ??
    ({ op: 'above', reading: { device: 'own', key: 'devicesDown' }, to: 0 } as const)
  );
}

const oneOf = (condition: Extract<WatchWhen, { is: 'true' }>['condition']): ReadingRef | undefined =>
  'op' in condition ? condition.reading : undefined;
