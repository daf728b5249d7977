import { readingText } from '../../core/driver';
import { conditionNow, ReadingIndex, type LampMemory } from '../../core/lamp';
import type { Scalar } from '../../core/result';
import { ownId, readingId, type Condition, type KeyWhen, type ReadingRef, type WatchRecord } from '../../core/show';
import {
  judged,
  keyReading,
  looked,
  messageMatch,
  newWatchState,
  nextTime,
  readingsOfWhen,
  switched,
  verdictWords,
  type Verdict,
  type WatchState,
} from '../../core/watch';
import type { Log } from '../../log';
import type { Aims } from '../aim/aims';
import type { ReadingStore } from '../devices/readings';
import type { SendListener } from '../devices/send-book';
import type { ShowChange } from '../parts';
import type { Order } from '../presses/dispatcher';
import type { OwnOrders } from '../presses/own-orders';
import type { PreRoll } from '../presses/pre-roll';
import { firing } from '../presses/firing';
import type { Presses } from '../presses/presses';
import type { AsRun } from '../record/as-run';
import type { RunningShow } from '../show/running-show';
import { CaughtValues, type Caught } from './caught-values';
import { KeyTies } from './key-ties';
import { WatchFile, type KeptWatch } from './watch-file';
import { WatchReadings } from './watch-readings';

interface Sources {
  readonly dataDir: string;
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly presses: Presses;
  readonly own: OwnOrders;
  readonly preRoll: PreRoll;
  readonly aims: Aims;
  readonly asRun: AsRun;
  readonly isInService: () => boolean;
  /** What changes now is only put back as it was. */
  readonly isPuttingBack: () => boolean;
  readonly newId: () => string;
  readonly log: Log;
  /** Proofs beside the show: nothing happens by itself there. */
  readonly isPrivate: boolean;
}

/** What is looked at with reports. */
type Looked = Extract<WatchRecord['data']['when'], { is: 'true' | 'change' | 'key' }>;

interface Standing {
  record: WatchRecord;
  state: WatchState;
  memory: LampMemory;
  unlessMemory: LampMemory;
  firedAt: number | undefined;
  why: string | undefined;
  nextAt: number | undefined;
  /** When a command has switched it on last, and off. */
  readonly switchedAt: Map<boolean, number>;
  /** Firings that wait for their delay. */
  readonly delayed: Set<NodeJS.Timeout>;
  /** What takes out again what it has begun, after its time. */
  out: NodeJS.Timeout | undefined;
  /** True from when it fires until what it began is taken out; `undefined` when nobody knows. */
  hasBegun: boolean | undefined;
  /** Of one that waits for a message. */
  match: ReturnType<typeof messageMatch> | undefined;
}

/** No timer of the computer waits for longer than some weeks; and its clock may be set meanwhile. */
const lookAgainMs = 30_000;
/** An edit that says what a command has just done arrives within this. */
const editComesWithinMs = 10_000;
/** From the first show until missed times are caught up on: devices are there by then. */
const catchUpAfterMs = 5000;

/** The standing rules of the show: they wait for readings and times, and press when what they wait for happens. */
export class Watches {
  private readonly all = new Map<string, Standing>();
  private readonly index = new ReadingIndex();
  private readonly board: WatchReadings;
  private readonly file: WatchFile;
  private readonly keys: KeyTies;
  private readonly caught: CaughtValues;
  private readonly due = new Set<Standing>();
  private isQueued = false;
  private isStarted = false;
  private timer: NodeJS.Timeout | undefined;
  private catchingUp: NodeJS.Timeout | undefined;
  private readonly untold = new Set<Standing>();
  private telling: NodeJS.Timeout | undefined;
  /** When conditions have to be looked at again although nothing is reported, by watch, in milliseconds since 1970. */
  private readonly again = new Map<string, number>();

  constructor(private readonly sources: Sources) {
    const { own, dataDir, log, readings, aims } = sources;
    this.board = new WatchReadings(readings, (at) => timeText(at, sources.show.zone));
    this.file = new WatchFile(dataDir, () => this.kept(), log);
    this.caught = new CaughtValues(sources);
    this.keys = new KeyTies({
      ...sources,
      isArmed: (id) => this.isArmed(id),
      happened: (id, because, afterMs) => this.happened(this.all.get(id), because, afterMs),
      takeOut: (id, because) => this.takeOut(this.all.get(id), because),
    });
    sources.preRoll.serve(this.keys.before);
    own.serve(['switchWatch'], (order, listener) => this.switchOne(order, listener));
    own.serve(['fireWatch'], (order, listener) => this.fireOne(order, listener));
    // What a rehearsal or the end of one brings with it is no change at the devices.
    aims.listen({ onAim: () => this.forgetAll() });
  }

