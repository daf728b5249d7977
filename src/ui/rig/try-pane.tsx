'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { askedParams, encodeCommand, type DriverDocument } from '../../core/driver';
import type { ReadingsView, WireRow } from '../../core/live';
import type { Scalar } from '../../core/result';
import { showLookup, startOf, type DeskView, type DeviceRecord } from '../../core/show';
import { isCut, makeExchange, toHex } from '../../core/wire';
import { useLive, useMarks, useReadings, useWire, type PressMark } from '../live';
import { useHand } from '../page';
import { bytesText, clockText, durationText, OutcomeShape, VeiledText, WireWay } from '../parts';
import { compiledOf } from '../desk';
import { ExplainButton } from '../explain';
import { CommandPicker, ParamField, RigFactsContext, type RigFacts } from '../fields';
import { Button, buttonClass } from '../kit';
import { PutOnPage } from './put-on-page';

interface Props {
  readonly show: DeskView;
  readonly device: DeviceRecord;
  readonly driver: DriverDocument;
}

interface Tried {
  readonly command: string;
  readonly params: Readonly<Record<string, Scalar>>;
  readonly at: number;
  readonly before: Readonly<Record<string, Scalar | undefined>>;
  readonly mark: PressMark | undefined;
}

const maxHistory = 20;
/** Messages that arrive this long after the outcome still belong to it. */
const afterMs = 1500;

/** Every command of a device, sent by hand: what goes out, what comes back, what changes, how it ends. */
export function TryPane({ show, device, driver }: Props) {
  const ids = Object.keys(driver.commands);
  const [command, setCommand] = useState(ids[0] ?? '');
  const [params, setParams] = useState<Readonly<Record<string, Scalar>>>(() => startParams(driver, ids[0] ?? ''));
  const [history, setHistory] = useState<readonly Tried[]>([]);
  const live = useLive();
  const readings = useReadings(device.id);
  const mark = useMarks().get(device.id);
  const latest = useRef(readings);
  useEffect(() => {
    latest.current = readings;
  });
  const definition = driver.commands[command];
  const facts = useMemo((): RigFacts => {
    const own = readings ?? {};
    return {
      ...showLookup([device], () => driver),
      readings: new Map([[device.id, own]]),
      readingNow: ({ key }) => own[key],
    };
  }, [device, driver, readings]);
  const preview = usePreview(driver, command, params, readings);
  // The newest try shows the mark of its press; older ones keep how they ended.
  const shown = history.map((each, n) => (n === 0 ? { ...each, mark: mark ?? each.mark } : each));
  const send = (guard: boolean, gesture: 'tap' | 'hold' = 'tap', again?: Tried) => {
    const what = again ?? { command, params };
    const before = Object.fromEntries(Object.entries(latest.current ?? {}).map(([key, { value }]) => [key, value]));
    const tried: Tried = { command: what.command, params: what.params, at: live.now(), before, mark: undefined };
    setHistory((old) => [tried, ...old.map((each, n) => (n === 0 ? { ...each, mark } : each))].slice(0, maxHistory));
    return live.tryCommand(device.id, what.command, what.params, { gesture, ...(guard ? { guard } : {}) });
  };
  if (!definition) return <p className="text-ink-soft">This driver has no commands.</p>;
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,300px),1fr))] gap-x-7 gap-y-4">
      <form className="form try-form" onSubmit={(event) => event.preventDefault()} aria-label="Try a command">
        <RigFactsContext value={facts}>
          <CommandPicker
            label="Command"
            chosen={{ device: device.id, command, values: params }}
            none="Choose a command"
            onPick={(_, key, values) => {
              setCommand(key);
              setParams({ ...startParams(driver, key), ...values });
            }}
          />
        </RigFactsContext>
        {definition.help && <p className="col-span-full text-[13px] text-ink-soft">{definition.help}</p>}
        {askedParams(definition).map(([name, param]) => {
          const family = param.listFrom === undefined ? undefined : driver.readings[param.listFrom];
          return (
            <ParamField
              key={name}
              param={param}
              value={params[name]}
              {...(readings ? { readings } : {})}
              {...(family ? { family } : {})}
              onChange={(value) => {
                const { [name]: _, ...rest } = params;
                setParams(value === undefined ? rest : { ...rest, [name]: value });
              }}
            />
          );
        })}
        <p className="try-bytes flex flex-col text-[13px] wrap-anywhere">
          <span className="text-ink-soft">{preview.ok ? 'Will send' : 'Cannot be sent'}</span>{' '}
          <span className="font-mono text-[0.93em]">{preview.text}</span>
          {preview.hex && (
            <span className="font-mono text-[0.93em] text-ink-soft">
              {preview.hex} ({preview.hex.split(' ').length} bytes)
            </span>
          )}
        </p>
        <SendButton
          risky={definition.risky}
          holds={definition.stop !== undefined}
          disabled={!preview.ok}
          onTap={(guard) => void send(guard)}
          onHold={(guard) => send(guard, 'hold')}
        />
      </form>
      <ol className="tries" aria-label="What was tried" aria-live="polite">
        {shown.length === 0 && (
          <li className="text-ink-soft">Bytes sent, answers and changes are listed here, newest first.</li>
        )}
        {shown.map((each, n) => (
          <TriedRow
            key={each.at}
            tried={each}
            device={device.id}
            driver={driver}
            newest={n === 0}
            onAgain={driver.commands[each.command]?.risky ? undefined : () => void send(false, 'tap', each)}
          >
            <PutOnPage
              show={show}
              title={driver.commands[each.command]?.title ?? each.command}
              start={startOf(driver, device.id, each.command, each.params)}
            />
          </TriedRow>
        ))}
      </ol>
    </div>
  );
}

