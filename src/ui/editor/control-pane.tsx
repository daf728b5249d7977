'use client';

import { useState, type FormEvent } from 'react';
import { splitKey, type DriverDocument } from '../../core/driver';
import { formatLabel, parseLabel } from '../../core/face';
import type { ReadingsView } from '../../core/live';
import type { Scalar } from '../../core/result';
import {
  changeControlEdit,
  formOf,
  isHeld,
  meaningWords,
  withForm,
  type ControlForm,
  type ControlRecord,
  type DeskView,
  type Meaning,
} from '../../core/show';
import { driverOfDevice, useDesk } from '../desk';
import { Button } from '../parts';
import { ParamField } from './param-field';

interface Props {
  readonly control: ControlRecord;
  readonly show: DeskView;
  readonly readings: ReadonlyMap<string, ReadingsView>;
  readonly name: string;
  readonly onRemove: () => void;
}

/** The simple form of a button: label, what a tap sends, and its lamp. */
export function ControlPane({ control, show, readings, name, onRemove }: Props) {
  const desk = useDesk();
  const devices = show.records.filter((record) => record.kind === 'device');
  const [typed, setTyped] = useState(() =>
    formatLabel(control.data.label, (id) => devices.find((device) => device.id === id)?.data.tag),
  );
  const [form, setForm] = useState<ControlForm>(() => formOf(control));
  const [error, setError] = useState('');
  // What somebody else has changed is shown at once, but never over what is being typed here.
  const [seen, setSeen] = useState(control);
  const [typing, setTyping] = useState(false);
  if (control !== seen) {
    setSeen(control);
    if (!typing) {
      setTyped(formatLabel(control.data.label, (id) => devices.find((device) => device.id === id)?.data.tag));
      setForm(formOf(control));
    }
  }
  const driver = driverOfDevice(show, form.device);
  const command = driver?.commands[form.command];
  const lampReading = form.lamp && driver?.readings[splitKey(form.lamp.key).family];
  const { tap, held = [] } = control.data.responses;
  const further = (isHeld(control.data) ? held : tap).length - 1;

  const save = (event: FormEvent) => {
    event.preventDefault();
    const label = parseLabel(typed, (tag) => devices.find((device) => device.data.tag === tag)?.id);
    if (!label.ok) return setError(`Label, character ${label.error.offset + 1}: ${label.error.message}`);
    setError('');
    setTyping(false);
    void desk.edit(changeControlEdit(control, withForm(control, form, label.value), `Change ${name}`));
  };
  const setParam = (param: string, value: Scalar | undefined) => {
    const before = form.params[param];
    // A lamp that was about the same input goes with it.
    const lamp = form.lamp && value !== undefined && form.lamp.to === before ? { ...form.lamp, to: value } : form.lamp;
    const { [param]: _, ...others } = form.params;
    setForm({ ...form, params: value === undefined ? others : { ...others, [param]: value }, lamp });
  };
  const setLamp = (show: string) => {
    if (show === '') return setForm({ ...form, lamp: null });
    const [first = ''] = Object.keys(driver?.readings ?? {}).filter((key) => !key.includes('[]'));
    const lamp = form.lamp ?? { key: first, to: Object.values(form.params)[0] ?? true };
    setForm({ ...form, lamp: { ...lamp, show: show as Meaning } });
  };

  return (
    <form onSubmit={save} onChange={() => setTyping(true)} className="form">
      <h2>{name || 'Button'}</h2>
      <label>
        Label
        <input
          value={typed}
          maxLength={200}
          onChange={(e) => setTyped(e.target.value)}
          aria-describedby="label-help"
          spellCheck={false}
        />
      </label>
      <p id="label-help" className="muted form-help">
        Readings stand in braces: {'{SW1.program}'}. $input is this button’s own input.
      </p>
      <label>
        {isHeld(control.data) ? 'While held' : 'A tap sends'}
        <select
          value={form.command ? `${form.device} ${form.command}` : ''}
          onChange={(e) => {
            const [device = '', id = ''] = e.target.value.split(' ');
            setForm({
              ...form,
              device: device || form.device,
              command: id,
              params: id === form.command ? form.params : {},
            });
          }}
        >
          <option value="">nothing</option>
          {devices.map((device) => {
            const own = driverOfDevice(show, device.id);
            return Object.entries(own?.commands ?? {}).map(([id, each]) => (
              <option key={`${device.id} ${id}`} value={`${device.id} ${id}`}>
                {device.data.tag}: {each.title}
              </option>
            ));
          })}
        </select>
      </label>
      {command &&
        Object.entries(command.params).map(([id, param]) => (
          <ParamField
            key={`${form.command} ${id}`}
            param={param}
            value={form.params[id]}
            readings={readings.get(form.device)}
            family={param.listFrom ? driver?.readings[param.listFrom] : undefined}
            onChange={(value) => setParam(id, value)}
          />
        ))}
      {further > 0 && <p className="muted">It sends {further} more, which stay as they are.</p>}
      <label>
        Lamp
        <select value={form.lamp?.show ?? ''} onChange={(e) => setLamp(e.target.value)}>
          <option value="">none</option>
          {Object.entries(meaningWords).map(([meaning, word]) => (
            <option key={meaning} value={meaning}>
              {word.toLowerCase()}
            </option>
          ))}
        </select>
      </label>
      {form.lamp && driver && (
        <div className="form-pair">
          <label>
            when
            <select
              value={form.lamp.key}
              onChange={(e) => form.lamp && setForm({ ...form, lamp: { ...form.lamp, key: e.target.value } })}
            >
              {lampChoices(driver, readings.get(form.device), form.lamp.key).map(({ key, title }) => (
                <option key={key} value={key}>
                  {title}
                </option>
              ))}
            </select>
          </label>
          {lampReading && (
            <ParamField
              key={form.lamp.key}
              param={{ title: 'is', value: lampReading.value, sends: 'index', optional: false }}
              value={form.lamp.to}
              readings={readings.get(form.device)}
              onChange={(to) => form.lamp && to !== undefined && setForm({ ...form, lamp: { ...form.lamp, to } })}
            />
          )}
        </div>
      )}
      {error && (
        <p role="alert" className="form-error">
          {error}
        </p>
      )}
      <div className="form-acts">
        <Button type="submit" kind="strong">
          Save
        </Button>
        <Button onClick={onRemove}>Remove</Button>
      </div>
    </form>
  );
}

/** The readings that a lamp can be about: the single ones, and of each family the members that the device has reported. */
function lampChoices(
  driver: DriverDocument,
  readings: ReadingsView | undefined,
  chosen: string,
): readonly { readonly key: string; readonly title: string }[] {
  const single = Object.entries(driver.readings).filter(([key]) => !key.includes('[]'));
  const members = new Set(Object.keys(readings ?? {}).filter((key) => key.includes('[')));
  if (chosen.includes('[')) members.add(chosen);
  return [
    ...single.map(([key, { title }]) => ({ key, title })),
    ...[...members]
      .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }))
      .flatMap((key) => {
        const { family, index } = splitKey(key);
        const title = driver.readings[family]?.title;
        return title === undefined ? [] : [{ key, title: `${title} ${index ?? key}` }];
      }),
  ];
}
