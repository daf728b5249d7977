import { type DriverDocument } from '../driver';
import type { Scalar } from '../result';
import { isHeld, resolveArgument, startOf, valueNameOf, type ControlRecord, type SendSpec } from '../show';
import { withValue } from './series';

/** Changes of what one control does and shows, from its data to its data. */

type Data = ControlRecord['data'];
/** What can be sent at: tapped, while held, let go, held long, undone, or one of the further turns. */
export type ResponseGesture = 'tap' | 'held' | 'release' | 'long' | 'off' | `turn ${number}`;

const turnOf = (gesture: ResponseGesture): number => Number(gesture.slice('turn '.length));

/** Everything at which a control sends something. */
export const gesturesOf = ({ responses }: Data): ResponseGesture[] => [
  'tap',
  'held',
  'release',
  'long',
  'off',
  ...(responses.turns ?? []).map((_, n): ResponseGesture => `turn ${n}`),
];

/** What a gesture sends, in order. */
export function sendsOf({ responses }: Data, gesture: ResponseGesture): readonly SendSpec[] {
  switch (gesture) {
    case 'tap':
    case 'held':
    case 'release':
      return responses[gesture] ?? [];
    case 'long':
    case 'off':
      return responses[gesture]?.sends ?? [];
    default:
      return responses.turns?.[turnOf(gesture)] ?? [];
  }
}

function withSends(data: Data, gesture: ResponseGesture, sends: SendSpec[]): Data {
  const set = (responses: Data['responses']): Data => ({ ...data, responses });
  const { responses } = data;
  switch (gesture) {
    case 'tap':
      return set({ ...responses, tap: sends });
    case 'held':
    case 'release': {
      const { [gesture]: _, ...others } = responses;
      return set(sends.length > 0 ? { ...others, [gesture]: sends } : others);
    }
    case 'long':
      return set({ ...responses, long: { afterMs: responses.long?.afterMs ?? 800, sends } });
    case 'off':
      return set({ ...responses, off: { afterMs: 5000, again: 'restart', ...responses.off, sends } });
    default: {
      const turns = [...(responses.turns ?? [])];
      turns[turnOf(gesture)] = sends;
      return set({ ...responses, turns });
    }
  }
}

/** Sets or takes out what a response does besides sending. `undefined` takes it out. */
export function setResponse<K extends 'release' | 'repeat' | 'long' | 'off' | 'turns' | 'guard' | 'asks'>(
  data: Data,
  part: K,
  to: Data['responses'][K] | undefined,
): Data {
  const { [part]: _, ...others } = data.responses;
  return { ...data, responses: (to === undefined ? others : { ...others, [part]: to }) as Data['responses'] };
}

/** Adds a command at the end of what a gesture sends, with the values that the driver gives it. */
export function addSend(
  data: Data,
  gesture: ResponseGesture,
  document: DriverDocument,
  device: string,
  command: string,
  /** Values that its parameters have from the beginning. */
  given: Readonly<Record<string, Scalar>> = {},
): Data {
  const start = startOf(document, device, command, given);
  const send = [...start.responses.tap, ...(start.responses.held ?? [])][0];
  if (!send) return data;
  // What it starts with becomes literal: the control's own values belong to its first command.
  const params = Object.fromEntries(
    Object.entries(send.params).map(([name, argument]) => [name, resolveArgument(argument, start.values) ?? '']),
  );
  return withSends(data, gesture, [...sendsOf(data, gesture), { ...send, params }]);
}

/** Puts another command in the place of one. Parameters that both have stay. */
export function replaceSend(
  data: Data,
  gesture: ResponseGesture,
  index: number,
  document: DriverDocument,
  device: string,
  command: string,
  /** Values that its parameters have from the beginning. */
  given: Readonly<Record<string, Scalar>> = {},
): Data {
  const before = sendsOf(data, gesture)[index];
  const fresh = addSend({ ...data, responses: { tap: [] } }, 'tap', document, device, command, given).responses.tap[0];
  if (!before || !fresh) return data;
  const names = Object.keys(fresh.params).filter((name) => name in before.params && before.command === command);
  const kept = Object.fromEntries(names.map((name) => [name, before.params[name] ?? '']));
  const send = { ...fresh, params: { ...fresh.params, ...kept, ...given }, ...waitOf(before) };
  return withSends(
    data,
    gesture,
    sendsOf(data, gesture).map((each, n) => (n === index ? send : each)),
  );
}

