import {
  applyDiff,
  type Aim,
  type ChooseMessage,
  type ClientMessage,
  type Gesture,
  type PressReport,
  type ScreenAct,
  type ServerMessage,
  type TrialMessage,
  type TryMessage,
} from '../../core/live';

/** How the browser's connection to the engine stands. */
export type Connection =
  | { readonly at: 'calling'; readonly since: number }
  | { readonly at: 'open' }
  /** Cut off since then; trying again all the time. */
  | { readonly at: 'cut'; readonly since: number };

/** The last press of a control, for its mark. */
export interface PressMark extends PressReport {
  readonly control: string;
  /** By the browser's clock, in milliseconds since 1970. */
  readonly endedAt: number | undefined;
}

/** What a screen says of itself. */
type Place = Pick<Extract<ClientMessage, { t: 'here' }>, 'title' | 'panel' | 'page' | 'gear'>;
type Recorded = Extract<ServerMessage, { t: 'recorded' }>;
export type Invited = Extract<ServerMessage, { t: 'invited' }>;

/** A hand on something that turns. */
export interface Turning {
  readonly to: (x: number, y?: number) => void;
  readonly release: () => void;
}

interface Topic {
  readonly listeners: Set<() => void>;
  /** `undefined` until the first whole; `null` when the engine says there is none. */
  data: unknown;
  n: number;
  /** A difference was missed: those that follow wait for the whole. */
  broken: boolean;
}

/** The part of a WebSocket that is used, so that tests can bring another. */
export interface SocketLike {
  readonly readyState: number;
  /** Topics that were asked for on it already. */
  readonly asked?: readonly string[];
  send(text: string): void;
  close(): void;
  onopen: (() => void) | null;
  onmessage: ((event: { data: unknown }) => void) | null;
  onclose: (() => void) | null;
  onerror: (() => void) | null;
}

/** The mark of the last trial, beside those of the controls. */
export const trialMark = 'trial';

const open = 1;
const pingEveryMs = 1000;
/** Whoever hears nothing for so long is cut off and says so. */
const quietMostMs = 2600;
/** After a sleep the engine is given so long for a word before the connection counts as dead. */
const wakeWithinMs = 900;
const smoothing = 0.3;
const longestRetryMs = 1000;
/** Well within the second after which the engine takes silence for letting go. */
const stillEveryMs = 250;

/**
 * The browser's end of `/live`: keeps topics up to date by numbered differences, asks for the whole when one was missed,
 * connects again for ever, and sends presses. No React in here; `hooks.ts` is the bridge.
 */
export class LiveClient {
  private socket: SocketLike | undefined;
  private connection: Connection = { at: 'calling', since: Date.now() };
  private readonly topics = new Map<string, Topic>();
  private readonly connectionListeners = new Set<() => void>();
  private readonly pressListeners = new Set<() => void>();
  private marks: ReadonlyMap<string, PressMark> = new Map();
  private lastMark: PressMark | undefined;
  private readonly controlOf = new Map<string, string>();
  private clockOffsetMs = 0;
  private failures = 0;
  private heardAt = 0;
  private retry: ReturnType<typeof setTimeout> | undefined;
  private heartbeat: ReturnType<typeof setInterval> | undefined;
  private running = false;
  private pingedAt = 0;
  private beatAt = 0;
  private delay: number | undefined;
  private cuts = 0;
  private missed = 0;
  private place: Place = { title: '' };
  private readonly actListeners = new Set<(act: ScreenAct) => void>();
  private readonly recordedListeners = new Set<(heard: Recorded['heard']) => void>();
  private readonly errorListeners = new Set<(message: string) => void>();
  private readonly inviteListeners = new Set<(invite: Invited) => void>();

  constructor(
    private readonly connect: () => SocketLike,
    private readonly newId: () => string,
    /** Which screen this is, the same after a reload. */
    private readonly screen?: string,
  ) {}

  start(): void {
    if (this.running) return;
    this.running = true;
    this.beatAt = Date.now();
    this.dial();
    this.heartbeat = setInterval(() => this.beat(), pingEveryMs);
  }