function startParams(driver: DriverDocument, command: string): Readonly<Record<string, Scalar>> {
  const params = driver.commands[command]?.params ?? {};
  return Object.fromEntries(
    Object.entries(params).flatMap(([name, { default: fallback }]) =>
      fallback === undefined ? [] : [[name, fallback]],
    ),
  );
}

function SendButton({
  risky,
  holds,
  disabled,
  onTap,
  onHold,
}: {
  readonly risky: boolean;
  readonly holds: boolean;
  readonly disabled: boolean;
  readonly onTap: (guard: boolean) => void;
  readonly onHold: (guard: boolean) => () => void;
}) {
  const { filling, handlers } = useHand({ disabled, guarded: risky, onPress: onTap, ...(holds ? { onHold } : {}) });
  const title = holds ? 'Hold to send; release to stop' : risky ? 'Guarded: hold to send' : 'Send';
  return (
    <button
      type="button"
      className={buttonClass({ kind: filling ? 'live' : 'strong' })}
      disabled={disabled}
      {...handlers}
    >
      {title}
    </button>
  );
}

/** The bytes of a command before they are sent, as the readings are now. */
function usePreview(
  driver: DriverDocument,
  command: string,
  params: Readonly<Record<string, Scalar>>,
  readings: ReadingsView | null | undefined,
) {
  const compiled = compiledOf(driver);
  return useMemo(() => {
    if (!compiled) return { ok: false, text: 'The driver has a mistake.', hex: '' };
    const encoded = encodeCommand(compiled, command, params, {
      ref: 1,
      readingNow: (key) => readings?.[key]?.value,
    });
    if (!encoded.ok) return { ok: false, text: encoded.error.message, hex: '' };
    const { framing, link } = driver;
    const bytes = isCut(framing) ? makeExchange(framing, link.kind === 'tcp').write(encoded.value.out, 1) : undefined;
    const hex = bytes?.ok ? toHex(bytes.value).replace(/..(?=.)/g, '$& ') : '';
    return { ok: true, text: encoded.value.text, hex };
  }, [compiled, driver, command, params, readings]);
}

