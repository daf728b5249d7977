import type {
  Aim,
  CheckAnswer,
  BindingChange,
  ChooseMessage,
  PresetMessage,
  ClientMessage,
  Gesture,
  ScreenAct,
  ServerMessage,
  TrialMessage,
  TryMessage,
} from '../../core/live';
import { Listeners } from './listeners';
import { LiveSocket, type SocketLike } from './live-socket';
import { PressMarks } from './press-marks';
import { TopicCache } from './topic-cache';

/** What a screen says of itself. */
type Whereabouts = Pick<Extract<ClientMessage, { t: 'here' }>, 'title' | 'panel' | 'page' | 'tally' | 'clock' | 'gear'>;
type Recorded = Extract<ServerMessage, { t: 'recorded' }>;
type Explained = Extract<ServerMessage, { t: 'explained' }>;
export type Invited = Extract<ServerMessage, { t: 'invited' }>;

/** A hand on something that turns. */
export interface Turning {
  /** @param slow of a stick: as slowly as its device is set to go then */
  readonly to: (x: number, y?: number, slow?: true) => void;
  readonly release: () => void;
}

/** The mark of the last trial, beside those of the controls. */
export const trialMark = 'trial';

const panelCutOff = 'This panel is cut off from the engine. The press was not sent.';
const nothingSent = 'This panel is cut off from the engine. Nothing was sent.';

/** The browser's end of `/live`: what a screen can have the engine do. No React in here; `hooks.tsx` is the bridge. */
export class LiveClient {
  private readonly socket: LiveSocket;
  private readonly topics: TopicCache;
  private readonly presses: PressMarks;
  private place: Whereabouts = { title: '' };
  private readonly acts = new Listeners<[ScreenAct]>();
  private readonly recorded = new Listeners<[Recorded['heard']]>();
  private readonly errors = new Listeners<[string]>();
  private readonly invites = new Listeners<[Invited]>();
  private readonly explained = new Listeners<[Explained]>();

  constructor(
    connect: () => SocketLike,
    newId: () => string,
    /** Which screen this is, the same after a reload. */
    private readonly screen?: string,
  ) {
    this.socket = new LiveSocket(connect, {
      onDialled: (asked) => this.topics.keepAhead(asked),
      onOpen: (asked) => this.onOpen(asked),
      onMessage: (message) => this.onMessage(message),
      onDelay: () => this.sayHere(),
    });
    this.topics = new TopicCache(this.socket.say);
    this.presses = new PressMarks(this.socket.say, newId);
    this.getConnection = this.socket.getConnection;
    this.onConnection = this.socket.onConnection;
    this.getTopic = this.topics.get;
    this.onTopic = this.topics.listen;
    this.getMarks = this.presses.get;
    this.getLastMark = this.presses.getLast;
    this.onMarks = this.presses.listen;
  }

  readonly getConnection: LiveSocket['getConnection'];
  readonly onConnection: LiveSocket['onConnection'];
  readonly getTopic: TopicCache['get'];
  readonly onTopic: TopicCache['listen'];
  readonly getMarks: PressMarks['get'];
  readonly getLastMark: PressMarks['getLast'];
  readonly onMarks: PressMarks['listen'];
  /** What the engine has this screen do. */
  readonly onAct = this.acts.add;
  /** What was recorded by hand. */
  readonly onRecorded = this.recorded.add;
  /** What the engine would not do. */
  readonly onError = this.errors.add;
  readonly onInvited = this.invites.add;
  readonly onExplained = this.explained.add;

  start(): void {
    this.socket.start();
  }

  stop(): void {
    this.socket.stop();
  }

  /** The engine's time, in milliseconds since 1970. */
  now(): number {
    return this.socket.now();
  }

  /** The screen was asleep, or the network has changed: finds out at once whether the engine still hears it. */
  wake(): void {
    this.socket.wake();
  }

  /**
   * Presses a control. A press that cannot go out now ends as lost; it is never sent later. `guard` says that the person
   * confirmed it, where what it sends is risky.
   */
  press(page: string, control: string, gesture: Gesture = 'tap', guard = false, context?: string): string {
    const more = { ...(guard ? { guard } : {}), ...within(context) };
    return this.presses.send(control, { t: 'press', page, control, gesture, ...more }, panelCutOff);
  }

  /** Enters what somebody saw for the line check. False while cut off. */
  answerCheck(answer: CheckAnswer): boolean {
    return this.socket.say({ t: 'saw', ...answer });
  }

  /** Answers what a press has asked; without answers it ends. */
  answer(id: string, given: Extract<ClientMessage, { t: 'answer' }>['given']): boolean {
    return this.socket.say({ t: 'answer', id, ...(given ? { given } : {}) });
  }

  /** Asks for the account of a press; `onExplained` hears of it. Returns false when it cannot be asked now. */
  explain(id: string): boolean {
    return this.socket.say({ t: 'explain', id });
  }

  /** Holds a control down: what it starts goes on until the returned function is called, or this browser is gone. */
  hold(page: string, control: string, guard = false, context?: string): () => void {
    return this.presses.keepHolding(this.press(page, control, 'hold', guard, context));
  }

  /** A hand on a fader, a dial or a stick; its positions are sent until it is released. */
  turn(page: string, control: string, context?: string): Turning {
    const id = this.presses.begin(control);
    return {
      to: (x, y, slow) => {
        const at = { x, ...(y === undefined ? {} : { y }), ...(slow ? { slow } : {}) };
        if (!this.socket.say({ t: 'turn', id, page, control, ...at, ...within(context) }))
          this.presses.lose(id, nothingSent);
      },
      release: this.presses.keepHolding(id),
    };
  }