  stop(): void {
    this.running = false;
    clearTimeout(this.retry);
    clearInterval(this.heartbeat);
    const { socket } = this;
    this.socket = undefined;
    if (socket) {
      socket.onopen = socket.onmessage = socket.onclose = socket.onerror = null;
      socket.close();
    }
  }

  readonly getConnection = (): Connection => this.connection;
  readonly onConnection = (listener: () => void): (() => void) => follow(this.connectionListeners, listener);

  /** The engine's time, in milliseconds since 1970. */
  now(): number {
    return Date.now() + this.clockOffsetMs;
  }

  /** The topic as it is now: `undefined` while not known, `null` when there is none. */
  readonly getTopic = (name: string): unknown => this.topics.get(name)?.data;

  readonly onTopic = (name: string, listener: () => void): (() => void) => {
    let topic = this.topics.get(name);
    if (!topic) {
      topic = { listeners: new Set(), data: undefined, n: 0, broken: false };
      this.topics.set(name, topic);
      this.say({ t: 'sub', topics: [name] });
    }
    const { listeners } = topic;
    listeners.add(listener);
    return () => {
      listeners.delete(listener);
      // A screen that is left and entered again at once keeps its topic.
      if (listeners.size === 0) this.leaveLater(name, listeners, 500);
    };
  };

  /** A topic that was asked for before anybody listens to it. */
  private keepAhead(name: string): void {
    if (this.topics.has(name)) return;
    const listeners: Topic['listeners'] = new Set();
    this.topics.set(name, { listeners, data: undefined, n: 0, broken: false });
    this.leaveLater(name, listeners, 5000);
  }

  private leaveLater(name: string, listeners: Topic['listeners'], afterMs: number): void {
    setTimeout(() => {
      if (listeners.size > 0 || this.topics.get(name)?.listeners !== listeners) return;
      this.topics.delete(name);
      this.say({ t: 'unsub', topics: [name] });
    }, afterMs);
  }

  readonly getMarks = (): ReadonlyMap<string, PressMark> => this.marks;
  readonly getLastMark = (): PressMark | undefined => this.lastMark;
  readonly onMarks = (listener: () => void): (() => void) => follow(this.pressListeners, listener);

  /**
   * Presses a control. A press that cannot go out now ends as lost; it is never sent later. `guard` says that the person
   * meant it, where what it sends is risky.
   */
  press(page: string, control: string, gesture: Gesture = 'tap', guard = false, context?: string): string {
    const id = this.newId();
    this.controlOf.set(id, control);
    if (this.say({ t: 'press', id, page, control, gesture, ...(guard ? { guard } : {}), ...within(context) })) {
      this.mark({ t: 'press', id, outcome: 'taken', ms: 0 });
    } else {
      this.mark({
        t: 'press',
        id,
        outcome: 'lost',
        why: 'link-down',
        ms: 0,
        reason: 'This panel is cut off from the engine. The press was not sent.',
      });
    }
    return id;
  }

  /** Answers what a press has asked; without answers it ends. */
  answer(id: string, given: Extract<ClientMessage, { t: 'answer' }>['given']): boolean {
    return this.say({ t: 'answer', id, ...(given ? { given } : {}) });
  }

  /** Holds a control down: what it starts goes on until the returned function is called, or this browser is gone. */
  hold(page: string, control: string, guard = false, context?: string): () => void {
    return this.keepHolding(this.press(page, control, 'hold', guard, context));
  }

  /** A hand on a fader, a dial or a stick; what it sets is told until it lets go. */
  turn(page: string, control: string, context?: string): Turning {
    const id = this.newId();
    this.controlOf.set(id, control);
    const still = setInterval(() => this.say({ t: 'still', id }), stillEveryMs);
    let held = true;
    return {
      to: (x, y) => {
        const at = y === undefined ? { x } : { x, y };
        if (this.say({ t: 'turn', id, page, control, ...at, ...within(context) })) return;
        const reason = 'This panel is cut off from the engine. Nothing was sent.';
        this.mark({ t: 'press', id, outcome: 'lost', why: 'link-down', ms: 0, reason });
      },
      release: () => {
        if (!held) return;
        held = false;
        clearInterval(still);
        this.say({ t: 'release', id });
      },
    };
  }

