'use client';

import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useState,
  useSyncExternalStore,
  type ReactNode,
} from 'react';
import { clockSeconds, type RunningClock } from '../../core/clock';
import type { ReadingsView, TopicName, WholeNamed } from '../../core/live';
import { takeEarlySocket } from './early-socket';
import { LiveClient } from './live-client';
import { PictureClient, type LivePicture, type PictureSocket } from './pictures';
import type { Connection, SocketLike } from './live-socket';
import type { PressMark } from './press-marks';

const LiveContext = createContext<LiveClient | null>(null);
const PictureContext = createContext<PictureClient | null>(null);

/** Opens one connection to the engine for everything below it. `role` lowers the rights to those of a panel. */
export function LiveProvider({ role, children }: { readonly role: 'desk' | 'panel'; readonly children: ReactNode }) {
  const [client] = useState(() => new LiveClient(() => openSocket(role), newPressId, screenId(role)));
  useEffect(() => {
    client.start();
    const wake = () => document.visibilityState === 'visible' && client.wake();
    document.addEventListener('visibilitychange', wake);
    window.addEventListener('pageshow', wake);
    window.addEventListener('online', wake);
    window.addEventListener('offline', wake);
    return () => {
      document.removeEventListener('visibilitychange', wake);
      window.removeEventListener('pageshow', wake);
      window.removeEventListener('online', wake);
      window.removeEventListener('offline', wake);
      client.stop();
    };
  }, [client]);
  const [pictures] = useState(
    () => new PictureClient(() => new WebSocket(addressOf(`/pictures/live?as=${role}`)) as unknown as PictureSocket),
  );
  useEffect(() => {
    const look = () => pictures.setHidden(document.visibilityState === 'hidden');
    look();
    document.addEventListener('visibilitychange', look);
    return () => {
      document.removeEventListener('visibilitychange', look);
      pictures.stop();
    };
  }, [pictures]);
  return (
    <LiveContext value={client}>
      <PictureContext value={pictures}>{children}</PictureContext>
    </LiveContext>
  );
}

/** The address of a WebSocket of this program. */
function addressOf(path: string): string {
  const { protocol, host } = window.location;
  return `${protocol === 'https:' ? 'wss' : 'ws'}://${host}${path}`;
}

const noPicture: LivePicture = {};

/** A live picture by its key, while it is shown at a width in pixels; at width 0 it is not. `drawn` is told when each one is on the screen. */
export function useLivePicture(
  key: string,
  width: number,
): { readonly picture: LivePicture; readonly drawn: (isPicture: boolean) => void } {
  const client = useContext(PictureContext);
  const [holder] = useState(() => ({}));
  const subscribe = useCallback(
    (listener: () => void) => client?.subscribe(key, listener) ?? (() => undefined),
    [client, key],
  );
  const snapshot = useCallback(() => client?.now(key) ?? noPicture, [client, key]);
  const picture = useSyncExternalStore(subscribe, snapshot, () => noPicture);
  useEffect(() => (width > 0 ? client?.show(key, holder, width) : undefined), [client, key, holder, width]);
  const drawn = useCallback((isPicture: boolean) => client?.drawn(key, isPicture), [client, key]);
  return { picture, drawn };
}

function openSocket(role: 'desk' | 'panel'): SocketLike {
  const early = role === 'panel' ? takeEarlySocket() : undefined;
  if (early) return early;
  return new WebSocket(addressOf(`/live?as=${role}`)) as unknown as SocketLike;
}

const screenKey = 'sorrelfinch-screen';

/** Which screen this is in the record: of a panel the viewing device, of the desk the window. */
function screenId(role: 'desk' | 'panel'): string | undefined {
  if (typeof window === 'undefined') return undefined;
  try {
    const kept = role === 'panel' ? localStorage : sessionStorage;
    const known = kept.getItem(screenKey);
    if (known && /^[a-z0-9]{4,24}$/.test(known)) return known;
    const fresh = Array.from(crypto.getRandomValues(new Uint8Array(8)), (byte) => (byte % 36).toString(36)).join('');
    kept.setItem(screenKey, fresh);
    return fresh;
  } catch {
    // A browser may forbid to keep anything; then the record has a number for each connection.
    return undefined;
  }
}

/** `crypto.randomUUID` is missing on plain HTTP from another computer; this is not. */
function newPressId(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => byte.toString(16).padStart(2, '0')).join('');
}

export function useLive(): LiveClient {
  const client = useContext(LiveContext);
  if (!client) throw new Error('useLive needs a LiveProvider above it.');
  return client;
}

const calling: Connection = { at: 'calling', since: 0 };

export function useConnection(): Connection {
  const client = useLive();
  return useSyncExternalStore(client.onConnection, client.getConnection, () => calling);
}

/** A topic as it is now: `undefined` while it is not known, `null` when there is none. */
function useTopic<N extends TopicName>(name: N): WholeNamed<N> | null | undefined {
  const client = useLive();
  const subscribe = useCallback((listener: () => void) => client.onTopic(name, listener), [client, name]);
  const snapshot = useCallback(() => client.getTopic(name), [client, name]);
  return useSyncExternalStore(subscribe, snapshot, () => undefined) as WholeNamed<N> | null | undefined;
}

