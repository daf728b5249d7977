'use client';

import { useMemo, useState } from 'react';
import { askedParams, encodeCommand, frameMeaning, readingText, type CompiledDriver } from '../../../core/driver';
import type { DriverTrialLine } from '../../../core/live';
import type { Piece } from '../../../core/learn';
import type { Scalar } from '../../../core/result';
import { fromHex, isCut, makeExchange, toHex } from '../../../core/wire';
import { useShow } from '../../desk';
import { ParamField, PayloadField } from '../../fields';
import { Button, Checkbox, Confirm, EmptyState, Field, NumberField, Progress, Select } from '../../kit';
import { bytesText, clockText, linkText, OutcomeShape, VeiledText, WireWay } from '../../parts';
import type { BenchDocument } from './use-bench-document';
import type { Material } from './use-frames';
import { useTrial } from './use-trial';

interface Props {
  readonly text: string;
  readonly document: BenchDocument;
  /** What came over the wire in a trial goes to the bench. */
  readonly onBring: (material: Material) => void;
}

const elsewhere = 'elsewhere';
const listening = '';
const typed = 'bytes';

/** The document at a device: it is called, told something, listened to, and what it says is decoded by the document as it is now. */
export function DeviceTab({ text, document, onBring }: Props) {
  const { driver } = document;
  if (!driver)
    return (
      <EmptyState title="Nothing to try yet">
        {document.firstProblem
          ? `The document has an error at ${document.firstProblem.path}: ${document.firstProblem.message}`
          : 'Write a document first, or start one under Frames.'}
      </EmptyState>
    );
  return <Trial key={driver.document.id} text={text} driver={driver} onBring={onBring} />;
}

function Trial({ text, driver, onBring }: Pick<Props, 'text' | 'onBring'> & { readonly driver: CompiledDriver }) {
  const { show } = useShow();
  const devices = (show?.records ?? []).flatMap((record) => (record.kind === 'device' ? [record] : []));
  const own = devices.find(({ data }) => data.driver === driver.document.id);
  const [place, setPlace] = useState(own?.id ?? elsewhere);
  const [host, setHost] = useState('');
  const [port, setPort] = useState(driver.document.link.port || 1);
  const [what, setWhat] = useState(listening);
  const [params, setParams] = useState<Readonly<Record<string, Scalar>>>({});
  const [bytes, setBytes] = useState('');
  const [interrupt, setInterrupt] = useState(false);
  const [isAsking, setAsking] = useState(false);
  const trial = useTrial();
  const command = driver.document.commands[what];
  const preview = useMemo(() => bytesBefore(driver, what, params, bytes), [driver, what, params, bytes]);
  const run = () =>
    void trial.run({
      document: text,
      ...(place === elsewhere ? { at: { host, port } } : { device: place }),
      ...(what === typed ? { bytes } : what === listening ? {} : { command: { id: what, params } }),
      interrupt,
    });
  return (
    <div className="grid gap-3">
      <form
        className="grid gap-2.5"
        aria-label="Try the document"
        onSubmit={(event) => {
          event.preventDefault();
          if (command?.risky) setAsking(true);
          else run();
        }}
      >
        <div className="grid grid-cols-2 items-start gap-2.5 [&_label]:grid [&_label]:gap-1">
          <Select
            label="Device"
            value={place}
            options={[
              ...devices.map(({ id, data }) => ({ value: id, title: `${data.tag} ${data.name}` })),
              { value: elsewhere, title: 'another address' },
            ]}
            onChoose={setPlace}
          />
          <Select
            label="Send"
            value={what}
            options={[
              { value: listening, title: 'nothing, only listen' },
              { value: typed, title: 'bytes that I type' },
              ...Object.entries(driver.document.commands).map(([id, { title }]) => ({
                value: id,
                title,
                group: 'Commands',
              })),
            ]}
            onChoose={(id) => {
              setWhat(id);
              setParams({});
            }}
          />
          {place === elsewhere && (
            <>
              <Field label="Address">
                {(ids) => (
                  <input
                    {...ids}
                    value={host}
                    data-veil
                    maxLength={253}
                    className="font-mono text-[0.93em]"
                    onChange={(event) => setHost(event.target.value.trim())}
                  />
                )}
              </Field>
              <NumberField label="Port" value={port} min={1} max={65_535} onCommit={setPort} />
            </>
          )}
          {askedParams(command).map(([name, param]) => (
            <ParamField
              key={name}
              param={param}
              value={params[name] ?? param.default}
              onChange={(value) => {
                const { [name]: _, ...rest } = params;
                setParams(value === undefined ? rest : { ...rest, [name]: value });
              }}
            />
          ))}
        </div>
        {what === typed && <PayloadField title="Bytes" as="hex" value={bytes} onChange={setBytes} />}
        {command && (
          <p className="text-[13px]">
            <span className="text-ink-soft">{preview.ok ? 'Will send' : 'Cannot be sent:'}</span>{' '}
            <code className="break-all">{preview.text}</code>
          </p>
        )}
        {place !== elsewhere && (
          <Checkbox label="Interrupt the rig’s own connection" checked={interrupt} onChange={setInterrupt} />
        )}
        <div className="flex flex-wrap items-center gap-2.5">
          <Button
            type="submit"
            kind="strong"
            disabled={trial.isRunning || !preview.ok || (place === elsewhere && host === '')}
          >
            {what === listening ? 'Connect and listen' : 'Connect and send'}
          </Button>
          {trial.isRunning && (
            <>
              <Progress label="Trial" part={undefined} />
              <Button onClick={trial.stop}>Stop</Button>
            </>
          )}
        </div>
      </form>
      <Confirm
        title={`Send ${command?.title ?? 'it'}?`}
        act="Send command"
        open={isAsking}
        onOpenChange={setAsking}
        onAct={run}
      >
        This command is marked as risky: it can spoil a show.
      </Confirm>
      {trial.failed && (
        <p role="alert" className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
          {trial.failed}
        </p>
      )}
      <Result lines={trial.lines} driver={driver} onBring={onBring} />
    </div>
  );
}

