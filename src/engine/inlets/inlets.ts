import {
  answerLine,
  errorAnswer,
  inletsOf,
  mayComeFrom,
  SourceBudget,
  type InletAnswer,
  type InletRequest,
} from '../../core/inlet';
import { ok, type Scalar } from '../../core/result';
import { ownId, type InletRecord, type Trigger } from '../../core/show';
import type { Log } from '../../log';
import type { ReadingStore } from '../devices/readings';
import type { ShowChange } from '../parts';
import type { WireLog } from '../record/wire-log';
import type { RunningShow } from '../show/running-show';
import type { Watches } from '../watches/watches';
import { openInlet } from './inlet-end';
import type { InletHand } from './inlet-hand';
import type { Heard, InletEnd } from './inlet-listener';
import { InletWire } from './inlet-wire';
import { nextFreePort, portFailure, programAt, type PortHint } from './port-owner';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly hand: InletHand;
  readonly watches: Watches;
  readonly log: Log;
  readonly wire: Pick<WireLog, 'record'>;
  readonly newId: () => string;
  readonly passwordOf: (inlet: string) => string;
  /** Proofs beside the show: nothing comes in there. */
  readonly isPrivate: boolean;
}

interface Standing {
  record: InletRecord;
  password: string;
  end: InletEnd | undefined;
  /** When its port is tried again. */
  again: NodeJS.Timeout | undefined;
  readonly budget: SourceBudget;
  readonly wire: InletWire;
  state: 'off' | 'listening' | 'failed' | 'locked out';
  why: string;
  /** Who has its port, once that is known. */
  hint: PortHint | undefined;
  /** The failure that was logged last. */
  told: string;
  heard: number;
  refused: number;
  last: string;
  from: string;
  came: string;
}

const tellEveryMs = 100;
/** How long after a failure its port is tried again. */
const tryAgainMs = 3000;
const keys = ['name', 'state', 'why', 'heard', 'refused', 'last', 'from', 'came'] as const;

/** The ways in for other systems: open while they are switched on, with what came in last and what came of it. */
export class Inlets {
  private readonly all = new Map<string, Standing>();
  private readonly told = new Map<string, Scalar>();
  private telling: NodeJS.Timeout | undefined;
  private isStarted = false;

  constructor(private readonly sources: Sources) {}

  start(): void {
    this.isStarted = true;
    for (const standing of this.all.values()) this.open(standing);
  }

  /** The inlets that are on but cannot listen, with the reason. */
  get failing(): readonly { readonly name: string; readonly why: string }[] {
    return [...this.all.values()].flatMap(({ state, why, record }) =>
      state === 'failed' || state === 'locked out' ? [{ name: record.data.name, why }] : [],
    );
  }

  stop(): void {
    clearTimeout(this.telling);
    for (const standing of this.all.values()) close(standing);
  }

  onShow({ kind, ...change }: ShowChange): void {
    if (kind === 'inlet' && 'id' in change) this.renew(change.id);
  }

  /** Its record or its password has changed. */
  renew(id: string): void {
    const record = this.sources.show.inlets.get(id);
    const before = this.all.get(id);
    if (!record) {
      if (before) close(before);
      this.all.delete(id);
      return this.soon();
    }
    const password = this.sources.passwordOf(record.id);
    if (before && isSamePlace(before.record, record) && before.password === password) before.record = record;
    else {
      if (before) close(before);
      const standing: Standing = {
        record,
        password,
        end: undefined,
        again: undefined,
        budget: new SourceBudget(),
        wire: new InletWire(this.sources.wire, record.id),
        state: 'off',
        why: '',
        hint: undefined,
        told: '',
        heard: before?.heard ?? 0,
        refused: before?.refused ?? 0,
        last: before?.last ?? '',
        from: before?.from ?? '',
        came: before?.came ?? '',
      };
      this.all.set(record.id, standing);
      this.open(standing);
    }
    this.soon();
  }

  private open(standing: Standing): void {
    const { record } = standing;
    if (!record.data.on || !this.isStarted || this.sources.isPrivate || standing.end) return;
    const { hand } = this.sources;
    standing.end = openInlet(record.data, {
      subjects: hand.subjects,
      followers: hand.followers,
      password: standing.password,
      mayComeFrom: (address) => mayComeFrom(standing.record.data, address),
      onHeard: (heard) => this.onHeard(standing, heard),
      onFollows: (from, text) => this.onFollows(standing, from, text),
      onReadings: (news, gone) => this.sources.readings.report(ownId, news, Date.now(), gone),
      onTold: (bytes) => standing.wire.told(bytes),
      onRefused: (from, why) => this.refuse(standing, from, '', why),
      onPortFailed: (error) => this.onPortFailed(standing, error),
      onState: (state, why = '') => {
        standing.state = state;
        standing.why = why;
        if (state !== 'listening') this.onFailed(standing);
        if (state === 'listening') standing.hint = undefined;
        this.soon();
      },
    });
  }

  /** Who has the port is found out once, while it is tried again and again. */
  private onPortFailed(standing: Standing, error: NodeJS.ErrnoException): void {
    const { data } = standing.record;
    standing.state = 'failed';
    standing.why = portFailure(error, data, standing.hint);
    this.onFailed(standing);
    this.soon();
    if (error.code !== 'EADDRINUSE' || standing.hint) return;
    standing.hint = {};
    void this.hintFor(standing).then((hint) => {
      if (standing.state !== 'failed' || standing.hint === undefined) return;
      standing.hint = hint;
      standing.why = portFailure(error, data, hint);
      this.soon();
    });
  }

