'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { Network } from '../../core/diagnosis';
import type { FindLine, FoundDevice } from '../../core/live';
import { addressesIn, subnetOf, subnetText } from '../../core/net';
import { inNumberOrder } from '../../core/number-order';
import { freeTag, type DeskView, type DeviceRecord } from '../../core/show';
import { useDesk } from '../desk';
import { readLines } from '../live';
import { newId } from '../parts';
import { Button, Progress } from '../kit';
import { FoundRow, keyOf } from './found-row';
import { useNetwork } from './use-network';

/** Looks for devices on the network, and enters those that are chosen. */
export function FindPane({ show, onDone }: { readonly show: DeskView; readonly onDone: () => void }) {
  const desk = useDesk();
  const network = useNetwork();
  const offered = rangesOf(network, show);
  const [typed, setTyped] = useState<string>();
  const [further, setFurther] = useState('');
  const ports = portsIn(further);
  const range = typed ?? offered[0]?.range ?? '';
  const checked = range === '' ? undefined : addressesIn(range);
  const search = useSearch();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  /** As which driver each is added, where another than the first is chosen. */
  const [asDriver, setAsDriver] = useState<ReadonlyMap<string, string>>(new Map());
  const fresh = search.found.filter((each) => each.inRig === undefined && each.drivers.length > 0);
  const toggle = (key: string) => {
    const next = new Set(chosen);
    if (!next.delete(key)) next.add(key);
    setChosen(next);
  };
  const addChosen = async () => {
    const tags = show.records.flatMap((record) => (record.kind === 'device' ? [record.data.tag] : []));
    const changes = fresh.flatMap((found) => {
      const wanted = asDriver.get(keyOf(found)) ?? found.drivers[0]?.id;
      const driver = show.drivers.find(({ id }) => id === wanted);
      if (!chosen.has(keyOf(found)) || !driver) return [];
      const tag = freeTag(driver.role, tags);
      tags.push(tag);
      const data: DeviceRecord['data'] = {
        tag,
        name: (driver.id.startsWith('generic-')
          ? (found.announced?.name ?? 'Unknown device')
          : [driver.title, found.model].filter(Boolean).join(' ')
        ).slice(0, 80),
        role: driver.role,
        driver: driver.id,
        host: found.address,
        port: found.port,
        enabled: true,
        site: '',
        user: '',
        options: {},
      };
      return [{ op: 'add' as const, record: { kind: 'device' as const, id: newId('dev'), version: 1, data } }];
    });
    if (changes.length === 0) return;
    if (await desk.edit({ title: `Add ${changes.length} found`, changes })) setChosen(new Set());
  };
  const follow = async ({ moved, address, port }: FoundDevice) => {
    const from = show.records.find(
      (record): record is DeviceRecord => record.kind === 'device' && record.id === moved?.device,
    );
    if (!from) return;
    const to = { ...from, data: { ...from.data, host: address, port } };
    await desk.edit({ title: `${from.data.tag} moved to ${address}:${port}`, changes: [{ op: 'update', from, to }] });
  };
  return (
    <section className="border-t border-rule-strong pt-3 pb-3.5" aria-labelledby="find-title">
      <h2 id="find-title">Find devices</h2>
      <form
        className="my-2 flex flex-wrap items-center gap-x-3.5 gap-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (checked?.ok && ports) void search.start(range, ports);
        }}
      >
        <label className="inline-flex items-center gap-1.5 text-ink-soft">
          Where
          <input
            className="font-mono text-[0.93em]"
            data-veil
            list="find-ranges"
            value={range}
            spellCheck={false}
            aria-describedby="find-help"
            onChange={(e) => setTyped(e.target.value)}
          />
        </label>
        <label className="inline-flex items-center gap-1.5 text-ink-soft">
          Further ports
          <input
            className="w-36 font-mono text-[0.93em]"
            value={further}
            placeholder="8080, 9000"
            spellCheck={false}
            aria-invalid={ports === undefined}
            onChange={(e) => setFurther(e.target.value)}
          />
        </label>
        <datalist id="find-ranges">
          {offered.map((each) => (
            <option key={each.range} value={each.range}>
              {each.title}
            </option>
          ))}
        </datalist>
        {search.running ? (
          <Button onClick={search.stop}>Stop</Button>
        ) : (
          <Button type="submit" kind="strong" disabled={!checked?.ok || !ports}>
            Search
          </Button>
        )}
        <Button onClick={onDone}>Close</Button>
        <span id="find-help" className={checked && !checked.ok ? 'font-semibold' : 'text-ink-soft'}>
          {checked === undefined
            ? 'A subnet such as 10.0.0.0/24, a range or one address.'
            : checked.ok
              ? ports === undefined
                ? 'Ports are whole numbers from 1 to 65535, 20 at most, with commas between them.'
                : `${checked.value.length === 1 ? '1 address' : `${checked.value.length} addresses`}; every port that the drivers know is tried, at most 64 at a time.`
              : checked.error}
        </span>
      </form>
      {search.progress && (
        <div className="my-2 flex flex-wrap items-center gap-x-3.5 gap-y-2">
          <Progress label="Search" part={search.progress.tried / Math.max(1, search.progress.of)} />
          <span className="font-mono text-[0.93em] text-ink-soft">
            {search.progress.tried} of {search.progress.of}
          </span>
        </div>
      )}
      {search.failed && (
        <p className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink" role="alert">
          {search.failed}
        </p>
      )}
      <ul className="found" aria-live="polite">
        {search.found.map((found) => (
          <FoundRow
            key={keyOf(found)}
            found={found}
            chosen={chosen.has(keyOf(found))}
            driver={asDriver.get(keyOf(found)) ?? found.drivers[0]?.id ?? ''}
            onDriver={(id) => setAsDriver(new Map(asDriver).set(keyOf(found), id))}
            onToggle={() => toggle(keyOf(found))}
            onFollow={() => void follow(found)}
          />
        ))}
      </ul>
      {search.ended && search.found.length === 0 && (
        <p>
          Nothing answered there. Is this computer on the devices’ network? A device that sits on another subnet is not
          seen from here.
        </p>
      )}
      {fresh.length > 0 && (
        <div className="col-span-full flex flex-wrap gap-2.5">
          <Button kind="strong" disabled={chosen.size === 0} onClick={() => void addChosen()}>
            {chosen.size === 0 ? 'Add the chosen' : `Add ${chosen.size} to the rig`}
          </Button>
          <Button onClick={() => setChosen(new Set(fresh.map(keyOf)))}>Choose all that are new</Button>
        </div>
      )}
    </section>
  );
}

