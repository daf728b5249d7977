'use client';

import { useState } from 'react';
import { indexesOf, memberKey, type DriverDocument } from '../../core/driver';
import { dealDisplaysEdit, displayEdit, inputNames, type DeskView, type DeviceRecord } from '../../core/show';
import { useDesk } from '../desk';
import { useReadings } from '../live';

import { Button, Select } from '../kit';

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
  if (!switcher) return <p>There is no switcher in the rig whose inputs could be shown.</p>;
  const nameOf = (input: number) => String(names?.[memberKey(inputNames, input)]?.value ?? '');
  return (
    <section
      className="pt-2 pb-3.5 [&_header]:flex [&_header]:flex-wrap [&_header]:items-center [&_header]:gap-x-5 [&_header]:gap-y-1.5"
      aria-label={`Displays of ${device.data.tag}`}
    >
      <header>
        <h3 className="mt-3 mb-1 text-ink-soft">{driver.displays?.title}: what each shows</h3>
        <p className="text-ink-soft">
          Each is told the name and the tally of an input. Nothing comes back: look at the multiviewer itself.
        </p>
        {switchers.length > 1 && (
          <Select
            label="Switcher"
            labelAt="before"
            value={switcher.record.id}
            options={switchers.map(({ record }) => ({
              value: record.id,
              title: `${record.data.tag} ${record.data.name}`,
            }))}
            onChoose={setChosen}
          />
        )}
        <Button onClick={() => void desk.edit(dealDisplaysEdit(device, switcher.record.id, switcher.inputs))}>
          All inputs of {switcher.record.data.tag} in order
        </Button>
      </header>
      <ul className="my-2.5 grid grid-cols-[repeat(auto-fill,minmax(min(100%,400px),1fr))] gap-x-7 [&_input]:min-w-0 [&_li]:grid [&_li]:grid-cols-[24px_minmax(0,1fr)_minmax(0,150px)] [&_li]:items-center [&_li]:gap-2 [&_li]:border-b [&_li]:border-rule [&_li]:px-0 [&_li]:py-1">
        {numbers.map((number) => {
          const now = displays.find((each) => each.number === number);
          const show = (shows: Parameters<typeof displayEdit>[2]) => void desk.edit(displayEdit(device, number, shows));
          const owner = now && switchers.find(({ record }) => record.id === now.switcher);
          return (
            <li key={number}>
              <span className="font-mono text-[0.93em]">{number}</span>
              <Select
                label={`Display ${number} shows`}
                labelAt="hidden"
                value={now ? `${now.switcher} ${now.input}` : ''}
                options={[
                  { value: '', title: 'nothing of the rig' },
                  ...(now && owner?.record.id !== switcher.record.id
                    ? [
                        {
                          value: `${now.switcher} ${now.input}`,
                          title: owner
                            ? `${owner.record.data.tag} ${now.input}`
                            : `input ${now.input} of a device that no longer exists`,
                        },
                      ]
                    : []),
                  ...switcher.inputs.map((input) => ({
                    value: `${switcher.record.id} ${input}`,
                    title: `${switcher.record.data.tag} ${input} ${nameOf(input)}`,
                  })),
                ]}
                onChoose={(value) => {
                  const [device = '', input] = value.split(' ');
                  show(device === '' ? undefined : { ...now, switcher: device, input: Number(input) });
                }}
              />
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