  /** Carries out an act of a list, on the item with this index or on the list as it stands. */
  choose(
    page: string,
    control: string,
    { act, index, given, guard, context }: Pick<ChooseMessage, 'act' | 'index' | 'given' | 'guard' | 'context'>,
  ): void {
    const id = this.newId();
    this.controlOf.set(id, control);
    const gone = this.say({ t: 'choose', id, page, control, act, index, given, guard, context });
    const reason = 'This panel is cut off from the engine. Nothing was sent.';
    this.mark(
      gone
        ? { t: 'press', id, outcome: 'taken', ms: 0 }
        : { t: 'press', id, outcome: 'lost', why: 'link-down', ms: 0, reason },
    );
  }

  private keepHolding(id: string): () => void {
    const still = setInterval(() => this.say({ t: 'still', id }), stillEveryMs);
    let held = true;
    return () => {
      if (!held) return;
      held = false;
      clearInterval(still);
      this.say({ t: 'release', id });
    };
  }

  /** Sends one command by hand, without a control; its mark is that of `device`. What it starts while held goes on until the returned function is called. */
  tryCommand(
    device: string,
    command: string,
    params: TryMessage['params'],
    how: Pick<TryMessage, 'gesture' | 'guard'>,
  ): () => void {
    const id = this.newId();
    this.controlOf.set(id, device);
    const gone = this.say({ t: 'try', id, device, command, params, ...how });
    const reason = 'The desk is cut off from the engine. The command was not sent.';
    this.mark(
      gone
        ? { t: 'press', id, outcome: 'taken', ms: 0 }
        : { t: 'press', id, outcome: 'lost', why: 'link-down', ms: 0, reason },
    );
    return how.gesture === 'hold' ? this.keepHolding(id) : () => undefined;
  }

  /**
   * Presses a control as it stands in the editor; its mark is that of `trialMark`, with what was sent or would have been. What it
   * starts while held goes on until the returned function is called.
   */
  tryControl(
    control: TrialMessage['control'],
    how: Pick<TrialMessage, 'gesture' | 'guard' | 'aim' | 'of'>,
  ): () => void {
    const id = this.newId();
    this.controlOf.set(id, trialMark);
    const gone = this.say({ t: 'trial', id, control, ...how });
    const reason = 'The desk is cut off from the engine. Nothing was tried.';
    this.mark(
      gone
        ? { t: 'press', id, outcome: 'taken', ms: 0 }
        : { t: 'press', id, outcome: 'lost', why: 'link-down', ms: 0, reason },
    );
    return how.gesture === 'hold' ? this.keepHolding(id) : () => undefined;
  }

  /** Begins a macro from the desk; its mark is that of the macro's id. */
  runMacro(macro: string, params: Extract<ClientMessage, { t: 'run' }>['params'], aim: 'live' | 'dry'): void {
    const id = this.newId();
    this.controlOf.set(id, macro);
    if (this.say({ t: 'run', id, macro, params, aim })) return;
    const reason = 'The desk is cut off from the engine. Nothing was begun.';
    this.mark({ t: 'press', id, outcome: 'lost', why: 'link-down', ms: 0, reason });
  }

  /** Records what is done by hand. What was recorded comes to those who listen for it. */
  record(what: 'begin' | 'take' | 'forget'): boolean {
    return this.say({ t: 'record', do: what });
  }

  readonly onRecorded = (listener: (heard: Recorded['heard']) => void): (() => void) => {
    this.recordedListeners.add(listener);
    return () => void this.recordedListeners.delete(listener);
  };

  /** Ends a run, at once or by its way out; all of them without one. */
  endRun(run: string | undefined, way: 'stop' | 'way out'): void {
    this.say({ t: 'end run', ...(run === undefined ? {} : { run }), way });
  }