  start(): void {
    this.isStarted = true;
    if (this.sources.isPrivate) return;
    this.file.start();
    this.queue();
  }

  async stop(): Promise<void> {
    clearTimeout(this.timer);
    clearTimeout(this.catchingUp);
    clearTimeout(this.telling);
    for (const standing of this.all.values()) drop(standing);
    await this.file.stop();
  }

  onShow(change: ShowChange): void {
    if (change.kind === 'show') for (const standing of this.all.values()) this.schedule(standing);
    if (change.kind !== 'watch') return;
    const { id } = change;
    const record = this.sources.show.watches.get(id);
    const before = this.all.get(id);
    if (before && before.record.data.number !== record?.data.number) this.board.forget(before.record.data.number);
    if (!record) {
      if (before) drop(before);
      this.all.delete(id);
      this.index.remove(id);
      this.keys.remove(id);
      this.again.delete(id);
      return this.sleep();
    }
    this.enter(record, before);
  }

  /** The engine has all of the show. Perhaps it was put in service, or is edited directly again. */
  onSettled(): void {
    for (const standing of this.all.values()) this.tell(standing);
    if (this.catchingUp || this.sources.isPrivate) return;
    this.catchingUp = setTimeout(() => this.catchUp(), catchUpAfterMs);
    this.catchingUp.unref();
  }

  onReadings(device: string, keys: readonly string[]): void {
    if (this.all.size === 0) return;
    this.keys.onReport(device);
    // Every report is looked at: of two that come together the first one may be what is waited for.
    const waiting = new Set<Standing>();
    for (const key of keys)
      for (const id of this.index.usersOf(readingId({ device, key }))) {
        const standing = this.all.get(id);
        if (standing) waiting.add(standing);
      }
    if (waiting.size > 0) this.look([...waiting]);
  }

  /** Something came in over an inlet. Returns how many watches wait for it. */
  onMessage(inlet: string, text: string, from: string): number {
    let count = 0;
    for (const standing of this.all.values()) {
      const { when } = standing.record.data;
      if (when.is !== 'message' || (when.inlet ?? inlet) !== inlet) continue;
      const caught = standing.match?.(text);
      if (!caught) continue;
      count += 1;
      this.happened(standing, `“${text}” came in from ${from}`, undefined, caught);
    }
    return count;
  }

  private enter(record: WatchRecord, before: Standing | undefined): void {
    const isSame = before && JSON.stringify(before.record.data.when) === JSON.stringify(record.data.when);
    const wasOff = before?.record.data.off;
    const standing: Standing = before ?? {
      record,
      state: this.firstState(record),
      memory: new Map(),
      unlessMemory: new Map(),
      firedAt: undefined,
      why: undefined,
      nextAt: undefined,
      switchedAt: new Map(),
      delayed: new Set(),
      out: undefined,
      hasBegun: undefined,
      match: undefined,
    };
    standing.record = record;
    const isOn = record.data.off === undefined;
    // What the desk switches is a command and an edit: the edit comes second, and somebody may have switched it otherwise meanwhile.
    const wasCommanded = Date.now() - (standing.switchedAt.get(isOn) ?? -Infinity) < editComesWithinMs;
    if (before && wasOff !== record.data.off && !wasCommanded) this.switch(standing, isOn);
    if (!isSame) {
      const { known: _, ...state } = standing.state;
      standing.state = state;
      standing.memory = new Map();
      drop(standing);
    }
    const { when } = record.data;
    standing.match = when.is === 'message' ? messageMatch(when) : undefined;
    this.all.set(record.id, standing);
    this.index.put(record.id, readingsOfWhen(record.data.when));
    this.keys.put(record);
    this.schedule(standing);
    this.due.add(standing);
    this.queue();
    this.tell(standing);
  }

  /** As it was before the program was started again, where its record still says the same. */
  private firstState({ id, data }: WatchRecord): WatchState {
    const state = newWatchState(data);
    const kept = this.file.before?.watches[id];
    if (!kept) return state;
    return {
      ...state,
      isOn: kept.isOn ?? state.isOn,
      ...(kept.isSpent && data.once ? { isSpent: true as const } : {}),
    };
  }

