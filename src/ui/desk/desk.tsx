'use client';

import { QueryClient, QueryClientProvider, useQueryClient } from '@tanstack/react-query';
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import type { ActionResult, HistoryFigures, Edit, LoadedAddresses, NotStaged, StagedShow } from '../../core/show';
import { tellDone, tellMended, tellRefused } from '../kit';
import { LiveProvider, useLive } from '../live';
import { VeiledText } from '../parts';
import { ShowProvider } from './show-now';

/** What the desk can do to the show. The application hands these in; no component knows where they run. */
interface DeskActions {
  readonly undo: (window: string) => Promise<ActionResult>;
  readonly redo: (window: string) => Promise<ActionResult>;
  readonly putInService: (note: string) => Promise<ActionResult>;
  readonly stepBack: () => Promise<ActionResult>;
  readonly leaveService: () => Promise<ActionResult>;
  /** `older`: also in place of a newer version. */
  readonly installDriver: (text: string, older: boolean) => Promise<ActionResult>;
  readonly removeDriver: (id: string) => Promise<ActionResult>;
  readonly setPassword: (device: string, password: string) => Promise<ActionResult>;
  readonly listBackups: () => Promise<readonly BackupEntry[]>;
  readonly history: () => Promise<HistoryFigures | undefined>;
  /** Says what bringing a backup back would change. */
  readonly stageBackup: (name: string) => Promise<StagedShow | NotStaged>;
  /** Starts or ends the stand-ins of the demo. */
  readonly standins: (on: boolean) => Promise<ActionResult>;
  readonly loadDemo: (window: string) => Promise<ActionResult>;
  readonly listen: () => Promise<ListenView | undefined>;
  readonly chooseListen: (host: string, accessKey: string) => Promise<ActionResult>;
  readonly giveCertificate: (given?: { readonly cert: string; readonly key: string }) => Promise<ActionResult>;
}

/** Where the program listens. */
export interface ListenView {
  readonly host: string;
  readonly port: number;
  /** The environment decides; a choice at the desk has no effect. */
  readonly fixed: boolean;
  readonly hasKey: boolean;
  /** What was chosen for the next start. */
  readonly chosen?: { readonly host: string };
  /** The certificate for others from the next start on; none while only this computer can reach the program. */
  readonly certificate?: {
    /** SHA-256, as browsers show it. */
    readonly fingerprint: string;
    readonly madeBy: 'program' | 'environment' | 'given';
    /** In milliseconds since 1970. */
    readonly until: number;
  };
}

/** A copy of the show that was made by itself. */
interface BackupEntry {
  readonly name: string;
  readonly at: number;
  readonly why: string;
  readonly bytes: number;
}

interface DeskContextValue {
  /** Stores an edit, and with it passwords by device: both or neither. */
  readonly edit: (edit: Edit, passwords?: Readonly<Record<string, string>>) => Promise<boolean>;
  /** Says something in a notice. What is bad stays until somebody dismisses it. */
  readonly say: (text: string, bad?: boolean) => void;
  readonly undo: () => Promise<boolean>;
  readonly redo: () => Promise<boolean>;
  readonly putInService: () => Promise<boolean>;
  readonly stepBack: () => Promise<boolean>;
  readonly leaveService: () => Promise<boolean>;
  /** The answer says what is wrong, place by place, when it is not installed. */
  readonly installDriver: (text: string, older?: boolean) => Promise<ActionResult>;
  readonly removeDriver: (id: string) => Promise<boolean>;
  readonly setPassword: (device: string, password: string) => Promise<boolean>;
  /** Loads a file that was staged. */
  readonly loadShow: (id: string, passphrase: string, addresses: LoadedAddresses) => Promise<ActionResult>;
  readonly listBackups: DeskActions['listBackups'];
  readonly history: DeskActions['history'];
  readonly stageBackup: DeskActions['stageBackup'];
  readonly standins: (on: boolean) => Promise<boolean>;
  readonly loadDemo: () => Promise<boolean>;
  readonly listen: DeskActions['listen'];
  readonly chooseListen: (host: string, accessKey: string) => Promise<boolean>;
  readonly giveCertificate: DeskActions['giveCertificate'];
  /** True while an edit is on its way; what is seen is then not yet stored. */
  readonly saving: boolean;
  /** Waits until what was edited here is stored or refused. */
  readonly settled: () => Promise<void>;
  readonly window: string;
}

const DeskContext = createContext<DeskContextValue | null>(null);

export function DeskProviders({ actions, children }: { readonly actions: DeskActions; readonly children: ReactNode }) {
  const [queries] = useState(() => new QueryClient());
  return (
    <QueryClientProvider client={queries}>
      <LiveProvider role="desk">
        <DeskActionsProvider actions={actions}>{children}</DeskActionsProvider>
      </LiveProvider>
    </QueryClientProvider>
  );
}

