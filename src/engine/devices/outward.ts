import type { OwnMessage } from '../../core/driver';
import { letGoReason } from '../../core/press';
import type { Outbox, OwnPurpose, SendClass } from '../../core/session';
import type { SendListener } from './send-book';
import type { PreparedSend, SendWatch } from './session-types';

/** Something that waits to go out to a device. */
export type Outward =
  | {
      readonly is: 'command';
      readonly prepared: PreparedSend;
      readonly listener: SendListener;
      readonly watch: SendWatch | undefined;
      /** Who owes its stop: once that goes out, this must not any more. */
      readonly owners: readonly string[];
    }
  | { readonly is: 'own'; readonly own: OwnMessage; readonly purpose: OwnPurpose; readonly from: number | undefined };

/** The most sends that wait for one device. */
export const maxWaiting = 500;

/** Values of different channels are different things: only the same one is replaced by a newer. */
export const channelOf = ({ id, command, given, channel }: PreparedSend): string =>
  channel ??
  [
    id,
    ...Object.entries(command.params)
      .filter(([, param]) => param.value.type !== 'decimal')
      .map(([name]) => String(given[name])),
  ].join(' ');

/** What somebody sees of what waits in front of a command. */
export const titleOf = (left: Outward): string =>
  left.is === 'command' ? left.prepared.command.title : (left.own.ask ?? left.purpose);

const overtaken = {
  outcome: 'skipped',
  ms: 0,
  reason: 'A newer value took its place before it could be sent.',
  why: 'overtaken',
} as const;

/** Takes out what waits of the channel that a command ends: it would go out behind it, for it is less urgent. */
export function dropEnded(outbox: Outbox<Outward>, { ends }: PreparedSend): void {
  if (ends === undefined) return;
  for (const left of outbox.take((each) => each.is === 'command' && each.prepared.channel === ends))
    if (left.is === 'command') left.listener(overtaken);
}

/** Tells what became of a send that will not go out: a newer value took its place, or too many wait. */
export function tellDropped(left: Outward | undefined): void {
  if (left?.is !== 'command') return;
  const continuous = left.prepared.command.class === 'continuous' || left.prepared.channel !== undefined;
  left.listener(
    continuous
      ? overtaken
      : { outcome: 'lost', why: 'too-many', ms: 0, reason: `More than ${maxWaiting} commands wait for this device.` },
  );
}

/**
 * The class in which a stop goes out. It overtakes what waits, and of what it stops nothing may follow: that is taken out. What a release
 * or a turning off sends is a command like others; it goes behind what it answers.
 */
export function classOfStop(outbox: Outbox<Outward>, { command }: PreparedSend, owners: readonly string[]): SendClass {
  const isBehind = (left: Outward) => left.is === 'command' && left.owners.some((owner) => owners.includes(owner));
  if (command.class !== 'stop') return outbox.classOf(isBehind) ?? 'stop';
  for (const left of outbox.take(isBehind))
    if (left.is === 'command') left.listener({ outcome: 'skipped', ms: 0, reason: letGoReason, why: 'released' });
  return 'stop';
}
