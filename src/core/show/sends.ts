import type { ControlRecord, SendSpec } from './records';

type Data = ControlRecord['data'];

/** Every command that a control can send by itself, whatever the gesture; those of a stick and a list are its driver's. */
export const sendsOfControl = ({ responses, range }: Pick<Data, 'responses' | 'range'>): SendSpec[] => [
  ...responses.tap,
  ...(responses.held ?? []),
  ...(responses.release ?? []),
  ...(responses.turns ?? []).flat(),
  ...(responses.long?.sends ?? []),
  ...(responses.off?.sends ?? []),
  ...(range ? [range.send] : []),
];

/** True for a control that has to be told of its release. */
export const needsHolding = ({ responses }: Pick<Data, 'responses'>): boolean =>
  // What is asked first cannot be held.
  responses.asks === undefined &&
  ([responses.held, responses.release].some((sends) => (sends?.length ?? 0) > 0) ||
    responses.repeat !== undefined ||
    responses.long !== undefined);

/** The control's data with each of its commands replaced. */
export function mapSends<T extends Pick<Data, 'responses' | 'range'>>(data: T, to: (send: SendSpec) => SendSpec): T {
  const { tap, held, release, turns, long, off } = data.responses;
  return {
    ...data,
    responses: {
      ...data.responses,
      tap: tap.map(to),
      ...(held ? { held: held.map(to) } : {}),
      ...(release ? { release: release.map(to) } : {}),
      ...(turns ? { turns: turns.map((sends) => sends.map(to)) } : {}),
      ...(long ? { long: { ...long, sends: long.sends.map(to) } } : {}),
      ...(off ? { off: { ...off, sends: off.sends.map(to) } } : {}),
    },
    ...(data.range ? { range: { ...data.range, send: to(data.range.send) } } : {}),
  };
}
