'use client';

import {
  addSend,
  moveSend,
  paramNow,
  removeSend,
  replaceSend,
  sendsOf,
  setHeld,
  setParam,
  setWait,
  type ResponseGesture,
} from '../../core/page';
import { isHeld, type ControlRecord, type SendSpec } from '../../core/show';
import { Button } from '../parts';
import { CommitInput } from './commit-input';
import { useFacts } from './facts';
import { ParamField } from './param-field';
import { useVerbs } from './verbs';

interface Props {
  readonly control: ControlRecord;
  readonly name: string;
}

/** What a control sends: one command or several, to one device or several, with waits between. */
export function ResponseFields({ control, name }: Props) {
  const verbs = useVerbs();
  const { documentOf } = useFacts();
  const held = isHeld(control.data);
  const gesture: ResponseGesture = held ? 'held' : 'tap';
  const sends = sendsOf(control.data, gesture);
  const other = sendsOf(control.data, held ? 'tap' : 'held').length;
  const what = `Response of ${name}`;
  return (
    <section className="form-part" aria-label="Response">
      <div className="form-part-head">
        <h3>Response</h3>
        {sends.length > 0 && (
          <select
            aria-label="When it sends"
            value={gesture}
            onChange={(event) => verbs.change(control, (data) => setHeld(data, event.target.value === 'held'), what)}
          >
            <option value="tap">when tapped</option>
            <option value="held">while held</option>
          </select>
        )}
      </div>
      {sends.map((send, index) => (
        <SendFields
          key={`${index} ${send.device} ${send.command}`}
          control={control}
          send={send}
          index={index}
          count={sends.length}
          gesture={gesture}
          what={what}
        />
      ))}
      <CommandSelect
        label={sends.length === 0 ? 'It sends' : 'And also'}
        value=""
        none={sends.length === 0 ? 'nothing' : 'add a command …'}
        onChoose={(device, command) => {
          const document = documentOf(device);
          if (document) verbs.change(control, (data) => addSend(data, gesture, document, device, command), what);
        }}
      />
      {other > 0 && (
        <p className="muted form-help">
          It also sends {other} when {held ? 'tapped' : 'held'}, which stay as they are.
        </p>
      )}
    </section>
  );
}

interface SendProps {
  readonly control: ControlRecord;
  readonly send: SendSpec;
  readonly index: number;
  readonly count: number;
  readonly gesture: ResponseGesture;
  readonly what: string;
}

function SendFields({ control, send, index, count, gesture, what }: SendProps) {
  const verbs = useVerbs();
  const { documentOf, readings } = useFacts();
  const document = documentOf(send.device);
  const command = document?.commands[send.command];
  const change = (to: (data: ControlRecord['data']) => ControlRecord['data']) => verbs.change(control, to, what);
  return (
    <div className="send-fields">
      {index > 0 && (
        <label className="send-wait">
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
      <CommandSelect
        label={count > 1 ? `Command ${index + 1}` : 'It sends'}
        value={`${send.device} ${send.command}`}
        none="nothing"
        onChoose={(device, id) => {
          const to = documentOf(device);
          if (to) change((data) => replaceSend(data, gesture, index, to, device, id));
        }}
        onNone={() => change((data) => removeSend(data, gesture, index))}
      />
      {command &&
        Object.entries(command.params).map(([id, param]) => (
          <ParamField
            key={id}
            param={param}
            value={paramNow(control.data, send, id)}
            readings={readings.get(send.device)}
            family={param.listFrom ? document?.readings[param.listFrom] : undefined}
            commits
            onChange={(value) => change((data) => setParam(data, gesture, index, id, value, document))}
          />
        ))}
      {count > 1 && (
        <div className="form-acts">
          <Button disabled={index === 0} onClick={() => change((data) => moveSend(data, gesture, index, -1))}>
            Earlier
          </Button>
          <Button disabled={index === count - 1} onClick={() => change((data) => moveSend(data, gesture, index, 1))}>
            Later
          </Button>
          <Button onClick={() => change((data) => removeSend(data, gesture, index))}>Take out</Button>
        </div>
      )}
    </div>
  );
}

interface CommandSelectProps {
  readonly label: string;
  readonly value: string;
  readonly none: string;
  readonly onChoose: (device: string, command: string) => void;
  readonly onNone?: () => void;
}

/** One of all commands of the rig, device by device. */
function CommandSelect({ label, value, none, onChoose, onNone }: CommandSelectProps) {
  const { devices, documentOf } = useFacts();
  const [device = '', command = ''] = value.split(' ');
  const known = value === '' || documentOf(device)?.commands[command] !== undefined;
  return (
    <label>
      {label}
      <select
        value={value}
        onChange={(event) => {
          const [to = '', id = ''] = event.target.value.split(' ');
          if (to === '') onNone?.();
          else onChoose(to, id);
        }}
      >
        <option value="">{none}</option>
        {!known && <option value={value}>{command}, which is not there any more</option>}
        {devices.map(({ id, data }) => (
          <optgroup key={id} label={`${data.tag} ${data.name}`}>
            {Object.entries(documentOf(id)?.commands ?? {}).map(([name, { title }]) => (
              <option key={name} value={`${id} ${name}`}>
                {data.tag}: {title}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
    </label>
  );
}
