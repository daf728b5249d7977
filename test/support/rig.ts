import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { onTestFinished as onThisTestFinished } from 'vitest';
import WebSocket from 'ws';
import {
  applyDiff,
  type ClientMessage,
  type LiveChange,
  type PressReport,
  type ServerMessage,
  type StatusView,
} from '../../src/core/live';
import type { Edit, ShowRecord } from '../../src/core/show';
import { Engine, type PictureRelay, type Prober } from '../../src/engine';
import type { Checker } from '../../src/engine/line-check/checker';
import { HouseSync, SwitcherStandin } from '../../src/standins';
import { commitEdit, openShow, writePassword, writeLive, type Opened, type ShowDb } from '../../src/store';
import { paced } from './pace';
import { rehearsalsHere } from './rehearsals';

/** Clean-up that is waiting for a group of tests to end, instead of for the one that is running. */
let shared: (() => unknown)[] | undefined;

export const onTestFinished = (clean: () => unknown): void => {
  if (shared) shared.push(clean);
  else onThisTestFinished(async () => void (await clean()));
};

/** Sets something up that a whole group of tests shares; the second value ends it. */
export async function runAsOne<T>(make: () => Promise<T>): Promise<[T, () => Promise<void>]> {
  const cleanUps: (() => unknown)[] = [];
  shared = cleanUps;
  try {
    const made = await make();
    return [
      made,
      async () => {
        for (const clean of cleanUps.reverse()) await clean();
      },
    ];
  } finally {
    shared = undefined;
  }
}

/** An engine of its own for a test, with its data folder and a door for WebSockets; all of it ends with the test. */
export interface TestRig {
  readonly engine: Engine;
  readonly db: ShowDb;
  readonly dataDir: string;
  readonly url: string;
  readonly edit: (edit: Edit) => void;
  /** Stops the engine and starts another on the same data. */
  readonly restart: () => Promise<void>;
  /** The engine is gone from one moment to the next, without a word to any device. */
  readonly crash: () => Promise<void>;
  /** Another engine on the data of the one that crashed. */
  readonly revive: () => Promise<void>;
}

export async function startRig(
  records: readonly ShowRecord[],
  drivers: readonly unknown[],
  passwords: Readonly<Record<string, string>> = {},
  prober?: Prober,
  checker?: (dataDir: string) => Checker,
  pictures?: PictureRelay,
): Promise<TestRig> {
  const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  const opened: Opened<ShowDb> = openShow(dataDir);
  const rehearsals = rehearsalsHere();
  const more = {
    ...(prober ? { prober } : {}),
    ...(checker ? { checker: checker(dataDir) } : {}),
    ...(pictures ? { pictures } : {}),
  };
  let made = 0;
  /** As Next.js does it, in this process. */
  const write = async (change: LiveChange) => {
    const message = await writeLive(opened.db, change, Date.now(), (kind) => `${kind}-made-${(made += 1)}`);
    await engine.onShowChanged();
    return message;
  };
  const newEngine = (): Engine => new Engine({ dataDir, drivers, rehearsals, writeLive: write, ...more });
  let engine = newEngine();
  const server = createServer();
  onTestFinished(async () => {
    server.closeAllConnections();
    server.close();
    await engine.stop();
    await rehearsals.stop();
    opened.close();
    rmSync(dataDir, { recursive: true, force: true });
  });
  const commit = (edit: Edit) => {
    const done = commitEdit(opened.db, edit, 'testwindow', Date.now());
    if (!done.ok) throw new Error(done.error.message);
  };
  for (const [device, password] of Object.entries(passwords)) writePassword(opened.db, dataDir, device, password);
  commit({ title: 'Start', changes: records.map((record) => ({ op: 'add', record })) });
  server.on('upgrade', (req, socket, head) => {
    const joined = engine.panels.whoIs(/credential=([^&]+)/.exec(req.url ?? '')?.[1] ?? '');
    if (joined) engine.hub.accept(req, socket, head, { kind: 'panel', panel: joined.panel, joined });
    else engine.hub.accept(req, socket, head, { kind: req.url?.includes('panel') ? 'panel' : 'desk' });
  });
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  await engine.start();
  return {
    get engine() {
      return engine;
    },
    db: opened.db,
    dataDir,
    url: `ws://127.0.0.1:${(server.address() as AddressInfo).port}/live`,
    edit: (edit) => {
      commit(edit);
      void engine.onShowChanged();
    },
    crash: () => engine.abandon(),
    revive: async () => {
      engine = newEngine();
      await engine.start();
    },
    restart: async () => {
      await engine.stop();
      engine = newEngine();
      await engine.start();
    },
  };
}

