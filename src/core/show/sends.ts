import type { ControlRecord, SendSpec } from './records';

type Data = ControlRecord['data'];

/** Every command that a control can send by itself, whatever the gesture; those of a stick and a list are its driver's. */
export const sendsOfControl = ({ responses, range }: Pick<Data, 'responses' | 'range'>): SendSpec[] => [
  ...responses.tap,
  ...(responses.held ?? []),
  ...(range ? [range.send] : []),
];

/** The control's data with each of its commands replaced. */
export function mapSends<T extends Pick<Data, 'responses' | 'range'>>(data: T, to: (send: SendSpec) => SendSpec): T {
  const { tap, held } = data.responses;
  return {
    ...data,
    responses: { ...data.responses, tap: tap.map(to), ...(held ? { held: held.map(to) } : {}) },
    ...(data.range ? { range: { ...data.range, send: to(data.range.send) } } : {}),
  };
}
