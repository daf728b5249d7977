'use client';

import { useState, type FormEvent } from 'react';
import type { Problem } from '../../core/result';
import {
  addCommand,
  addReading,
  endingsFor,
  saysJson,
  takesPayloads,
  withoutAddition,
  type DeviceRecord,
} from '../../core/show';
import { asDriver, optionTexts, ownDriverId, type DriverAdditions, type DriverDocument } from '../../core/driver';
import { toEscaped } from '../../core/wire';
import { useDesk } from '../desk';
import { saveJson } from '../parts';

import { PayloadField } from '../fields';
import { Button, optionsFrom, Select } from '../kit';

interface Props {
  readonly drivers: readonly DriverDocument[];
  readonly device: DeviceRecord;
  readonly driver: DriverDocument;
}

/** Commands and readings that this show adds to the device, beside what its driver has. */
export function OwnCommands({ drivers, device, driver }: Props) {
  const desk = useDesk();
  const { additions, tag } = device.data;
  const save = (next: DriverAdditions | undefined, title: string) => {
    const { additions: _, ...rest } = device.data;
    const to: DeviceRecord = { ...device, data: next ? { ...rest, additions: next } : rest };
    return desk.edit({ title, changes: [{ op: 'update', from: device, to }] });
  };
  const saveAsDriver = () => {
    const id = ownDriverId(
      tag,
      drivers.map((each) => each.id),
    );
    saveJson(`${id}.json`, JSON.stringify(asDriver(driver, { id, title: device.data.name }), null, 2));
  };
  const own = [
    ...Object.entries(additions?.commands ?? {}).map(([id, { title }]) => ({ id, title, what: 'command' as const })),
    ...Object.entries(additions?.readings ?? {}).map(([id, { title }]) => ({ id, title, what: 'reading' as const })),
  ];
  return (
    <section>
      <h3 className="mt-3 mb-1 text-ink-soft">Added by this show</h3>
      {own.length > 0 && (
        <ul className="own-list [&_[data-slot=button]]:ml-auto [&_li]:flex [&_li]:items-center [&_li]:gap-3 [&_li]:border-b [&_li]:border-rule [&_li]:px-0 [&_li]:py-1">
          {own.map(({ id, title, what }) => (
            <li key={`${what} ${id}`}>
              <b>{title}</b> <span className="text-ink-soft">{what}</span>
              <Button
                onClick={() =>
                  additions && void save(withoutAddition(additions, what, id), `Remove “${title}” of ${tag}`)
                }
              >
                Remove
              </Button>
            </li>
          ))}
        </ul>
      )}
      <p className="flex flex-wrap items-center gap-3 py-2 text-[14px] text-ink-soft">
        <Button onClick={saveAsDriver}>Save as a driver document</Button>
        Its settings and what is added here, for other devices of this kind and other shows. Install it under Drivers.
      </p>
      {takesPayloads(driver) ? (
        <div className="grid grid-cols-[repeat(auto-fit,minmax(300px,1fr))] gap-7 py-2.5">
          <CommandForm driver={driver} additions={additions} onAdd={(next) => save(next, `Add a command to ${tag}`)} />
          <ReadingForm driver={driver} additions={additions} onAdd={(next) => save(next, `Add a reading to ${tag}`)} />
        </div>
      ) : (
        <p className="text-ink-soft">
          This device does not take single payloads. To add commands, install your own driver document.
        </p>
      )}
    </section>
  );
}

interface FormProps {
  readonly driver: DriverDocument;
  readonly additions: DriverAdditions | undefined;
  readonly onAdd: (next: DriverAdditions) => Promise<boolean>;
}