/** The switcher stand-in on a free port; it ends with the test. */
export async function startSwitcher(): Promise<SwitcherStandin> {
  const sync = new HouseSync(25);
  const switcher = new SwitcherStandin({ tag: 'SW1', sync, host: '127.0.0.1', port: 0 });
  onTestFinished(async () => {
    sync.stop();
    await switcher.stop();
  });
  await switcher.setPower(true);
  return switcher;
}

/** A bare client of `/live`: everything that came, and waiting for what is still to come. */
export class TestClient {
  readonly got: ServerMessage[] = [];
  private readonly waiting = new Set<() => void>();
  private readonly topics = new Map<string, unknown>();
  private listener: ((message: ServerMessage) => void) | undefined;

  private constructor(private readonly socket: WebSocket) {
    socket.on('message', (data) => {
      const message = JSON.parse(String(data)) as ServerMessage;
      this.got.push(message);
      this.listener?.(message);
      if (message.t === 'whole') this.topics.set(message.topic, message.data);
      if (message.t === 'diff')
        this.topics.set(message.topic, applyDiff(message.topic, this.topics.get(message.topic), message.data));
      for (const check of [...this.waiting]) check();
    });
  }

  static open(url: string): Promise<TestClient> {
    const socket = new WebSocket(url);
    onTestFinished(() => socket.terminate());
    const client = new TestClient(socket);
    return new Promise((resolve, reject) => {
      socket.once('open', () => resolve(client));
      socket.once('error', reject);
    });
  }

  say(message: ClientMessage | Record<string, unknown>): void {
    this.socket.send(JSON.stringify(message));
  }

  sayRaw(text: string): void {
    this.socket.send(text);
  }

  /** Tells every message as it comes. */
  onMessage(listener: (message: ServerMessage) => void): void {
    this.listener = listener;
  }

  /** A topic that is followed, as it is now. */
  topic(name: string): unknown {
    return this.topics.get(name);
  }

  close(): void {
    this.socket.terminate();
  }

  get closed(): Promise<number> {
    return new Promise((resolve) => void this.socket.once('close', resolve));
  }

  /** The first message that fits, among those that came and those that will. */
  next<M extends ServerMessage>(fits: (message: ServerMessage) => message is M, from?: number): Promise<M>;
  next(fits: (message: ServerMessage) => boolean, from?: number): Promise<ServerMessage>;
  next(fits: (message: ServerMessage) => boolean, from = 0): Promise<ServerMessage> {
    return eventually(() => this.got.slice(from).find(fits), this.waiting);
  }

  /** Follows a topic and resolves with the whole of it. */
  async follow<T>(topic: string): Promise<T> {
    const from = this.got.length;
    this.say({ t: 'sub', topics: [topic] });
    const message = await this.next((each) => each.t === 'whole' && each.topic === topic, from);
    return (message as { data: T }).data;
  }

  /** Resolves when the client has heard that a device's link is this word, now or from now on. */
  async linkIs(device: string, word: string): Promise<void> {
    const from = this.got.length;
    this.say({ t: 'sub', topics: ['status'] });
    await this.next((message) => {
      if (!('topic' in message) || message.topic !== 'status' || message.t === 'none') return false;
      const { devices } = message.data as { devices?: StatusView['devices'] & { put?: StatusView['devices'] } };
      return (devices?.put ?? devices)?.[device]?.link.word === word;
    }, from);
  }

  /** Presses and resolves with the final outcome. */
  async press(
    page: string,
    control: string,
    id = `press-${Math.random().toString(36).slice(2, 12)}`,
  ): Promise<PressReport> {
    this.say({ t: 'press', id, page, control, gesture: 'tap' });
    return this.outcome(id);
  }

  async outcome(id: string): Promise<PressReport> {
    const done = await this.next(
      (each) => each.t === 'press' && each.id === id && each.outcome !== 'waiting' && each.outcome !== 'taken',
    );
    return done as PressReport;
  }
}

/** Waits until `find` gives something, looking again whenever `changes` is called, with a deadline. */
function eventually<T>(find: () => T | undefined, changes: Set<() => void>): Promise<T> {
  return new Promise((resolve, reject) => {
    const deadline = setTimeout(() => {
      changes.delete(check);
      reject(new Error('It did not come within 8 s.'));
    }, paced(8000));
    const check = () => {
      const found = find();
      if (found === undefined) return;
      clearTimeout(deadline);
      changes.delete(check);
      resolve(found);
    };
    changes.add(check);
    check();
  });
}

/** Asks again and again, with short pauses, until the answer fits. */
export async function until<T>(ask: () => T | Promise<T>, fits: (value: T) => boolean, withinMs = 8000): Promise<T> {
  const deadline = performance.now() + paced(withinMs);
  for (;;) {
    const value = await ask();
    if (fits(value)) return value;
    if (performance.now() > deadline) throw new Error(`It was still ${JSON.stringify(value)} after ${withinMs} ms.`);
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
}
