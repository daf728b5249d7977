'use client';

import { useState } from 'react';
import { indexesOf, memberKey, type DriverDocument } from '../../core/driver';
import { dealDisplaysEdit, displayEdit, type DeskView, type DeviceRecord } from '../../core/show';
import { inputNames } from '../../core/tally';
import { useDesk } from '../desk';
import { useReadings } from '../live';
import { Button } from '../parts';

interface Props {
  readonly show: DeskView;
  readonly device: DeviceRecord;
  readonly driver: DriverDocument;
}

/** What each display of a multiviewer shows: an input of a switcher, whose name and tally it is then told. */
export function DisplaysPane({ show, device, driver }: Props) {
  const desk = useDesk();
  const switchers = show.records.flatMap((record) => {
    if (record.kind !== 'device') return [];
    const range = show.drivers.find(({ id }) => id === record.data.driver)?.readings[inputNames]?.index;
    return range ? [{ record, inputs: indexesOf(range, record.data.options) }] : [];
  });
  const [chosen, setChosen] = useState<string>();
  const switcher = switchers.find(({ record }) => record.id === chosen) ?? switchers[0];
  const names = useReadings(switcher?.record.id ?? device.id);
  const displays = device.data.displays ?? [];
  const [more, setMore] = useState(0);
  const last = Math.max(0, ...displays.map(({ number }) => number));
  const numbers = [...new Set([...displays.map(({ number }) => number), ...upTo(Math.max(4, last + 1) + more)])].sort(
    (a, b) => a - b,
  );
  if (!switcher) return <p className="device-advice">There is no switcher in the rig whose inputs could be shown.</p>;
  const nameOf = (input: number) => String(names?.[memberKey(inputNames, input)]?.value ?? '');
  return (
    <section className="displays" aria-label={`Displays of ${device.data.tag}`}>
      <header>
        <h3 className="device-sub">{driver.displays?.title}: what each shows</h3>
        <p className="muted">
          Each is told the name and the tally of an input. Nothing comes back: look at the multiviewer itself.
        </p>
        {switchers.length > 1 && (
          <label>
            Switcher{' '}
            <select value={switcher.record.id} onChange={(event) => setChosen(event.target.value)}>
              {switchers.map(({ record }) => (
                <option key={record.id} value={record.id}>
                  {record.data.tag} {record.data.name}
                </option>
              ))}
            </select>
          </label>
        )}
        <Button onClick={() => void desk.edit(dealDisplaysEdit(device, switcher.record.id, switcher.inputs))}>
          All inputs of {switcher.record.data.tag} in order
        </Button>
      </header>
      <ul className="displays-list">
        {numbers.map((number) => {
          const now = displays.find((each) => each.number === number);
          const show = (shows: Parameters<typeof displayEdit>[2]) => void desk.edit(displayEdit(device, number, shows));
          const owner = now && switchers.find(({ record }) => record.id === now.switcher);
          return (
            <li key={number}>
              <label>
                <span className="mono">{number}</span>
                <select
                  aria-label={`Display ${number} shows`}
                  value={now ? `${now.switcher} ${now.input}` : ''}
                  onChange={(event) => {
                    const [device = '', input] = event.target.value.split(' ');
                    show(device === '' ? undefined : { ...now, switcher: device, input: Number(input) });
                  }}
                >
                  <option value="">nothing of the rig</option>
                  {now && owner?.record.id !== switcher.record.id && (
                    <option value={`${now.switcher} ${now.input}`}>
                      {owner ? `${owner.record.data.tag} ${now.input}` : `input ${now.input} of a device that is gone`}
                    </option>
                  )}
                  {switcher.inputs.map((input) => (
                    <option key={input} value={`${switcher.record.id} ${input}`}>
                      {switcher.record.data.tag} {input} {nameOf(input)}
                    </option>
                  ))}
                </select>
              </label>
              <input
                aria-label={`Name on display ${number}`}
                key={now?.name ?? ''}
                defaultValue={now?.name ?? ''}
                placeholder={now ? nameOf(now.input) || 'its own name' : ''}
                disabled={!now}
                maxLength={40}
                onBlur={(event) => {
                  const name = event.target.value.trim();
                  if (!now || name === (now.name ?? '')) return;
                  const { switcher, input } = now;
                  show({ switcher, input, ...(name === '' ? {} : { name }) });
                }}
              />
            </li>
          );
        })}
      </ul>
      <Button kind="ghost" onClick={() => setMore(more + 8)}>
        More displays
      </Button>
    </section>
  );
}

const upTo = (most: number): number[] => Array.from({ length: most }, (_, n) => n + 1);