  /** Carries out an act of a list, on the item with this index or on the list itself. */
  choose(
    page: string,
    control: string,
    { act, index, given, guard, context }: Pick<ChooseMessage, 'act' | 'index' | 'given' | 'guard' | 'context'>,
  ): void {
    this.presses.send(control, { t: 'choose', page, control, act, index, given, guard, context }, nothingSent);
  }

  /** Binds hand gear to a control, or frees it. False while the screen is cut off. */
  bind(change: BindingChange): boolean {
    return this.socket.say({ t: 'bind', change });
  }

  /** Does something with a preset that a control shows. */
  preset(
    page: string,
    control: string,
    what: Pick<PresetMessage, 'device' | 'number' | 'act' | 'guard' | 'context'>,
  ): void {
    this.presses.send(control, { t: 'preset', page, control, ...what }, nothingSent);
  }

  /** Sends one command by hand, without a control; its mark is that of `device`. What it starts while held goes on until the returned function is called. */
  tryCommand(
    device: string,
    command: string,
    params: TryMessage['params'],
    how: Pick<TryMessage, 'gesture' | 'guard'>,
  ): () => void {
    const reason = 'The desk is cut off from the engine. The command was not sent.';
    const id = this.presses.send(device, { t: 'try', device, command, params, ...how }, reason);
    return how.gesture === 'hold' ? this.presses.keepHolding(id) : () => undefined;
  }

  /**
   * Presses a control as it is in the editor; its mark is that of `trialMark`, with what was sent or would have been. What it
   * starts while held goes on until the returned function is called.
   */
  tryControl(
    control: TrialMessage['control'],
    how: Pick<TrialMessage, 'gesture' | 'guard' | 'aim' | 'of'>,
  ): () => void {
    const reason = 'The desk is cut off from the engine. Nothing was tried.';
    const id = this.presses.send(trialMark, { t: 'trial', control, ...how }, reason);
    return how.gesture === 'hold' ? this.presses.keepHolding(id) : () => undefined;
  }

  /** Begins a macro from the desk; its mark is that of the macro's id. */
  runMacro(macro: string, params: Extract<ClientMessage, { t: 'run' }>['params'], aim: 'live' | 'dry'): void {
    const reason = 'The desk is cut off from the engine. Nothing was begun.';
    this.presses.send(macro, { t: 'run', macro, params, aim }, reason);
  }

  /** Records what is done by hand. */
  record(what: 'begin' | 'take' | 'forget'): boolean {
    return this.socket.say({ t: 'record', do: what });
  }

  /** Ends a run, at once or by its way out; all of them without one. */
  endRun(run: string | undefined, way: 'stop' | 'way out'): void {
    this.socket.say({ t: 'end run', ...(run === undefined ? {} : { run }), way });
  }

  /** Another try now for a device that is down or locked out. */
  callAgain(device: string): void {
    this.socket.say({ t: 'call', device });
  }

  setAim(aim: Aim): void {
    this.socket.say({ t: 'aim', aim });
  }

  /** Where this screen is: told to the desk's list, again with each connection and as its delay changes. */
  here(place: Whereabouts): void {
    this.place = place;
    this.sayHere();
  }

  /** Has another screen do something. */
  tell(to: string, act: Extract<ClientMessage, { t: 'tell' }>['act']): boolean {
    return this.socket.say({ t: 'tell', to, act });
  }

  seen(note: string): void {
    this.socket.say({ t: 'seen', note });
  }

  /** On a linked panel: all its screens show this. */
  together(panel: string, page: string, context: string | undefined): void {
    this.socket.say({ t: 'together', panel, page, ...within(context) });
  }

  /** Asks for an invitation to a panel. */
  invite(panel: string): boolean {
    return this.socket.say({ t: 'invite', panel });
  }

  throwOut(joined: string): void {
    this.socket.say({ t: 'throw out', joined });
  }

  /** Withdraws an invitation that nobody has used. */
  withdraw(invite: string): void {
    this.socket.say({ t: 'withdraw', invite });
  }

  private sayHere(): void {
    if (this.place.title === '') return;
    const { cuts, delayMs } = this.socket;
    this.socket.say({
      t: 'here',
      ...this.place,
      ...(this.screen === undefined ? {} : { screen: this.screen }),
      ...(delayMs === undefined ? {} : { delayMs: Math.round(delayMs * 10) / 10 }),
      cuts,
      missed: this.topics.missed,
    });
  }

  private onOpen(asked: readonly string[]): void {
    this.topics.onOpen(asked);
    this.presses.onOpen();
    this.socket.opened();
    this.sayHere();
  }

  private onMessage(message: ServerMessage): void {
    switch (message.t) {
      case 'whole':
        return this.topics.onWhole(message.topic, message.n, message.data);
      case 'none':
        return this.topics.onWhole(message.topic, 0, null);
      case 'diff':
        return this.topics.onDiff(message.topic, message.n, message.data);
      case 'press':
        return this.presses.enter(message);
      case 'do':
        return this.acts.tell(message.act);
      case 'recorded':
        return this.recorded.tell(message.heard);
      case 'explained':
        return this.explained.tell(message);
      case 'invited':
        return this.invites.tell(message);
      case 'error':
        return this.errors.tell(message.message);
      case 'hello':
      case 'pong':
    }
  }
}

const within = (context: string | undefined) => (context === undefined ? {} : { context });