  private kept(): Record<string, KeptWatch> {
    return Object.fromEntries(
      [...this.all].flatMap(([id, { record, state }]): [string, KeptWatch][] => {
        const isUsual = state.isOn === (record.data.off === undefined);
        if (isUsual && !state.isSpent) return [];
        return [
          [id, { ...(isUsual ? {} : { isOn: state.isOn }), ...(state.isSpent ? { isSpent: true as const } : {}) }],
        ];
      }),
    );
  }

  /** Everything is known anew: what it becomes first sets nothing off. */
  private forgetAll(): void {
    this.keys.forget();
    for (const standing of this.all.values()) {
      const { known: _, ...state } = standing.state;
      standing.state = state;
      standing.memory.clear();
      standing.hasBegun = undefined;
      drop(standing);
      // What the program says itself is there all the time; devices report anew.
      if (readingsOfWhen(standing.record.data.when).every(({ device }) => device === ownId)) this.due.add(standing);
    }
    this.queue();
  }

  /** What was edited is looked at once all of the edit is there. */
  private queue(): void {
    if (this.isQueued || this.due.size === 0 || !this.isStarted) return;
    this.isQueued = true;
    queueMicrotask(() => {
      this.isQueued = false;
      const due = [...this.due];
      this.due.clear();
      this.look(due);
    });
  }

  private look(standings: readonly Standing[]): void {
    if (this.sources.isPrivate || !this.isStarted) return;
    let isLater = false;
    for (const standing of standings) {
      const { when } = standing.record.data;
      if (when.is === 'time' || when.is === 'message' || !this.all.has(standing.record.id)) continue;
      const due = this.again.get(standing.record.id);
      const now = this.nowOf(standing, when);
      if (this.again.get(standing.record.id) !== due) isLater = true;
      const before = standing.state;
      const { state, isMet } = looked(standing.record.data, before, now);
      standing.state = state;
      if (when.is === 'key') this.onKey(standing, when, before.known, isMet);
      else if (isMet && !this.sources.isPuttingBack()) this.happened(standing, this.because(standing));
    }
    // Most reports change nothing of when to look next, and there may be many watches.
    if (isLater) this.sleep();
  }

  private nowOf(standing: Standing, when: Looked): Scalar | undefined {
    switch (when.is) {
      case 'true':
        return this.truth(standing, when);
      case 'change':
        return this.valueOf(when.reading);
      case 'key':
        return this.valueOf(keyReading(when));
    }
  }

  /** A key is on, or off again. */
  private onKey(standing: Standing, when: KeyWhen, before: Scalar | undefined, isMet: boolean): void {
    if (isMet) {
      this.keys.onKeyOn(standing.record, when);
      const { afterMs } = when.out ?? {};
      if (standing.hasBegun !== true || afterMs === undefined) return;
      clearTimeout(standing.out);
      standing.out = setTimeout(() => this.takeOut(standing, `${afterMs / 1000} s after its key`), afterMs);
    } else if (before === true && standing.state.known === false && when.out?.withKey)
      this.takeOut(standing, `key ${when.key} is off`);
  }

  /** Takes out what the watch has begun, unless that was done before. */
  private takeOut(standing: Standing | undefined, because: string): void {
    if (!standing || standing.hasBegun === false || !this.isArmed(standing.record.id, true)) return;
    clearTimeout(standing.out);
    standing.hasBegun = false;
    const { name, when } = standing.record.data;
    if (when.is === 'key' && when.out) this.send(name, { tap: when.out.sends }, `${name} out (${because})`);
  }

  /** True for a watch that may do something now. @param isEnd what it does only ends what it has begun */
  private isArmed(id: string, isEnd = false): boolean {
    const standing = this.all.get(id);
    if (!standing || !this.isStarted || this.sources.isPrivate) return false;
    const { record, state } = standing;
    if (!state.isOn || (record.data.inService && !this.sources.isInService())) return false;
    return isEnd || (!state.isSpent && state.stopped === undefined);
  }

  private truth(standing: Standing, { condition, forMs }: Extract<WatchRecord['data']['when'], { is: 'true' }>) {
    const lasting: Condition = forMs >= shortestLasting ? { lasting: condition, forMs } : condition;
    const { truth, again } = conditionNow(lasting, this.judging, standing.memory);
    if (again === Infinity) this.again.delete(standing.record.id);
    else this.again.set(standing.record.id, again);
    return typeof truth.is === 'boolean' ? truth.is : undefined;
  }

