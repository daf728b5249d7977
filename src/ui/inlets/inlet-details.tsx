'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import { changeInletEdit, removeInletEdit, requestRows, speechWords } from '../../core/inlet';
import type { InletData, InletRecord, ShowRecord } from '../../core/show';
import { useDesk } from '../desk';
import {
  Button,
  Checkbox,
  ChipsInput,
  Confirm,
  Fold,
  NumberField,
  Select,
  Switch,
  tableClass,
  TextField,
} from '../kit';
import { VeiledText } from '../parts';
import { CallerFields } from './caller-fields';
import { LearnedList } from './learned-list';
import { LevelFields } from './level-fields';
import { MqttFields } from './mqtt-fields';
import type { InletNow } from './use-inlet-states';

interface Props {
  readonly records: readonly ShowRecord[];
  readonly inlet: InletRecord;
  readonly now: InletNow;
  readonly onClose: () => void;
}

/** One inlet: whether it is on, where it listens, who may speak, and what came in last. */
export function InletDetails({ records, inlet, now, onClose }: Props) {
  const desk = useDesk();
  const [isRemoving, setRemoving] = useState(false);
  const { data } = inlet;
  const isLevels = data.speaks === 'sacn' || data.speaks === 'umd';
  const put = (what: string, to: InletData) => void desk.edit(changeInletEdit(inlet, to, what));
  const save = (what: string, to: Partial<InletData>) => put(what, { ...data, ...to });
  return (
    <article
      className="flex h-full min-h-0 flex-col gap-2.5 overflow-y-auto px-4 pt-3 pb-20 [&>*]:shrink-0"
      aria-labelledby={`${inlet.id}-name`}
    >
      <header className="grid gap-2 pb-3">
        <div className="flex items-center gap-2">
          <h2 id={`${inlet.id}-name`} className="min-w-0 truncate text-[17px] font-semibold">
            {data.name}
          </h2>
          <Button kind="ghost" className="ml-auto" aria-label="Close details" onClick={onClose}>
            <X aria-hidden className="size-4" />
          </Button>
        </div>
        <Switch
          label={data.on ? 'Switched on' : 'Switched off'}
          checked={data.on}
          onChange={(on) => save(on ? 'Switching on' : 'Switching off', { on })}
        />
        {(now.state === 'failed' || now.state === 'locked out') && (
          <p className="border-l-4 border-warning pl-2">{now.why}</p>
        )}
        <LastMessage now={now} />
      </header>
      <Fold name="Where it listens">
        <TextField
          label="Name"
          value={data.name}
          maxLength={40}
          onCommit={(name) => name.trim() !== '' && save('Name', { name: name.trim() })}
        />
        <div className="grid grid-cols-2 gap-3">
          {(data.speaks === 'text' || data.speaks === 'osc') && (
            <Select
              label="Over"
              value={data.over}
              options={[
                { value: 'tcp', title: 'TCP' },
                { value: 'udp', title: 'UDP' },
              ]}
              onChoose={(over) => save('Transport', { over })}
            />
          )}
          {!data.broker && (
            <NumberField
              label="Port"
              min={1}
              max={65_535}
              value={data.port}
              onCommit={(port) => save('Port', { port: Math.round(port) })}
            />
          )}
        </div>
        {isLevels && <LevelFields data={data} onData={save} />}
        {data.speaks === 'mqtt' && <MqttFields inlet={inlet} onData={put} />}
        {!data.broker && <Reach data={data} onReach={(to) => save('Reach', to)} />}
        {(data.speaks === 'http' || (data.speaks === 'mqtt' && !data.broker)) && (
          <CallerFields data={data} onData={save} />
        )}
        {!isLevels && (
          <>
            <Checkbox
              label="Only allow reading and firing watches"
              checked={data.readsOnly === true}
              onChange={(on) => {
                const { readsOnly: _, ...rest } = data;
                void desk.edit(changeInletEdit(inlet, on ? { ...rest, readsOnly: true } : rest, 'Rights'));
              }}
            />
            <Checkbox
              label="Skip the confirmation of guarded controls"
              checked={data.confirms === true}
              disabled={data.readsOnly === true}
              onChange={(on) => {
                const { confirms: _, ...rest } = data;
                void desk.edit(changeInletEdit(inlet, on ? { ...rest, confirms: true } : rest, 'Rights'));
              }}
            />
          </>
        )}
      </Fold>
      <LearnedList records={records} inlet={inlet} />
      <Fold name={isLevels ? 'What comes in' : 'Requests'}>
        <Requests data={data} isLevels={isLevels} />
      </Fold>
      <div className="pt-3">
        <Button onClick={() => setRemoving(true)}>Remove inlet …</Button>
      </div>
      <Confirm
        title={`Remove inlet ${data.name}?`}
        act="Remove inlet"
        open={isRemoving}
        onOpenChange={setRemoving}
        onAct={() => {
          onClose();
          void desk.edit(removeInletEdit(inlet));
        }}
      >
        Messages to {data.broker ? `the broker at ${data.broker.host}` : `port ${data.port}`} will no longer be
        received. Watches that listen to this inlet will say that it is missing.
      </Confirm>
    </article>
  );
}