const waitOf = ({ waitMs }: SendSpec) => (waitMs === undefined ? {} : { waitMs });

/** How long a command waits after the one before it; 0 is no wait. */
export const setWait = (data: Data, gesture: ResponseGesture, index: number, ms: number): Data =>
  withSends(
    data,
    gesture,
    sendsOf(data, gesture).map((each, n) => {
      const { waitMs: _, ...send } = each;
      return n !== index ? each : ms > 0 ? { ...send, waitMs: Math.min(60_000, Math.round(ms)) } : send;
    }),
  );

export const removeSend = (data: Data, gesture: ResponseGesture, index: number): Data =>
  withSends(
    data,
    gesture,
    sendsOf(data, gesture).filter((_, n) => n !== index),
  );

/** Lets a command change places with the one before or after it; at the ends nothing happens. */
export function moveSend(data: Data, gesture: ResponseGesture, index: number, by: -1 | 1): Data {
  const sends = [...sendsOf(data, gesture)];
  const [one, other] = [sends[index], sends[index + by]];
  if (!one || !other) return data;
  sends[index] = other;
  sends[index + by] = one;
  return withSends(data, gesture, sends);
}

/** Makes a control tapped or held: what one gesture sent is sent by the other. */
export function setHeld(data: Data, held: boolean): Data {
  if (held === isHeld(data)) return data;
  const sends = [...sendsOf(data, held ? 'tap' : 'held')];
  const { held: _, ...others } = data.responses;
  return { ...data, responses: held ? { ...others, tap: [], held: sends } : { ...others, tap: sends } };
}

/**
 * Sets a parameter of a command. Of the first command it is a value of the control, so that label and lamp, where they were
 * about the same, go with it. `undefined` leaves the parameter out.
 */
export function setParam(
  data: Data,
  gesture: ResponseGesture,
  index: number,
  param: string,
  value: Scalar | undefined,
  document: DriverDocument | undefined,
): Data {
  const first = index === 0 && gesture === (isHeld(data) ? 'held' : 'tap');
  const tied = first && value !== undefined ? withValue(data, param, document) : data;
  const argument = sendsOf(tied, gesture)[index]?.params[param];
  const name = valueNameOf(argument);
  if (value !== undefined && name !== undefined) return { ...tied, values: { ...tied.values, [name]: value } };
  const sends = sendsOf(tied, gesture).map((each, n): SendSpec => {
    if (n !== index) return each;
    const { [param]: _, ...others } = each.params;
    return { ...each, params: value === undefined ? others : { ...others, [param]: value } };
  });
  return withSends(tied, gesture, sends);
}

/** Gives a parameter of a command an argument. */
export const withSendParam = (
  data: Data,
  gesture: ResponseGesture,
  index: number,
  param: string,
  argument: SendSpec['params'][string],
): Data =>
  withSends(
    data,
    gesture,
    sendsOf(data, gesture).map((each, n) =>
      n === index ? { ...each, params: { ...each.params, [param]: argument } } : each,
    ),
  );

/** A parameter's value as it is now. */
export const paramNow = (data: Data, send: SendSpec, param: string): Scalar | undefined => {
  const argument = send.params[param];
  return argument === undefined ? undefined : resolveArgument(argument, data.values);
};

/** Makes a control one of another kind. What the kind does not know is left behind; a fader and a dial keep what they set. */
export function setKind(data: Data, type: Data['type']): Data {
  if (type === data.type) return data;
  const { range, drive, list, presets, ...rest } = data;
  const turns = type === 'fader' || type === 'dial';
  return {
    ...rest,
    type,
    responses: type === 'button' ? data.responses : { tap: [] },
    ...(turns && range ? { range } : {}),
    ...(type === 'stick' && drive ? { drive } : {}),
    ...(type === 'list' && list ? { list } : {}),
    ...(type === 'presets' ? { presets: presets ?? { places: 6 } } : {}),
  };
}

/** Sets a parameter of the command that a fader or dial sends, as a value of the control. */
export function setRangeParam(data: Data, param: string, value: Scalar, document: DriverDocument | undefined): Data {
  const tied = withValue(data, param, document);
  const name = valueNameOf(tied.range?.send.params[param]);
  if (name !== undefined) return { ...tied, values: { ...tied.values, [name]: value } };
  if (!tied.range) return tied;
  const send = { ...tied.range.send, params: { ...tied.range.send.params, [param]: value } };
  return { ...tied, range: { ...tied.range, send } };
}