  private get judging() {
    const { show, readings } = this.sources;
    return { readingNow: (ref: ReadingRef) => readings.get(ref), documentOf: show.documentOf, now: Date.now() };
  }

  private valueOf({ device, key }: ReadingRef): Scalar | undefined {
    return this.sources.readings.fresh(device, key);
  }

  /** What made it so, in words: the readings that the watch waits for, with their values. */
  private because({ record }: Standing): string {
    const { show } = this.sources;
    const { when } = record.data;
    if (when.is === 'time') return 'It is time';
    if (when.is === 'message') return `“${when.text}” came in`;
    return readingsOfWhen(when)
      .slice(0, 3)
      .map(({ device, key }) => {
        const document = show.documentOf(device);
        const value = this.valueOf({ device, key });
        const tag = show.deviceOf(device)?.data.tag ?? '?';
        const { name, shown } = readingText(document, key, value);
        return `${tag} ${name}: ${shown}`;
      })
      .join(', ');
  }

  /** What the watch waits for has happened: it fires, now or after its delay, unless something keeps it from it. */
  private happened(standing: Standing | undefined, because: string, afterMs?: number, caught: Caught = {}): boolean {
    if (!standing) return false;
    const { data } = standing.record;
    const isKeptFrom =
      data.unless !== undefined && conditionNow(data.unless, this.judging, standing.unlessMemory).truth.is === true;
    const isInService = this.sources.isInService();
    const { state, verdict } = judged(data, standing.state, { now: performance.now(), isInService, isKeptFrom });
    standing.state = state;
    if (verdict !== 'fires') {
      this.keptFrom(standing, verdict, because);
      return false;
    }
    standing.firedAt = Date.now();
    standing.why = because;
    this.tellSoon(standing);
    this.file.soon();
    // Reports come in the middle of other work: what they set off has its turn right after it.
    standing.hasBegun = true;
    const waitMs = afterMs ?? data.delayMs;
    if (waitMs <= 0) queueMicrotask(() => this.fire(standing, because, caught));
    else {
      const timer = setTimeout(() => {
        standing.delayed.delete(timer);
        this.fire(standing, because, caught);
      }, waitMs);
      standing.delayed.add(timer);
    }
    return true;
  }

  private keptFrom(standing: Standing, verdict: Exclude<Verdict, 'fires'>, because: string): void {
    // Somebody switched it off, and wants to hear nothing of it.
    if (verdict === 'off') return;
    const reason = verdict === 'loop' ? (standing.state.stopped ?? '') : verdictWords[verdict];
    standing.why = `${because}. ${reason}`;
    if (verdict === 'loop')
      this.sources.asRun.record({ kind: 'note', text: `Watch “${standing.record.data.name}” was stopped: ${reason}` });
    this.tellSoon(standing);
  }

  private fire({ record: { data } }: Standing, because: string, caught: Caught = {}): void {
    const { presses, newId, show } = this.sources;
    const { name, sends } = data;
    this.caught.setVariables(caught, whoOf(name));
    const runs = data.runs && {
      ...data.runs,
      params: { ...data.runs.params, ...this.caught.paramsOf(data.runs.macro, caught) },
    };
    if (sends.length > 0 || runs) this.send(name, { tap: sends, ...(runs ? { runs } : {}) }, `${name} (${because})`);
    const pressed = show.controls.get(data.presses ?? '');
    if (!pressed) return;
    const at = { page: pressed.data.page, control: pressed.id };
    presses.press({ id: newId(), ...at, gesture: 'tap', guard: true, alone: true, who: whoOf(name) }, ignore);
  }

  private send(name: string, responses: Parameters<typeof firing>[0], label: string): void {
    const control = firing(responses);
    const named = { page: 'Watch', label: label.slice(0, 300) };
    const { presses, newId } = this.sources;
    presses.fire({ id: newId(), gesture: 'tap', guard: true, who: whoOf(name), control, ...named }, ignore);
  }

  private switchOne(order: Order, listener: SendListener): boolean {
    const standing = this.byNumber(order);
    if (!standing) return missing(listener);
    const isOn = order.prepared.given.on !== false;
    standing.switchedAt.set(isOn, Date.now());
    this.switch(standing, isOn);
    this.tell(standing);
    listener({ outcome: 'confirmed', why: 'accepted', ms: 0 });
    return true;
  }

  private switch(standing: Standing, isOn: boolean): void {
    standing.state = switched(standing.state, isOn);
    if (!isOn) drop(standing);
    standing.why = undefined;
    this.schedule(standing);
    this.file.soon();
  }