/** What came in last, from where, and what came of it. */
function LastMessage({ now }: { readonly now: InletNow }) {
  return (
    <div className="grid gap-0.5 text-[14px]" aria-live="off">
      <p className="text-ink-soft">
        {now.heard} heard, {now.refused} refused
        {now.from !== '' && (
          <>
            {' '}
            · last from <VeiledText text={now.from} />
          </>
        )}
      </p>
      {now.last !== '' && <p className="font-mono text-[13px] break-all">{now.last}</p>}
      {now.came !== '' && <p className="font-mono text-[13px] break-all text-ink-soft">{now.came}</p>}
    </div>
  );
}

interface ReachProps {
  readonly data: InletData;
  readonly onReach: (to: Pick<InletData, 'host' | 'from'>) => void;
}

/** Whether other computers can reach it, and which of them it listens to. */
function Reach({ data: { host, from }, onReach }: ReachProps) {
  const isOwn = host === '127.0.0.1';
  const [isOpening, setOpening] = useState(false);
  const put = (list: readonly string[]) => {
    const fitting = list.filter((each) => /^[0-9A-Fa-f.:]{2,45}(\/\d{1,3})?$/.test(each));
    setOpening(false);
    onReach(fitting.length === 0 ? { host: '127.0.0.1', from: [] } : { host: isOwn ? '0.0.0.0' : host, from: fitting });
  };
  return (
    <>
      <Checkbox
        label="Other computers can reach it"
        checked={!isOwn || isOpening}
        onChange={(on) => (on ? setOpening(true) : put([]))}
      />
      {(!isOwn || isOpening) && (
        <ChipsInput
          label="From these addresses or networks"
          help="Such as 10.0.4.17 or 10.0.4.0/24. Messages from elsewhere are ignored."
          placeholder="10.0.4.0/24"
          most={20}
          values={from}
          onChange={put}
        />
      )}
    </>
  );
}

/** Every request with what it takes, as it is typed here. */
function Requests({ data, isLevels }: { readonly data: InletData; readonly isLevels: boolean }) {
  const { heading, answers } = speechWords[data.speaks];
  const rows = requestRows(data);
  return (
    <>
      <table className={tableClass}>
        <thead>
          <tr>
            <th scope="col">{heading}</th>
            <th scope="col">What it does</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ typed, does }) => (
            <tr key={typed}>
              <td className="font-mono text-[13px]">{typed}</td>
              <td>{does}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-[14px] text-ink-soft">
        {answers}
        {isLevels ? '' : ' Anything else fires the watches that wait for it.'}
      </p>
    </>
  );
}