  private async hintFor({ record: { id, data } }: Standing): Promise<PortHint> {
    const other = [...this.all.values()].find(
      ({ record, state }) =>
        record.id !== id && state === 'listening' && record.data.port === data.port && record.data.over === data.over,
    );
    const program = other ? undefined : await programAt(data.port, data.over);
    const owner = other ? `the inlet “${other.record.data.name}”` : program && `the program “${program}”`;
    return { owner, free: await nextFreePort(data.port, data.host, data.over) };
  }

  /** The other program may release the port. The failure is logged once. */
  private onFailed(standing: Standing): void {
    if (standing.told !== standing.why)
      this.sources.log.warn(`The inlet “${standing.record.data.name}” cannot listen: ${standing.why}`);
    standing.told = standing.why;
    close(standing);
    // A password that was refused once is refused again, until the account is locked.
    if (standing.state === 'locked out') return;
    standing.again = setTimeout(() => this.open(standing), tryAgainMs);
    standing.again.unref();
  }

  private onFollows(standing: Standing, from: string, text: string): boolean {
    if (!this.takes(standing, from, text)) return false;
    standing.came = 'follows';
    this.soon();
    return true;
  }

  /** Counts what came in. False for a source that sends too much: it gets no answers, for they would be a flood, too. */
  private takes(standing: Standing, from: string, text: string): boolean {
    const [address = ''] = from.split(/:\d+$/);
    if (!standing.budget.takes(address, performance.now())) {
      this.refuse(standing, from, text, 'too many messages per second');
      return false;
    }
    standing.heard += 1;
    standing.last = text;
    standing.from = from;
    standing.came = '…';
    this.soon();
    return true;
  }

  private onHeard(standing: Standing, heard: Heard): boolean {
    const { hand, watches } = this.sources;
    const { record } = standing;
    const { text, from, caller, subscriber, bytes } = heard;
    if (!this.takes(standing, from, text)) return false;
    const n = standing.heard;
    const learned = record.data.triggers?.find((trigger) => trigger.text === text);
    const request = learned ? ok(requestOfTrigger(learned)) : heard.request();
    const press = this.sources.newId();
    const pressed = request?.ok && isPress(request.value) ? press : undefined;
    standing.wire.heard(bytes, text, from, pressed);
    const came = (answer: InletAnswer) => {
      const line = answerLine(answer);
      // What came of an earlier message may be known after the next one was heard.
      if (n === standing.heard) standing.came = line;
      standing.wire.came(line, heard.answer(answer), pressed);
      this.soon();
    };
    const fired = watches.onMessage(record.id, text, from);
    if (fired > 0 && !learned) {
      came({ is: 'ok', said: fired === 1 ? '1 watch' : `${fired} watches` });
      return true;
    }
    if (!request) {
      standing.came = 'nothing waits for it';
      standing.wire.came(standing.came, undefined);
      return true;
    }
    const { name, readsOnly = false, confirms = false } = record.data;
    const asker = {
      name: `inlet ${name}`,
      readsOnly,
      confirms,
      press,
      ...(subscriber ? { subscriber } : {}),
      ...(caller === undefined ? {} : { caller }),
    };
    const done = request.ok ? hand.carryOut(asker, request.value, came) : request;
    if (done.ok) return true;
    standing.refused += 1;
    came(errorAnswer(done.error));
    return true;
  }

  private refuse(standing: Standing, from: string, text: string, why: string): void {
    standing.refused += 1;
    standing.from = from;
    standing.last = text;
    standing.came = `refused: ${why}`;
    standing.wire.refused(why, from);
    this.soon();
  }

  /** Floods are told now and then, not each of their messages. */
  private soon(): void {
    this.telling ??= setTimeout(() => this.tell(), tellEveryMs);
    this.telling.unref();
  }

  private tell(): void {
    this.telling = undefined;
    const now = new Map<string, Scalar>();
    inletsOf([...this.all.values()].map(({ record }) => record)).forEach((record, n) => {
      const standing = this.all.get(record.id);
      if (!standing) return;
      const values: Readonly<Record<(typeof keys)[number], Scalar>> = { ...standing, name: record.data.name };
      for (const key of keys) now.set(`inlet[${n + 1}].${key}`, values[key]);
    });
    const gone = [...this.told.keys()].filter((key) => !now.has(key));
    const news = [...now].flatMap(([key, value]) => (this.told.get(key) === value ? [] : [{ key, value }]));
    for (const key of gone) this.told.delete(key);
    for (const { key, value } of news) this.told.set(key, value);
    if (news.length + gone.length > 0) this.sources.readings.report(ownId, news, Date.now(), gone);
  }
}

/** What was learned does the same as somebody who asks for it by its id. */
const requestOfTrigger = (trigger: Trigger): InletRequest =>
  'press' in trigger ? { do: 'press', control: trigger.press } : { do: 'run', macro: trigger.run, params: {} };

/** True for requests that are carried out as a press and have an account. */
export const isPress = ({ do: does }: InletRequest): boolean => !['read', 'list', 'follow', 'unfollow'].includes(does);

function close(standing: Standing): void {
  clearTimeout(standing.again);
  standing.again = undefined;
  standing.end?.close();
  standing.end = undefined;
}

/** Nothing has changed that its socket depends on. */
function isSamePlace({ data: a }: InletRecord, { data: b }: InletRecord): boolean {
  const place = ({ name: _, order: __, note: ___, triggers: ____, ...rest }: InletRecord['data']) =>
    JSON.stringify(Object.entries(rest).sort(([one], [other]) => (one < other ? -1 : 1)));
  return place(a) === place(b);
}