  /** Another try now for a device that is down or locked out. */
  callAgain(device: string): void {
    this.say({ t: 'call', device });
  }

  setAim(aim: Aim): void {
    this.say({ t: 'aim', aim });
  }

  /** Where this screen is: told to the desk's list, again with each connection and as its delay changes. */
  here(place: Place): void {
    this.place = place;
    this.sayHere();
  }

  /** Has another screen do something. */
  tell(to: string, act: Extract<ClientMessage, { t: 'tell' }>['act']): boolean {
    return this.say({ t: 'tell', to, act });
  }

  seen(note: string): void {
    this.say({ t: 'seen', note });
  }

  /** On a linked panel: all its screens show this. */
  together(panel: string, page: string, context: string | undefined): void {
    this.say({ t: 'together', panel, page, ...within(context) });
  }

  /** Asks for a way in for a panel; the listener gets it. */
  invite(panel: string): boolean {
    return this.say({ t: 'invite', panel });
  }

  throwOut(joined: string): void {
    this.say({ t: 'throw out', joined });
  }

  /** Takes an invitation back that nobody has used. */
  withdraw(invite: string): void {
    this.say({ t: 'withdraw', invite });
  }

  readonly onAct = (listener: (act: ScreenAct) => void): (() => void) => {
    this.actListeners.add(listener);
    return () => void this.actListeners.delete(listener);
  };

  /** What the engine would not do. */
  readonly onError = (listener: (message: string) => void): (() => void) => {
    this.errorListeners.add(listener);
    return () => void this.errorListeners.delete(listener);
  };

  readonly onInvited = (listener: (invite: Invited) => void): (() => void) => {
    this.inviteListeners.add(listener);
    return () => void this.inviteListeners.delete(listener);
  };

  /** The screen was asleep, or the network is another: finds out at once whether the engine still hears it. */
  wake(): void {
    if (!this.running) return;
    if (!this.socket) {
      this.failures = 0;
      return this.dial();
    }
    const { socket } = this;
    const asked = Date.now();
    this.ping();
    setTimeout(() => {
      if (this.socket === socket && this.heardAt < asked) this.drop(socket);
    }, wakeWithinMs);
  }

  private sayHere(): void {
    if (this.place.title === '') return;
    const { cuts, missed, delay } = this;
    const delayMs = delay === undefined ? {} : { delayMs: Math.round(delay * 10) / 10 };
    const screen = this.screen === undefined ? {} : { screen: this.screen };
    this.say({ t: 'here', ...this.place, ...screen, ...delayMs, cuts, missed });
  }

  private ping(): void {
    this.pingedAt = performance.now();
    this.say({ t: 'ping' });
  }

  private drop(socket: SocketLike): void {
    socket.close();
    this.onClosed(socket);
  }

  private dial(): void {
    clearTimeout(this.retry);
    let socket: SocketLike;
    try {
      socket = this.connect();
    } catch {
      return this.dialLater();
    }
    this.socket = socket;
    for (const name of socket.asked ?? []) this.keepAhead(name);
    socket.onopen = () => this.onOpen();
    socket.onmessage = (event) => this.onMessage(String(event.data));
    socket.onclose = () => this.onClosed(socket);
    socket.onerror = () => undefined;
    this.heardAt = Date.now();
  }

  private onOpen(): void {
    this.failures = 0;
    this.heardAt = Date.now();
    const asked = this.socket?.asked ?? [];
    const topics = [...this.topics.keys()].filter((name) => !asked.includes(name));
    for (const topic of this.topics.values()) topic.broken = true;
    for (let i = 0; i < topics.length; i += 32) this.say({ t: 'sub', topics: topics.slice(i, i + 32) });
    for (const mark of this.marks.values()) if (mark.endedAt === undefined) this.say({ t: 'ask', id: mark.id });
    this.setConnection({ at: 'open' });
    this.sayHere();
    this.ping();
  }

