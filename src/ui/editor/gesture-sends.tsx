'use client';

import {
  addSend,
  moveSend,
  paramNow,
  removeSend,
  replaceSend,
  sendsOf,
  setParam,
  setWait,
  withSendParam,
  type ResponseGesture,
} from '../../core/page';
import { askedParams } from '../../core/driver';
import type { ControlRecord, SendSpec } from '../../core/show';

import { Button, CommitInput } from '../kit';
import { ArgumentField, CommandPicker } from '../fields';
import { useFacts } from './facts';
import { useVerbs } from './verbs';

interface Props {
  readonly control: ControlRecord;
  readonly gesture: ResponseGesture;
  readonly what: string;
  /** What its first command is called. */
  readonly title: string;
}

/** What one gesture sends: one command or several, to one device or several, with waits between. */
export function GestureSends({ control, gesture, what, title }: Props) {
  const verbs = useVerbs();
  const { documentOf } = useFacts();
  const sends = sendsOf(control.data, gesture);
  return (
    <>
      {sends.map((send, index) => (
        <SendFields
          key={`${index} ${send.device} ${send.command}`}
          control={control}
          send={send}
          index={index}
          count={sends.length}
          gesture={gesture}
          what={what}
          title={title}
        />
      ))}
      <CommandPicker
        label={sends.length === 0 ? title : 'And also'}
        none={sends.length === 0 ? 'nothing' : 'Add a command'}
        onPick={(device, command, values) => {
          const document = documentOf(device);
          if (document)
            verbs.change(control, (data) => addSend(data, gesture, document, device, command, values), what);
        }}
      />
    </>
  );
}

interface SendProps {
  readonly control: ControlRecord;
  readonly send: SendSpec;
  readonly index: number;
  readonly count: number;
  readonly gesture: ResponseGesture;
  readonly what: string;
  readonly title: string;
}

function SendFields({ control, send, index, count, gesture, what, title }: SendProps) {
  const verbs = useVerbs();
  const { documentOf, readings } = useFacts();
  const document = documentOf(send.device);
  const command = document?.commands[send.command];
  const change = (to: (data: ControlRecord['data']) => ControlRecord['data']) => verbs.change(control, to, what);
  const valuesNow = Object.fromEntries(
    Object.keys(command?.params ?? {}).map((id) => [id, paramNow(control.data, send, id)]),
  );
  return (
    <div className="flex flex-col gap-2 border-l-3 border-rule pl-2.5">
      {index > 0 && (
        <label className="flex-row items-center gap-2 [&_input]:w-24">
          after
          <CommitInput
            type="number"
            min={0}
            max={60_000}
            step={10}
            value={String(send.waitMs ?? 0)}
            onCommit={(text) => change((data) => setWait(data, gesture, index, Number(text) || 0))}
          />
          ms
        </label>
      )}
      <CommandPicker
        label={count > 1 ? `Command ${index + 1}` : title}
        chosen={{ device: send.device, command: send.command, values: valuesNow }}
        none="nothing"
        onPick={(device, id, values) => {
          const to = documentOf(device);
          if (to) change((data) => replaceSend(data, gesture, index, to, device, id, values));
        }}
        onNone={() => change((data) => removeSend(data, gesture, index))}
      />
      {command &&
        askedParams(command).map(([id, param]) => (
          <ArgumentField
            key={id}
            param={param}
            argument={send.params[id]}
            value={paramNow(control.data, send, id)}
            values={control.data.values}
            readings={readings.get(send.device)}
            family={param.listFrom ? document?.readings[param.listFrom] : undefined}
            onValue={(value) => change((data) => setParam(data, gesture, index, id, value, document))}
            onArgument={(to) => change((data) => withSendParam(data, gesture, index, id, to))}
          />
        ))}
      {count > 1 && (
        <div className="col-span-full flex flex-wrap gap-2.5">
          <Button disabled={index === 0} onClick={() => change((data) => moveSend(data, gesture, index, -1))}>
            Earlier
          </Button>
          <Button disabled={index === count - 1} onClick={() => change((data) => moveSend(data, gesture, index, 1))}>
            Later
          </Button>
          <Button onClick={() => change((data) => removeSend(data, gesture, index))}>Remove command</Button>
        </div>
      )}
    </div>
  );
}
