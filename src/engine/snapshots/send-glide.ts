import type { DriverCommand } from '../../core/driver';
import type { GlideSend } from '../../core/snapshot';
import { prepare } from '../devices/prepare';
import type { SendListener } from '../devices/send-book';
import type { Dispatcher, Order } from '../presses/dispatcher';
import type { RunningShow } from '../show/running-show';

interface Sources {
  readonly show: RunningShow;
  readonly dispatcher: Dispatcher;
}

/** Sends a command of a call-up in the name of what asked for it. What is refused names the device and the command. */
export function sendGlide({ show, dispatcher }: Sources, send: GlideSend, by: Order, listener: SendListener): void {
  const device = show.devices.get(send.device);
  const driver = device && show.driverOf(device);
  if (!device || !driver)
    return listener({ outcome: 'lost', why: 'missing', ms: 0, reason: 'A device of this snapshot is not in the rig.' });
  const made = prepare(driver, send.command, send.params);
  const title = `${device.data.tag} ${driver.commands.get(send.command)?.command.title ?? send.command}`;
  if (!made.ok)
    return listener({ outcome: 'lost', why: 'bad-value', ms: 0, reason: `${title}: ${made.error.message}` });
  const { press } = by.watch ?? {};
  dispatcher.dispatch(
    {
      device,
      prepared: send.isFrame
        ? { ...made.value, command: unconfirmed(made.value.command), channel: send.track }
        : { ...made.value, ends: send.track },
      aim: by.aim,
      who: by.who,
      ...(by.run === undefined ? {} : { run: by.run }),
      isConfirmed: true,
      ...(send.isFrame ? { class: 'continuous' as const } : {}),
      owners: by.owners,
      stopOwner: by.stopOwner,
      ...(press === undefined ? {} : { watch: { press } }),
    },
    ({ reason, ...result }) =>
      listener({ ...result, ...(reason === undefined ? {} : { reason: `${title}: ${reason}` }) }),
  );
}

const frames = new WeakMap<DriverCommand, DriverCommand>();

/** The command of a frame: the next frame is on its way before the device could report it, so nobody waits for that. */
function unconfirmed(command: DriverCommand): DriverCommand {
  const { confirm: _, ...rest } = command;
  const frame = frames.get(command) ?? rest;
  frames.set(command, frame);
  return frame;
}
