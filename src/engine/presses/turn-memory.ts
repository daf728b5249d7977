import { expectationsOf, meets } from '../../core/driver';
import { nextTurn, targetOf } from '../../core/press';
import { resolveParams, type ControlRecord, type SendSpec } from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

type Data = ControlRecord['data'];

/** What a tap sends now. */
export interface TakenTurn {
  readonly sends: readonly SendSpec[];
  /** Called when something of it has left: a press that was not sent is not counted. */
  readonly count: () => void;
}

/** A device reports within this time what a tap has brought about. */
const reportsWithinMs = 1500;
/** The turns of this many controls and targets are remembered; the oldest is forgotten first. */
const maxRemembered = 2000;

/** Which of its turns each control that alternates took last, and so which one comes next. */
export class TurnMemory {
  private readonly last = new Map<string, { readonly turn: number; readonly at: number }>();

  constructor(
    private readonly show: RunningShow,
    private readonly readings: ReadingStore,
  ) {}

  /** What a tap sends now. Each target of a control has turns of its own. */
  take({ id, data }: ControlRecord): TakenTurn {
    const { tap, turns = [] } = data.responses;
    if (turns.length === 0) return { sends: tap, count: () => undefined };
    const all = [tap, ...turns];
    const key = `${id} ${targetOf(data, all.flat())}`;
    const last = this.last.get(key);
    const now = Date.now();
    // Tapped again before the device has reported the first tap: what it said before that counts no more.
    const isOld = last !== undefined && now - last.at < reportsWithinMs && this.saidAt(data, all) < last.at;
    const holds = all.map((sends) => (isOld ? undefined : this.isSo(data, sends)));
    const turn = nextTurn(all.length, holds, last?.turn);
    const count = () => {
      this.last.delete(key);
      this.last.set(key, { turn, at: now });
      const oldest = this.last.size > maxRemembered ? this.last.keys().next().value : undefined;
      if (oldest !== undefined) this.last.delete(oldest);
    };
    return { sends: all[turn] ?? tap, count };
  }

  /** When a device last reported what tells these turns apart, in milliseconds since 1970. */
  private saidAt(data: Data, turns: readonly (readonly SendSpec[])[]): number {
    const times = turns
      .flat()
      .flatMap((send) =>
        this.expectedOf(data, send)?.map(({ key }) => this.readings.get({ device: send.device, key })?.at ?? 0),
      );
    return Math.max(0, ...times.map((at) => at ?? 0));
  }

  private expectedOf(data: Data, send: SendSpec) {
    const device = this.show.deviceOf(send.device);
    const command = device && this.show.driverOf(device)?.commands.get(send.command)?.command;
    return (
      command &&
      expectationsOf(command, resolveParams(send.params, data.values), (key) => this.readings.fresh(send.device, key))
    );
  }

  /** Whether the devices report that these commands' effects hold now; `undefined` where they cannot tell. */
  private isSo(data: Data, sends: readonly SendSpec[]): boolean | undefined {
    let known = sends.length > 0;
    for (const send of sends) {
      const now = (key: string) => this.readings.fresh(send.device, key);
      const expected = this.expectedOf(data, send);
      if (!expected || expected.some(({ key, not }) => not !== undefined || now(key) === undefined)) known = false;
      else if (!expected.every((each) => meets(each, now(each.key)))) return false;
    }
    return known ? true : undefined;
  }
}
