import type { Aim } from '../../core/live';
import { dryReason, guardedReason, type Guard } from '../../core/press';
import type { SendClass } from '../../core/session';
import { ownId, type DeviceRecord } from '../../core/show';
import type { DeviceSession } from '../devices/device-session';
import { stopParams } from '../devices/prepare';
import type { SendListener } from '../devices/send-book';
import type { PreparedSend, SendWatch } from '../devices/session-types';
import type { RunningShow } from '../show/running-show';
import type { DeadMan, Entered } from './dead-man';
import type { OwnOrders } from './own-orders';
import type { PreRoll } from './pre-roll';

/** A command for a device, from any part of the engine. */
export interface Order {
  readonly device: DeviceRecord;
  readonly prepared: PreparedSend;
  readonly aim: Aim;
  /** For the news and the recorder. */
  readonly who: string;
  /** The run of a macro that it is a step of. */
  readonly run?: string;
  /** Confirmed by a person, or nothing that has to be. A risky command does not leave without. */
  readonly isConfirmed: boolean;
  /** How it could have been confirmed, where there is a control. */
  readonly guard?: Guard;
  /** In place of the command's own class. */
  readonly class?: SendClass;
  /** Who owes a stop or a turning off for it: what of theirs still waits is taken out when that goes. */
  readonly owners: readonly string[];
  /** In whose name the stop of what it starts is entered in the ledger. */
  readonly stopOwner: string;
  /** One of many of the same movement: its stop is entered once, and the hand that moves keeps it from coming. */
  readonly isMovement?: boolean;
  readonly watch?: SendWatch;
}

/** What the ledger owes: it goes to the device whatever the aim, and ahead of everything else. */
type StopOrder = Pick<Order, 'device' | 'prepared' | 'owners' | 'watch'>;

interface DispatcherSources {
  readonly show: RunningShow;
  readonly sessions: ReadonlyMap<string, DeviceSession>;
  readonly deadMan: DeadMan;
  /** What the program itself does. */
  readonly own: OwnOrders;
  /** What waits until something else has begun. */
  readonly preRoll: PreRoll;
  /** Something leaves for a device because of somebody. */
  readonly onSent: (device: string, who: string) => void;
  /** A command has left for a device, or would have if the aim were not dry. */
  readonly onCommand: (device: string, prepared: PreparedSend, who: string, run?: string) => void;
}

/**
 * The one way out: presses, values, steps of macros, tally, stops and commands by hand are handed to the devices' sessions here and nowhere
 * else. It holds back what is not confirmed, sends nothing while the aim is dry, enters stops in the ledger before the first byte leaves, and
 * tells the recorder and the news what has left.
 */
export class Dispatcher {
  constructor(private readonly sources: DispatcherSources) {}

  /** Returns false when nothing of it has left or will; the listener hears why, perhaps before this returns. */
  dispatch(order: Order, listener: SendListener): boolean {
    const { device, prepared, who, run } = order;
    const { sessions, own, onCommand, preRoll } = this.sources;
    if (prepared.command.risky && !order.isConfirmed) {
      listener({ outcome: 'skipped', ms: 0, reason: guardedReason(order.guard), why: 'guarded' });
      return false;
    }
    if (order.aim === 'dry') {
      onCommand(device.id, prepared, who, run);
      listener({ outcome: 'skipped', ms: 0, reason: dryReason, why: 'dry' });
      return false;
    }
    if (device.id === ownId) {
      onCommand(device.id, prepared, who, run);
      return own.carryOut(order, listener);
    }
    const session = sessions.get(device.id);
    if (!session) {
      listener({ outcome: 'lost', why: 'switched-off', ms: 0, reason: 'The device is switched off in the rig.' });
      return false;
    }
    preRoll.replace(device.id, prepared);
    const leave = (heard: SendListener) => this.leave(order, session, heard);
    return (session.isReachable && preRoll.holds(order, listener, leave)) || leave(listener);
  }

  /** Hands an order to the device's session. Returns false when nothing of it has left or will. */
  private leave(order: Order, session: DeviceSession, listener: SendListener): boolean {
    const { device, prepared, who, run, owners, watch } = order;
    const { deadMan, onSent, onCommand } = this.sources;
    onSent(device.id, who);
    const entered = this.enterStop(order);
    const hasLeft = session.send(prepared, listener, order.class, watch, owners);
    if (!hasLeft) {
      entered?.strike();
      return false;
    }
    onCommand(device.id, prepared, who, run);
    entered?.sent();
    if (prepared.command.class === 'stop') deadMan.onSent(device.id, prepared.id, prepared.given);
    return true;
  }

  /** Sends a stop that is owed. */
  stop({ device, prepared, owners, watch }: StopOrder, listener: SendListener): void {
    const session = this.sources.sessions.get(device.id);
    if (!session)
      return listener({
        outcome: 'lost',
        why: 'switched-off',
        ms: 0,
        reason: 'The device is switched off in the rig.',
      });
    this.sources.preRoll.replace(device.id, prepared);
    if (session.send(prepared, listener, 'stop', watch, owners))
      this.sources.onCommand(device.id, prepared, 'stop', undefined);
  }

  /** Says once more what a device was told before, which cannot say whether it heard it. Nobody is told. */
  repeat(device: DeviceRecord, prepared: PreparedSend, aim: Aim): void {
    if (aim !== 'dry') this.sources.sessions.get(device.id)?.send(prepared, () => undefined);
  }

  /** What goes on until it is stopped is entered in the ledger before its first byte leaves. */
  private enterStop({ device, prepared, stopOwner, isMovement }: Order): Entered | undefined {
    const { command, given } = prepared;
    const { show, deadMan } = this.sources;
    const { stop } = command;
    if (!stop) return undefined;
    if (isMovement) {
      deadMan.hold(stopOwner);
      if (deadMan.owes(stopOwner)) return undefined;
    }
    const params = stopParams(show.driverOf(device), stop, given);
    return deadMan.enter(stopOwner, { device: device.id, command: stop.command, params }, stop.longestMs);
  }
}