  private onClosed(socket: SocketLike): void {
    if (this.socket !== socket) return;
    this.socket = undefined;
    if (!this.running) return;
    if (this.connection.at === 'open') {
      this.cuts += 1;
      this.setConnection({ at: 'cut', since: Date.now() });
    }
    this.dialLater();
  }

  private dialLater(): void {
    this.failures += 1;
    const waitMs = this.failures === 1 ? 50 : Math.min(longestRetryMs, 100 * 2 ** (this.failures - 2));
    this.retry = setTimeout(() => this.dial(), waitMs * (0.75 + Math.random() * 0.25));
  }

  private beat(): void {
    if (!this.socket) {
      this.beatAt = Date.now();
      return;
    }
    const late = Date.now() - this.beatAt;
    this.beatAt = Date.now();
    // This screen itself stood still: what was said to it meanwhile is not read yet.
    if (late > 2 * pingEveryMs) return this.wake();
    // Nothing came for too long: a socket that hangs is as good as none.
    if (Date.now() - this.heardAt > quietMostMs) return this.drop(this.socket);
    this.ping();
  }

  private say(message: ClientMessage): boolean {
    if (this.socket?.readyState !== open) return false;
    this.socket.send(JSON.stringify(message));
    return true;
  }

  private onMessage(text: string): void {
    this.heardAt = Date.now();
    const message = JSON.parse(text) as ServerMessage;
    switch (message.t) {
      case 'hello':
        this.clockOffsetMs = message.now - Date.now();
        return;
      case 'whole':
        return this.onWhole(message.topic, message.n, message.data);
      case 'none':
        return this.onWhole(message.topic, 0, null);
      case 'diff':
        return this.onDiff(message.topic, message.n, message.data);
      case 'press':
        return this.mark(message);
      case 'do':
        for (const listener of this.actListeners) listener(message.act);
        return;
      case 'recorded':
        for (const listener of this.recordedListeners) listener(message.heard);
        return;
      case 'invited':
        for (const listener of this.inviteListeners) listener(message);
        return;
      case 'pong': {
        const took = performance.now() - this.pingedAt;
        const before = this.delay;
        this.delay = before === undefined ? took : before + (took - before) * smoothing;
        // Only what a person would call another delay is told.
        if (before === undefined || Math.abs(before - took) > Math.max(2, before / 2)) this.sayHere();
        return;
      }
      case 'error':
        for (const listener of this.errorListeners) listener(message.message);
        return;
    }
  }

  private onWhole(name: string, n: number, data: unknown): void {
    const topic = this.topics.get(name);
    if (!topic) return;
    Object.assign(topic, { n, data, broken: false });
    for (const listener of topic.listeners) listener();
  }

  private onDiff(name: string, n: number, data: unknown): void {
    const topic = this.topics.get(name);
    if (!topic || topic.broken || topic.data === undefined || topic.data === null) return;
    if (n !== topic.n + 1) {
      topic.broken = true;
      this.missed += 1;
      this.say({ t: 'again', topic: name });
      return;
    }
    topic.n = n;
    topic.data = applyDiff(name, topic.data, data);
    for (const listener of topic.listeners) listener();
  }

  private mark(report: PressReport): void {
    const control = this.controlOf.get(report.id);
    if (control === undefined) return;
    const ended = report.outcome !== 'taken' && report.outcome !== 'waiting';
    const known = this.marks.get(control);
    // A control pressed twice shows the newer press.
    if (known && known.id !== report.id && known.endedAt === undefined && ended)
      return void this.controlOf.delete(report.id);
    const mark: PressMark = { ...report, control, endedAt: ended ? Date.now() : undefined };
    if (ended && report.outcome !== 'late') this.controlOf.delete(report.id);
    this.marks = new Map(this.marks).set(control, mark);
    this.lastMark = mark;
    for (const listener of this.pressListeners) listener();
  }

  private setConnection(connection: Connection): void {
    this.connection = connection;
    for (const listener of this.connectionListeners) listener();
  }
}

const within = (context: string | undefined) => (context === undefined ? {} : { context });

function follow(listeners: Set<() => void>, listener: () => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}