/** The bytes that a command would send, before anything is sent. */
function bytesBefore(
  driver: CompiledDriver,
  what: string,
  params: Readonly<Record<string, Scalar>>,
  bytes: string,
): { readonly ok: boolean; readonly text: string } {
  if (what === listening) return { ok: true, text: '' };
  if (what === typed) {
    const read = fromHex(bytes);
    return { ok: read.ok && read.value.length > 0, text: '' };
  }
  const encoded = encodeCommand(driver, what, params, { ref: 1 });
  if (!encoded.ok) return { ok: false, text: encoded.error.message };
  const { framing, link } = driver.document;
  const written = isCut(framing) ? makeExchange(framing, link.kind !== 'udp').write(encoded.value.out, 1) : undefined;
  if (!written?.ok) return { ok: true, text: encoded.value.text };
  const hex = toHex(written.value);
  return { ok: true, text: `${bytesText(hex)}   ${hex.replace(/..(?=.)/g, '$& ')}` };
}

interface ResultProps {
  readonly lines: readonly DriverTrialLine[];
  readonly driver: CompiledDriver;
  readonly onBring: (material: Material) => void;
}

function Result({ lines, driver, onBring }: ResultProps) {
  if (lines.length === 0) return null;
  const pieces = lines.flatMap((line): Piece[] => {
    const bytes = line.t === 'wire' && line.dir !== 'note' ? fromHex(line.hex) : undefined;
    return line.t === 'wire' && line.dir !== 'note' && bytes?.ok ? [{ dir: line.dir, bytes: bytes.value }] : [];
  });
  const { kind, port } = driver.document.link;
  const transport = kind === 'udp' || kind === 'serial' ? kind : 'tcp';
  return (
    <section aria-label="What happened" aria-live="polite" className="grid gap-1.5 border-t border-rule pt-2">
      {lines.map((line, n) => (
        <ResultLine key={n} line={line} driver={driver} />
      ))}
      {pieces.length > 0 && (
        <Button className="justify-self-start" onClick={() => onBring({ pieces, transport, port, from: 'the trial' })}>
          Take these messages to Frames
        </Button>
      )}
    </section>
  );
}

function ResultLine({ line, driver }: { readonly line: DriverTrialLine; readonly driver: CompiledDriver }) {
  switch (line.t) {
    case 'refused':
      return <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">{line.message}</p>;
    case 'link':
      return (
        <p>
          Link: <strong>{linkText(line.link)}</strong>
        </p>
      );
    case 'wire': {
      const meaning = line.dir === 'in' ? frameMeaning(driver, line.hex, undefined) : undefined;
      return (
        <p className="flex min-w-0 items-baseline gap-2 font-mono text-[13px]">
          <span className="text-ink-soft">{clockText(line.at)}</span>
          {line.dir === 'note' ? null : <WireWay dir={line.dir} />}
          <span className="min-w-0 break-all">
            <VeiledText text={line.hex === '' ? (line.note ?? '') : bytesText(line.hex)} />
          </span>
          {meaning && <span className="ml-auto shrink-0 font-sans text-ink-soft">{meaning}</span>}
        </p>
      );
    }
    case 'ended':
      return (
        <p className="flex items-center gap-2">
          <OutcomeShape outcome={line.outcome} />
          {line.outcome} after {Math.round(line.ms)} ms{line.reason ? `: ${line.reason}` : ''}
        </p>
      );
    case 'readings':
      return (
        <dl className="grid grid-cols-[max-content_1fr] gap-x-4 text-[13px]">
          {line.readings.slice(0, 40).map(({ key, value }) => {
            const { name, shown } = readingText(driver.document, key, value);
            return (
              <div key={key} className="contents">
                <dt className="text-ink-soft">{name}</dt>
                <dd>{shown}</dd>
              </div>
            );
          })}
        </dl>
      );
  }
}
