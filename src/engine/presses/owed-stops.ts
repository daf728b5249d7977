import { commandText, isRepeatable } from '../../core/driver';
import { prepare } from '../devices/prepare';
import type { OwedStop } from '../../core/session';
import type { DeviceSession } from '../devices/device-session';
import type { Aims } from '../aim/aims';
import type { AsRun } from '../record/as-run';
import type { RunningShow } from '../show/running-show';
import type { DeadMan, StopReason, StopResult } from './dead-man';
import type { Dispatcher } from './dispatcher';

const somethingGoesOn = 'something is held, moves, or undoes itself in a while. It has to end first.';

/** Sends the stops that the dead man's ledger owes, and records them. */
export class OwedStops {
  constructor(
    private readonly show: RunningShow,
    private readonly sessions: ReadonlyMap<string, DeviceSession>,
    private readonly dispatcher: Dispatcher,
    private readonly asRun: AsRun,
    private readonly deadMan: DeadMan,
    aims: Aims,
  ) {
    deadMan.listen({
      onOwed: (stop, owner, done) => this.send(stop, owner, done),
      onStopped: (stop, why, result) => this.record(stop, why, result),
    });
    aims.listen({
      goesOn: () => (deadMan.goingOn > 0 ? somethingGoesOn : undefined),
      onRaise: () => deadMan.turnTo('rehearsal'),
      onCurtain: () => deadMan.turnTo('devices'),
    });
  }

  /** The engine stops: what goes on is stopped while the devices can still be told. */
  stop(): void {
    for (const device of this.sessions.keys()) this.deadMan.stopAllOf(device);
  }

  private send(stop: OwedStop, owner: string, done: (result: StopResult) => void): void {
    const device = this.show.devices.get(stop.device);
    const driver = device && this.show.driverOf(device);
    const prepared = driver && prepare(driver, stop.command, stop.params);
    if (!device || !prepared?.ok)
      return done({ outcome: 'lost', why: 'missing', ms: 0, reason: 'The device is not in the rig.' });
    // A swap that was sent twice would be back where it was. Only a refusal says that it did nothing.
    const canRepeat = isRepeatable(prepared.value.command);
    let hasLeft = false;
    const order = {
      device,
      prepared: prepared.value,
      owners: [owner],
      watch: { onBytes: () => void (hasLeft = true) },
    };
    this.dispatcher.stop(order, (result) => {
      if (result.note) return;
      done({ ...result, isFinal: hasLeft && !canRepeat && result.outcome !== 'refused' });
    });
  }

  private record(stop: OwedStop, why: StopReason, result: StopResult): void {
    const device = this.show.devices.get(stop.device);
    const command = commandText(device && this.show.documentOf(device.id), stop.command, stop.params);
    const { why: ending, ...end } = result;
    this.asRun.record({ kind: 'stop', device: device?.data.tag ?? '?', command, why, ending, ...end });
  }
}
