'use client';

import { useMemo, useState } from 'react';
import { inletsOf, newInletEdit } from '../../core/inlet';
import type { InletData, InletRecord } from '../../core/show';
import { useDesk, useShow } from '../desk';
import { Button, EmptyState, Menu, SplitPanes } from '../kit';
import { AutomationRooms, newId } from '../parts';
import { InletDetails } from './inlet-details';
import { useInletStates, type InletNow } from './use-inlet-states';

/** The ways in for other systems, and one of them with who may use it and what came in last. */
export function InletsScreen() {
  const { show } = useShow();
  const desk = useDesk();
  const [inlet, setInlet] = useState<string>();
  const inlets = useMemo(() => inletsOf(show?.records ?? []), [show]);
  const chosen = inlets.find(({ id }) => id === inlet);
  const stateOf = useInletStates();
  const add = async (speaks: InletData['speaks']) => {
    if (!show) return;
    const edit = newInletEdit(show.records, newId, speaks);
    const [change] = edit.changes;
    if ((await desk.edit(edit)) && change?.op === 'add') setInlet(change.record.id);
  };
  return (
    <section className="flex h-full min-h-0 flex-col" aria-labelledby="inlets-title">
      <header className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-rule px-4 py-2">
        <AutomationRooms here="inlets" id="inlets-title" />
        <span className="ml-auto">
          <Menu
            acts={[
              { title: 'Lines of text', run: () => void add('text') },
              { title: 'Open Sound Control', run: () => void add('osc') },
              { title: 'HTTP', run: () => void add('http') },
              { title: 'MQTT', run: () => void add('mqtt') },
              { title: 'Levels of sACN', run: () => void add('sacn') },
              { title: 'UMD tally', run: () => void add('umd') },
            ]}
          >
            <Button kind="strong" disabled={!show}>
              Add inlet
            </Button>
          </Menu>
        </span>
      </header>
      {!show && <p className="px-4 py-6 text-ink-soft">Fetching the show …</p>}
      {show && inlets.length === 0 && (
        <div className="px-4">
          <EmptyState title="No inlets yet.">
            <p>
              Through an inlet other programs and boxes press controls, start macros, set variables, fire watches and
              read what devices report: with lines of text over TCP or UDP, with Open Sound Control, with HTTP, or with
              MQTT. Levels of sACN and the tally of another system become readings. A new inlet is off, and for this
              computer only.
            </p>
          </EmptyState>
        </div>
      )}
      {show && inlets.length > 0 && (
        <SplitPanes
          name="inlets"
          sideSize="46%"
          main={
            <ul className="h-full min-h-0 overflow-y-auto px-4 pb-16">
              {inlets.map((each, n) => (
                <Row key={each.id} inlet={each} now={stateOf(n)} isChosen={each.id === chosen?.id} onOpen={setInlet} />
              ))}
            </ul>
          }
          side={
            chosen && (
              <InletDetails
                key={chosen.id}
                records={show.records}
                inlet={chosen}
                now={stateOf(inlets.indexOf(chosen))}
                onClose={() => setInlet(undefined)}
              />
            )
          }
        />
      )}
    </section>
  );
}

interface RowProps {
  readonly inlet: InletRecord;
  readonly now: InletNow;
  readonly isChosen: boolean;
  readonly onOpen: (id: string) => void;
}

const kindWords = { text: 'Text', osc: 'OSC', http: 'HTTP', mqtt: 'MQTT', sacn: 'sACN', umd: 'UMD' } as const;
const placeText = ({ speaks, over, port, broker }: InletData): string =>
  broker
    ? `${kindWords[speaks]} over the broker at ${broker.host}`
    : `${kindWords[speaks]} over ${over.toUpperCase()}, port ${port}`;
const stateWords: Readonly<Record<string, string>> = {
  off: 'Off',
  listening: 'Listening',
  failed: 'Cannot listen',
  'locked out': 'Sign-in refused',
};

const Row = ({ inlet: { id, data }, now, isChosen, onOpen }: RowProps) => (
  <li
    data-chosen={isChosen || undefined}
    className="border-b border-l-3 border-rule border-l-transparent data-chosen:border-l-accent data-chosen:bg-tape"
  >
    <button
      type="button"
      className="grid min-h-13 w-full grid-cols-[minmax(0,1fr)_128px_minmax(0,1fr)] items-center gap-3 px-2 text-left hover:underline"
      aria-current={isChosen || undefined}
      onClick={() => onOpen(id)}
    >
      <span className="grid">
        <span className="truncate font-semibold">{data.name}</span>
        <span className="truncate text-[13px] text-ink-soft">{placeText(data)}</span>
      </span>
      <span
        className={
          now.state === 'failed' || now.state === 'locked out'
            ? 'border-l-4 border-warning pl-2 font-semibold'
            : 'pl-3 text-[14px] text-ink-soft'
        }
      >
        {stateWords[now.state] ?? 'Not known'}
      </span>
      <span className="truncate font-mono text-[13px]">{now.last}</span>
    </button>
  </li>
);