interface RowProps {
  readonly tried: Tried;
  readonly device: string;
  readonly driver: DriverDocument;
  readonly newest: boolean;
  readonly onAgain: (() => void) | undefined;
  readonly children: React.ReactNode;
}

function TriedRow({ tried, device, driver, newest, onAgain, children }: RowProps) {
  const { mark, at } = tried;
  const title = driver.commands[tried.command]?.title ?? tried.command;
  const given = Object.values(tried.params).map(String).join(', ');
  return (
    <li className="tried flex flex-col gap-2 border border-rule p-2.5 wrap-anywhere">
      <div className="flex flex-wrap items-center gap-x-3.5 gap-y-1.5">
        <span className="font-mono text-[0.93em] text-ink-soft">{clockText(at)}</span>
        <b>
          {title} {given && <span className="font-mono text-[0.93em]">{given}</span>}
        </b>
        <span className={`outcome outcome-${mark?.outcome ?? 'taken'}`}>
          <OutcomeShape outcome={mark?.outcome ?? 'taken'} />
          {mark?.outcome ?? 'taken'}
          {mark?.endedAt !== undefined && ` after ${durationText(mark.ms)}`}
        </span>
        <span className="ml-auto flex gap-1.5">
          {mark?.endedAt !== undefined && <ExplainButton press={mark.id} title={title} />}
          {onAgain && <Button onClick={onAgain}>Again</Button>}
          {children}
        </span>
      </div>
      {mark?.reason && (
        <p className="my-1 font-semibold">
          <VeiledText text={mark.reason} />
        </p>
      )}
      {newest && <WhatHappened tried={tried} device={device} driver={driver} />}
    </li>
  );
}

/** The bytes and the readings that belong to a try. */
function WhatHappened({ tried, device, driver }: Pick<RowProps, 'tried' | 'device' | 'driver'>) {
  const wire = useWire();
  const readings = useReadings(device);
  const until = tried.mark?.endedAt === undefined ? Infinity : tried.mark.endedAt + afterMs;
  const rows = (wire?.rows ?? []).filter(
    (row) =>
      row.device === device &&
      row.at >= tried.at - 20 &&
      row.at <= until &&
      row.note !== 'poll' &&
      row.note !== 'keep-alive' &&
      row.note !== 'report',
  );
  const changed = Object.entries(readings ?? {}).filter(
    ([key, { value, at }]) => (at ?? 0) >= tried.at - 20 && (at ?? 0) <= until && value !== tried.before[key],
  );
  return (
    <>
      <ul className="my-1 mr-0 ml-3 text-[13px] wrap-anywhere">
        {rows.slice(0, 12).map((row) => (
          <li key={row.n} className="font-mono text-[0.93em]">
            <WireWay dir={row.dir} />
            <span>
              <VeiledText text={row.dir === 'note' ? (row.note ?? '') : bytesText(row.hex)} />
            </span>{' '}
            {row.dir !== 'note' && <span className="text-ink-soft">{shortHex(row)}</span>}
          </li>
        ))}
        {rows.length > 12 && <li className="text-ink-soft">and {rows.length - 12} more on the wire</li>}
      </ul>
      {changed.length > 0 && (
        <ul className="my-1 mr-0 ml-3 text-[13px] wrap-anywhere">
          {changed.slice(0, 12).map(([key, { value }]) => (
            <li key={key}>
              {driver.readings[key]?.title ?? key}:{' '}
              <s>
                <VeiledText text={String(tried.before[key] ?? '–')} />
              </s>{' '}
              <b>
                <VeiledText text={String(value)} />
              </b>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

const shortHex = ({ hex }: WireRow): string =>
  `${hex
    .slice(0, 48)
    .toUpperCase()
    .replace(/..(?=.)/g, '$& ')}${hex.length > 48 ? ' …' : ''}`;