  private fireOne(order: Order, listener: SendListener): boolean {
    const standing = this.byNumber(order);
    if (!standing) return missing(listener);
    standing.state = { ...standing.state, count: standing.state.count + 1 };
    standing.firedAt = Date.now();
    standing.why = `Fired by ${order.who}`;
    this.tell(standing);
    // A watch that fires another, which fires it, is broken off by the turn of events in between.
    queueMicrotask(() => this.fire(standing, standing.why ?? ''));
    listener({ outcome: 'confirmed', why: 'accepted', ms: 0 });
    return true;
  }

  private byNumber({ prepared: { given } }: Order): Standing | undefined {
    return [...this.all.values()].find(({ record }) => record.data.number === given.watch);
  }

  private schedule(standing: Standing): void {
    const { when } = standing.record.data;
    const { show } = this.sources;
    standing.nextAt =
      when.is === 'time'
        ? nextTime(when.schedule, Date.now(), { zone: show.zone, beginsAt: show.beginsAt })
        : undefined;
    this.tell(standing);
    this.sleep();
  }

  /** What was missed since the program last ran, where the watch catches up on it. */
  private catchUp(): void {
    const before = this.file.before?.seenAt;
    if (before === undefined) return;
    const now = Date.now();
    const { zone, beginsAt } = this.sources.show;
    for (const standing of this.all.values()) {
      const { when } = standing.record.data;
      if (when.is !== 'time' || when.lateS === undefined) continue;
      const missed = nextTime(when.schedule, Math.max(before, now - when.lateS * 1000), { zone, beginsAt });
      if (missed !== undefined && missed <= now)
        this.happened(standing, `Missed at ${timeText(missed, zone)}, caught up`);
    }
  }

  private readonly onTime = (): void => {
    const now = Date.now();
    const again: Standing[] = [];
    for (const [id, standing] of this.all) {
      const { nextAt } = standing;
      if (nextAt !== undefined && nextAt <= now) {
        // After a sleep of the computer, or a clock put forward: too old to be done now.
        const isLate = now - nextAt > lookAgainMs * 2;
        this.schedule(standing);
        if (!isLate) this.happened(standing, 'It is time');
      }
      if ((this.again.get(id) ?? Infinity) <= now) again.push(standing);
    }
    this.look(again);
    this.sleep();
  };

  private sleep(): void {
    clearTimeout(this.timer);
    this.timer = undefined;
    if (!this.isStarted || this.sources.isPrivate) return;
    let next = Infinity;
    for (const { nextAt } of this.all.values()) if (nextAt !== undefined) next = Math.min(next, nextAt);
    for (const at of this.again.values()) next = Math.min(next, at);
    if (next === Infinity) return;
    this.timer = setTimeout(this.onTime, Math.min(lookAgainMs, Math.max(1, next - Date.now())));
  }

  /** What a watch does goes before what is said of it. */
  private tellSoon(standing: Standing): void {
    this.untold.add(standing);
    this.telling ??= setTimeout(() => {
      this.telling = undefined;
      for (const each of this.untold) if (this.all.has(each.record.id)) this.tell(each);
      this.untold.clear();
    }, tellAfterMs);
    this.telling.unref();
  }

  private tell(standing: Standing): void {
    this.board.tell(standing.record, { ...standing, isInService: this.sources.isInService() });
  }
}

/** Firings that come at once are told once. */
const tellAfterMs = 10;

/** Conditions can be asked to last for no less than this, in milliseconds. */
const shortestLasting = 100;

const ignore = (): void => undefined;

const whoOf = (name: string): string => `watch ${name}`.slice(0, 60);

function missing(listener: SendListener): false {
  listener({ outcome: 'lost', why: 'missing', ms: 0, reason: 'There is no watch with this number.' });
  return false;
}

function drop(standing: Standing): void {
  for (const timer of standing.delayed) clearTimeout(timer);
  standing.delayed.clear();
  clearTimeout(standing.out);
  standing.out = undefined;
}

/** A time of day, with the date where it is another day. */
function timeText(at: number, zone: string | undefined): string {
  const options = { hour12: false, ...(zone === undefined ? {} : { timeZone: zone }) } as const;
  const day = (time: number) => new Date(time).toLocaleDateString('en-CA', options);
  const time = new Date(at).toLocaleTimeString('en-GB', options);
  return day(at) === day(Date.now()) ? time : `${day(at)} ${time}`;
}