function DeskActionsProvider({ actions, children }: { readonly actions: DeskActions; readonly children: ReactNode }) {
  const [saving, setSaving] = useState(0);
  const [pending, setPending] = useState<readonly Edit[]>([]);
  const window = useWindowId();
  const queries = useQueryClient();
  const live = useLive();
  useEffect(() => live.onError((text) => tellRefused(<VeiledText text={text} />, text)), [live]);
  const ask = useCallback(
    async (work: () => Promise<ActionResult>, about = 'action', isEdit = false): Promise<ActionResult> => {
      let result: ActionResult;
      setSaving((count) => count + 1);
      try {
        result = await work();
      } catch {
        result = {
          ok: false,
          message: 'Not saved: the desk is cut off from the program. Is it restarting? Try again in a moment.',
        };
      }
      setSaving((count) => count - 1);
      // An edit is seen where it was made.
      if (!result.ok) tellRefused(<VeiledText text={result.message} />, `refused ${about}`);
      else {
        tellMended(`refused ${about}`);
        if (!isEdit) tellDone(<VeiledText text={result.said} />, `done ${about}`);
      }
      await queries.invalidateQueries({ queryKey: ['show'] });
      return result;
    },
    [queries],
  );
  const run = useCallback(
    async (work: () => Promise<ActionResult>, about?: string, isEdit?: boolean) => (await ask(work, about, isEdit)).ok,
    [ask],
  );
  const value = useMemo(
    (): DeskContextValue => ({
      edit: async (edit, passwords = {}) => {
        // What changes nothing is no error, and nothing to ask for.
        if (edit.changes.length === 0 && Object.keys(passwords).length === 0) return true;
        // Seen at once; what was stored, or refused, follows.
        setPending((before) => [...before, edit]);
        const done = await run(() => inTurn(() => postEdit(edit, passwords, window)), edit.title, true);
        setPending((before) => before.filter((each) => each !== edit));
        return done;
      },
      say: (text, bad = false) => (bad ? tellRefused : tellDone)(<VeiledText text={text} />, bad ? text : 'said'),
      undo: () => run(() => inTurn(() => actions.undo(window)), 'undo'),
      redo: () => run(() => inTurn(() => actions.redo(window)), 'undo'),
      putInService: () => run(() => actions.putInService(''), 'service'),
      stepBack: () => run(() => actions.stepBack(), 'service'),
      leaveService: () => run(() => actions.leaveService(), 'service'),
      installDriver: (text, older = false) => ask(() => actions.installDriver(text, older), 'driver'),
      removeDriver: (id) => run(() => actions.removeDriver(id), 'driver'),
      setPassword: (device, password) => run(() => actions.setPassword(device, password), 'password'),
      loadShow: (id, passphrase, addresses) =>
        ask(() => postJson('/desk/show-file/load', { id, passphrase, addresses, window }), 'show'),
      listBackups: actions.listBackups,
      history: actions.history,
      stageBackup: actions.stageBackup,
      standins: (on) => run(() => actions.standins(on), 'stand-ins'),
      loadDemo: () => run(() => actions.loadDemo(window), 'show'),
      listen: actions.listen,
      chooseListen: (host, accessKey) => run(() => actions.chooseListen(host, accessKey), 'listen'),
      giveCertificate: (given) => ask(() => actions.giveCertificate(given), 'certificate'),
      saving: saving > 0,
      settled,
      window,
    }),
    [actions, ask, run, saving, window],
  );
  return (
    <DeskContext value={value}>
      <ShowProvider window={window} pending={pending}>
        {children}
      </ShowProvider>
    </DeskContext>
  );
}

/** Edits, and taking them back, go one after the other: each is made on what the one before leaves behind. */
let lastEdit: Promise<unknown> = Promise.resolve();
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const mine = lastEdit.then(work, work);
  lastEdit = mine.catch(() => undefined);
  return mine;
}

const settled = () => inTurn(async () => undefined);

/** A browser lets requests of this size outlive the page that made them (Fetch standard, "HTTP-network-or-cache fetch", 64 KiB). */
const outlivesBytes = 60_000;

async function postEdit(
  edit: Edit,
  passwords: Readonly<Record<string, string>>,
  window: string,
): Promise<ActionResult> {
  const body = new TextEncoder().encode(JSON.stringify({ edit, window, passwords }));
  const answer = await fetch('/desk/edit', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body,
    // A window that is closed right after an edit does not take it along.
    keepalive: body.length < outlivesBytes,
  });
  return (await answer.json()) as ActionResult;
}

async function postJson(path: string, body: unknown): Promise<ActionResult> {
  const answer = await fetch(path, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  return (await answer.json()) as ActionResult;
}

/** Undo belongs to a window: it survives a reload of the page, and another window has its own. */
function useWindowId(): string {
  const [id, setId] = useState('');
  useEffect(() => {
    let known = sessionStorage.getItem('sorrelfinch-window');
    if (!known) {
      known = Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => (byte % 36).toString(36)).join('');
      sessionStorage.setItem('sorrelfinch-window', known);
    }
    const timer = setTimeout(setId, 0, known);
    return () => clearTimeout(timer);
  }, []);
  return id;
}

export function useDesk(): DeskContextValue {
  const value = useContext(DeskContext);
  if (!value) throw new Error('useDesk needs DeskProviders above it.');
  return value;
}