function useSearch() {
  const [found, setFound] = useState<readonly FoundDevice[]>([]);
  const [progress, setProgress] = useState<{ readonly tried: number; readonly of: number }>();
  const [failed, setFailed] = useState<string>();
  const [running, setRunning] = useState(false);
  const [ended, setEnded] = useState(false);
  const cancel = useRef<AbortController>(undefined);
  const stop = useCallback(() => cancel.current?.abort(), []);
  useEffect(() => stop, [stop]);
  const start = async (range: string, ports: readonly number[]) => {
    stop();
    const own = new AbortController();
    cancel.current = own;
    setFound([]);
    setFailed(undefined);
    setEnded(false);
    setRunning(true);
    const onLine = (line: FindLine) => {
      if (line.is === 'progress') setProgress(line);
      else if (line.is === 'found') setFound((before) => withFound(before, line.found));
      else if (line.is === 'refused') setFailed(line.message);
      else setEnded(true);
    };
    try {
      await readLines<FindLine>('/api/find', { range, ports }, onLine, own.signal);
    } catch (error) {
      if (!own.signal.aborted) setFailed(error instanceof Error ? error.message : 'The search was interrupted.');
    } finally {
      if (cancel.current === own) setRunning(false);
    }
  };
  return { found, progress, failed, running, ended, start, stop };
}

/** The ports in a text such as “8080, 9000”; `undefined` when something else is in it. */
function portsIn(text: string): readonly number[] | undefined {
  const ports = text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  const fit = ports.every((port) => Number.isInteger(port) && port >= 1 && port <= 65_535);
  return fit && ports.length <= 20 ? [...new Set(ports)] : undefined;
}

/** The list with what was found. What answered and made itself known as well is one device. */
function withFound(before: readonly FoundDevice[], found: FoundDevice): readonly FoundDevice[] {
  const same = before.find((each) => keyOf(each) === keyOf(found));
  if (!same) return [...before, found].sort(byAddress);
  const [asked, byItself] = found.announced ? [same, found] : [found, same];
  const { announced = asked.announced, mac = asked.mac } = byItself;
  const both = { ...asked, ...(announced ? { announced } : {}), ...(mac === undefined ? {} : { mac }) };
  return before.map((each) => (each === same ? both : each));
}

const byAddress = (a: FoundDevice, b: FoundDevice): number => inNumberOrder(a.address, b.address) || a.port - b.port;

/** Where a search is worth while: this computer's own subnets, then where the rig's devices are. */
function rangesOf(network: Network | undefined, show: DeskView): { readonly range: string; readonly title: string }[] {
  const own = (network?.interfaces ?? []).flatMap(({ name, address, prefix, internal }) => {
    // Of a very large network the part around the own address is offered.
    const subnet = internal || address.includes(':') ? undefined : subnetOf(address, Math.max(prefix, 22));
    return subnet ? [{ range: subnetText(subnet), title: `the subnet of ${name}` }] : [];
  });
  const hosts = show.records.flatMap((record) =>
    record.kind === 'device' && record.data.host ? [record.data.host] : [],
  );
  const used = [...new Set(hosts)].flatMap((host) => {
    if (host.startsWith('127.')) return [{ range: host, title: 'this computer' }];
    const subnet = subnetOf(host, 24);
    return subnet?.family === 4 ? [{ range: subnetText(subnet), title: 'where devices of the rig are' }] : [];
  });
  return [...new Map([...used, ...own].map((each) => [each.range, each])).values()];
}