function CommandForm({ driver, additions, onAdd }: FormProps) {
  const [title, setTitle] = useState('');
  const [as, setAs] = useState<'text' | 'hex'>(driver.framing.kind === 'visca' ? 'hex' : 'text');
  const [payload, setPayload] = useState('');
  const [ending, setEnding] = useState<string>(usualEnding(driver));
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const next = addCommand(driver, additions, { title, as, payload, ending: as === 'text' ? ending : '' });
    setProblems(next.ok ? [] : next.error);
    if (!next.ok || !(await onAdd(next.value))) return;
    setTitle('');
    setPayload('');
  };
  return (
    <form className="form" onSubmit={(event) => void submit(event)} aria-label="New command">
      <label>
        Command
        <input
          value={title}
          required
          maxLength={80}
          onChange={(e) => setTitle(e.target.value)}
          placeholder="Its name"
        />
      </label>
      <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
        <Select
          label="Typed as"
          value={as}
          options={optionsFrom({ text: 'text with escapes', hex: 'hex' })}
          onChoose={setAs}
        />
        {as === 'text' && (
          <Select
            label="Line ending"
            value={ending}
            options={endingsFor(driver).map((each) => ({ value: each.escape, title: each.title }))}
            onChoose={setEnding}
          />
        )}
      </div>
      <PayloadField
        title="Payload"
        as={as}
        value={payload}
        ending={as === 'text' ? shownEnding(ending, driver) : ''}
        onChange={setPayload}
      />
      <ProblemList problems={problems} />
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button type="submit">Add the command</Button>
      </div>
    </form>
  );
}

function ReadingForm({ driver, additions, onAdd }: FormProps) {
  const isJson = saysJson(driver);
  const [title, setTitle] = useState('');
  const [pattern, setPattern] = useState('');
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const next = addReading(driver, additions, { title, pattern });
    setProblems(next.ok ? [] : next.error);
    if (!next.ok || !(await onAdd(next.value))) return;
    setTitle('');
    setPattern('');
  };
  return (
    <form className="form" onSubmit={(event) => void submit(event)} aria-label="New reading">
      <label>
        Reading
        <input
          value={title}
          required
          maxLength={80}
          onChange={(e) => setTitle(e.target.value)}
          placeholder="Its name"
        />
      </label>
      <label>
        {isJson ? 'JSON Pointer' : 'Pattern'}
        <input
          className="font-mono text-[0.93em]"
          value={pattern}
          required
          maxLength={400}
          spellCheck={false}
          onChange={(e) => setPattern(e.target.value)}
          placeholder={isJson ? '/state/temperature' : '^TEMP (?P<value>[0-9]+)$'}
        />
      </label>
      <p className="col-span-full text-[13px] text-ink-soft">
        {isJson
          ? 'The path to the value in the device’s answer, from the outermost name inwards.'
          : 'The group named “value” becomes the reading. Devices that speak in bytes are matched as hexadecimal digits.'}
      </p>
      <ProblemList problems={problems} />
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button type="submit">Add the reading</Button>
      </div>
    </form>
  );
}

export function ProblemList({ problems }: { readonly problems: readonly Problem[] }) {
  if (problems.length === 0) return null;
  return (
    <ul className="border-l-4 border-fault pl-2.5 text-[14px] [&_code]:font-bold" role="alert">
      {problems.map(({ path, message }, n) => (
        <li key={n}>
          {path && <code>{path}</code>} {message}
        </li>
      ))}
    </ul>
  );
}

/** The ending that the driver itself uses, so that it is never forgotten. */
function usualEnding(driver: DriverDocument): string {
  const { framing } = driver;
  const [first] = endingsFor(driver);
  if (first && 'ends' in driver.options) return first.escape;
  if (framing.kind !== 'lines') return '';
  return { crlf: '\\r\\n', lf: '\\n', cr: '\\r', nul: '\\0', any: '\\r\\n' }[framing.ending];
}

/** The ending as it will be sent, for the bytes that are shown beforehand. */
function shownEnding(ending: string, driver: DriverDocument): string {
  if (ending !== '{option.ends}') return ending;
  const ends = optionTexts(driver)['option.ends'];
  return typeof ends === 'string' ? toEscaped(new TextEncoder().encode(ends)) : '';
}
