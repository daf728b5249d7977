'use client';

import { useState } from 'react';
import { changeInletEdit, usualBase, usualPublished } from '../../core/inlet';
import { topicFilter, type InletData, type InletRecord } from '../../core/show';
import { useDesk, useShow } from '../desk';
import { Checkbox, ChipsInput, NumberField, PasswordField, TextField } from '../kit';

interface Props {
  readonly inlet: InletRecord;
  readonly onData: (what: string, to: InletData) => void;
}

const fitting = (values: readonly string[]) => values.filter((each) => topicFilter.test(each));

/** The topics of MQTT, and the broker where it is not the program's own. */
export function MqttFields({ inlet, onData }: Props) {
  const { data } = inlet;
  const { base = usualBase, publishes = usualPublished, broker } = data;
  const [isChoosing, setChoosing] = useState(false);
  const putBroker = (to: Partial<NonNullable<InletData['broker']>>) =>
    onData('Broker', { ...data, broker: { host: '', port: 1883, ...broker, ...to } });
  return (
    <>
      <TextField
        label="Topics begin with"
        help="Letters, digits, _ and -, with / between levels. Requests go to the level “do” below it."
        isMono
        value={base}
        maxLength={120}
        onCommit={(text) => /^[A-Za-z0-9_/-]+$/.test(text) && onData('Topics', { ...data, base: text })}
      />
      <ChipsInput
        label="Publishes"
        help="Lamps and readings, as SW1/program or SW1/input/+/name. + stands for one level, # for all that follow. Without any, lamps only."
        placeholder="SW1/program"
        most={50}
        values={publishes}
        onChange={(list) => {
          const { publishes: _, ...rest } = data;
          const kept = fitting(list);
          onData('Publishing', kept.length === 0 ? rest : { ...rest, publishes: kept });
        }}
      />
      <Checkbox
        label="Use a broker on another computer"
        checked={broker !== undefined || isChoosing}
        onChange={(on) => {
          setChoosing(on);
          const { broker: _, ...rest } = data;
          if (!on && broker) onData('Broker', rest);
        }}
      />
      {(broker ?? (isChoosing || undefined)) && (
        <>
          <div className="grid grid-cols-2 gap-3">
            <TextField
              label="Address of the broker"
              isMono
              value={broker?.host ?? ''}
              maxLength={200}
              onCommit={(host) => host.trim() !== '' && putBroker({ host: host.trim() })}
            />
            <NumberField
              label="Port of the broker"
              min={1}
              max={65_535}
              value={broker?.port ?? 1883}
              disabled={!broker}
              onCommit={(port) => putBroker({ port: Math.round(port) })}
            />
          </div>
          {broker && <BrokerFields inlet={inlet} broker={broker} onData={onData} />}
        </>
      )}
    </>
  );
}

interface BrokerProps extends Props {
  readonly broker: NonNullable<InletData['broker']>;
}

/** How it signs in, and what else it listens to. */
function BrokerFields({ inlet, broker, onData }: BrokerProps) {
  const { show } = useShow();
  const desk = useDesk();
  const [password, setPassword] = useState<string>();
  const { data } = inlet;
  const put = (to: NonNullable<InletData['broker']>) => onData('Broker', { ...data, broker: to });
  const keep = async () => {
    if (password === undefined) return;
    // An edit that changes nothing carries the password.
    if (await desk.edit(changeInletEdit(inlet, data, 'Password'), { [inlet.id]: password })) setPassword(undefined);
  };
  return (
    <>
      <Checkbox
        label="Encrypted (TLS)"
        checked={broker.secure === true}
        onChange={(on) => {
          const { secure: _, ...rest } = broker;
          put(on ? { ...rest, secure: true } : rest);
        }}
      />
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label="User name"
          value={broker.user ?? ''}
          maxLength={100}
          autoComplete="off"
          onCommit={(user) => {
            const { user: _, ...rest } = broker;
            put(user === '' ? rest : { ...rest, user });
          }}
        />
        <PasswordField
          label="Password"
          value={password}
          hasPassword={show?.withPassword.includes(inlet.id) === true}
          onChange={setPassword}
          onBlur={() => void keep()}
        />
      </div>
      <ChipsInput
        label="Also listens to these topics"
        help="For watches and for learning: what other devices publish, such as club/horn or score/#."
        placeholder="score/#"
        most={50}
        values={broker.topics ?? []}
        onChange={(list) => {
          const { topics: _, ...rest } = broker;
          const kept = fitting(list);
          put(kept.length === 0 ? rest : { ...rest, topics: kept });
        }}
      />
    </>
  );
}
