import { fitted } from '../lamp';
import type { DriverParameter } from '../driver';
import { isLive, mapSends, sendsOfControl, type ControlRecord, type LookUp, type SendSpec } from '../show';

type Data = ControlRecord['data'];
type ParamOf = (device: string, command: string, param: string) => DriverParameter | undefined;

/** The stored command behind each settled one. Targets are named by it, so that they do not change with the value looked up. */
const originals = new WeakMap<SendSpec, SendSpec>();

/** The command as it is stored, for one that was settled. */
export const originalOf = (send: SendSpec): SendSpec => originals.get(send) ?? send;

/** Whether a control looks anything up. Records never change, so the answer is cached by its responses. */
const known = new WeakMap<Data['responses'], boolean>();

function hasLive(data: Data): boolean {
  const before = known.get(data.responses);
  if (before !== undefined) return before;
  const sends = sendsOfControl({ responses: data.responses });
  const now = [...sends, ...(data.responses.runs ? [data.responses.runs] : [])].some(({ params }) =>
    Object.values(params).some(isLive),
  );
  known.set(data.responses, now);
  return now;
}

/**
 * The control with everything that its commands look up replaced by what it is now, so that all that comes of one press (what it sends, what its
 * release sends, what turns it off later) is about the same. What nobody knows now stays as it is, and cannot be sent.
 */
export function settled(control: ControlRecord, lookUp: LookUp, paramOf: ParamOf): ControlRecord {
  const { data } = control;
  if (!hasLive(data)) return control;
  const { responses } = mapSends({ responses: data.responses }, (send) => {
    const params = Object.fromEntries(
      Object.entries(send.params).map(([name, argument]) => {
        const value = isLive(argument) ? lookUp(argument) : undefined;
        const param = value === undefined ? undefined : paramOf(send.device, send.command, name);
        return [name, value === undefined ? argument : param ? fitted(value, param) : value];
      }),
    );
    const made = { ...send, params };
    originals.set(made, originalOf(send));
    return made;
  });
  const { runs } = responses;
  const given = Object.fromEntries(
    Object.entries(runs?.params ?? {}).map(([name, argument]) => [
      name,
      isLive(argument) ? (lookUp(argument) ?? argument) : argument,
    ]),
  );
  return {
    ...control,
    data: { ...data, responses: runs ? { ...responses, runs: { ...runs, params: given } } : responses },
  };
}