export const useStatus = () => useTopic('status') ?? undefined;
export const useHead = () => useTopic('head') ?? undefined;
export const useTally = () => useTopic('tally') ?? undefined;
export const useClocks = () => useTopic('clocks') ?? undefined;
export const useOutputs = () => useTopic('outputs') ?? undefined;
export const useRuns = () => useTopic('runs') ?? undefined;
export const useMacroRuns = (macro: string) => useTopic(`macro:${macro}`);
export const useWalkRound = () => useTopic('walk-round') ?? undefined;
export const useDrills = () => useTopic('drills') ?? undefined;
export const useBurnIn = () => useTopic('burn-in') ?? undefined;
export const useHealth = () => useTopic('health') ?? undefined;
export const useCheckTopic = () => useTopic('line-check') ?? undefined;
export const useScreens = () => useTopic('screens') ?? undefined;
export const useAccess = () => useTopic('access') ?? undefined;
export const useLinked = (panel: string) => useTopic(`linked:${panel}`);
export const useGearBindings = () => useTopic('gear');
export const useWire = () => useTopic('wire') ?? undefined;
export const useAsRun = () => useTopic('as-run') ?? undefined;
export const usePage = (id: string) => useTopic(`page:${id}`);
export const useReadings = (device: string) => useTopic(`readings:${device}`);

/** The readings of several devices, by device. */
export function useReadingsOf(devices: readonly string[]): ReadonlyMap<string, ReadingsView> {
  const client = useLive();
  const key = [...devices].sort().join(' ');
  const store = useMemo(() => readingsStore(client, key === '' ? [] : key.split(' ')), [client, key]);
  return useSyncExternalStore(store.subscribe, store.snapshot, () => noReadings);
}

/** The same, updated at most once per interval: for screens that show many readings of many devices. */
export function useReadingsNowAndThen(devices: readonly string[], everyMs: number): ReadonlyMap<string, ReadingsView> {
  const client = useLive();
  const key = [...devices].sort().join(' ');
  const store = useMemo(() => readingsStore(client, key === '' ? [] : key.split(' ')), [client, key]);
  return useNowAndThen(store, everyMs) ?? noReadings;
}

/** The rows of the wire, updated at most once per interval: for screens that only count them. */
export function useWireNowAndThen(everyMs: number): WholeNamed<'wire'> | undefined {
  const client = useLive();
  const store = useMemo(
    () => ({
      subscribe: (listener: () => void) => client.onTopic('wire', listener),
      snapshot: () => (client.getTopic('wire') as WholeNamed<'wire'> | null | undefined) ?? undefined,
    }),
    [client],
  );
  return useNowAndThen(store, everyMs);
}

interface Store<Snapshot> {
  readonly subscribe: (listener: () => void) => () => void;
  /** The same object as long as nothing in it has changed. */
  readonly snapshot: () => Snapshot;
}

/** What a store holds, looked at when it changes but at most once per interval; `undefined` until the first look. */
function useNowAndThen<Snapshot>(store: Store<Snapshot>, everyMs: number): Snapshot | undefined {
  const [seen, setSeen] = useState<Snapshot>();
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let lastAt = 0;
    const look = () => {
      timer = undefined;
      lastAt = Date.now();
      setSeen(store.snapshot());
    };
    const soon = () => (timer ??= setTimeout(look, Math.max(50, lastAt + everyMs - Date.now())));
    const stop = store.subscribe(soon);
    soon();
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, [store, everyMs]);
  return seen;
}

const noReadings: ReadonlyMap<string, ReadingsView> = new Map();

function readingsStore(client: LiveClient, devices: readonly string[]): Store<ReadonlyMap<string, ReadingsView>> {
  let last = noReadings;
  return {
    subscribe: (listener: () => void) => {
      const stops = devices.map((device) => client.onTopic(`readings:${device}`, listener));
      return () => stops.forEach((stop) => stop());
    },
    snapshot: () => {
      const now = devices.map(
        (device) => [device, client.getTopic(`readings:${device}`) as ReadingsView | undefined] as const,
      );
      const known = now.flatMap(([device, view]) => (view ? [[device, view] as const] : []));
      const same = known.length === last.size && known.every(([device, view]) => last.get(device) === view);
      if (!same) last = new Map(known);
      return last;
    },
  };
}

/** Keeps topics up to date without showing them, so that they are there at once when they are wanted. */
export function useTopicsAhead(names: readonly string[]): void {
  const client = useLive();
  const key = names.join(' ');
  useEffect(() => {
    const stops = key === '' ? [] : key.split(' ').map((name) => client.onTopic(name, () => undefined));
    return () => stops.forEach((stop) => stop());
  }, [client, key]);
}

const noMarks: ReadonlyMap<string, PressMark> = new Map();

/** The last press of each control, by control. */
export function useMarks(): ReadonlyMap<string, PressMark> {
  const client = useLive();
  return useSyncExternalStore(client.onMarks, client.getMarks, () => noMarks);
}

export function useLastMark(): PressMark | undefined {
  const client = useLive();
  return useSyncExternalStore(client.onMarks, client.getLastMark, () => undefined);
}

/** The engine's time, updated about once a second, for ages; 0 before the first update. */
export const useNow = (): number => useEngineTime(1000);

/** The engine's time, updated at this interval in milliseconds while `isOn`; 0 before the first update. */
export function useEngineTime(everyMs: number, isOn = true): number {
  const client = useLive();
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (!isOn) return undefined;
    const tick = () => setNow(client.now());
    const first = setTimeout(tick, 0);
    const timer = setInterval(tick, everyMs);
    return () => {
      clearTimeout(first);
      clearInterval(timer);
    };
  }, [client, everyMs, isOn]);
  return now;
}

/** The seconds that a running clock shows now, updated five times a second; `undefined` without a clock. */
export function useClockSeconds(clock: RunningClock | undefined): number | undefined {
  const now = useEngineTime(200, clock !== undefined);
  // A report may be younger than the last update.
  return clock && clockSeconds(clock, Math.max(now, clock.at));
}
