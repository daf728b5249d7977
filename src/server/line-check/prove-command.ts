import { expectationsOf, meets, splitKey, type DriverCommand, type DriverDocument } from '../../core/driver';
import { otherValues, type CheckResult, type CheckSend } from '../../core/line-check';
import { commandBehind } from '../../core/macro';
import type { Scalar } from '../../core/result';
import { isEngineKey } from '../../core/show';
import type { PrivateRig } from './private-rig';

/** What a proof says, without what the check adds to it. */
export type Seen = Pick<CheckResult, 'state' | 'text' | 'ms' | 'bytes' | 'sideEffects'>;

/** How long the device may go on reporting what a command has changed. */
const quietMs = 150;
const mostSideEffects = 20;

/**
 * Sends a command to the stand-in of its device. It passes when the stand-in reports what the command is for. Where it was so already, it is
 * made different first, so that the report is one of a change.
 *
 * @param restless families that change by themselves, such as clocks
 * @param isNew the stand-in is in its first state, and nothing is done first
 */
export async function proveCommand(
  rig: PrivateRig,
  send: CheckSend,
  restless: ReadonlySet<string>,
  isNew: boolean,
): Promise<Seen> {
  const { device, command: id, params } = send;
  const document = rig.documentOf(device);
  const command = document?.commands[id];
  if (!document || !command) return { state: 'failed', text: 'The command no longer exists.' };
  const notReached = rig.notReached(device);
  if (notReached !== undefined) return { state: 'unproved', text: notReached };
  const readingNow = (key: string) => rig.valueNow({ device, key });
  await makeReady(rig, document, send);
  const expected = expectationsOf(command, params, readingNow) ?? [];
  const isSoAlready = () => expected.length > 0 && expected.every((each) => meets(each, readingNow(each.key)));
  if (!isNew && isSoAlready()) await makeDifferent(rig, document, send, expected[0]);
  const wasSo = isSoAlready();
  const about = new Set(expected.map(({ key }) => splitKey(key).family));
  // What is computed from others goes back with them.
  const isCounted = (family: string) => {
    const definition = document.readings[family];
    return !about.has(family) && !restless.has(family) && definition?.value.type !== 'time' && !definition?.computed;
  };
  /** Sends something and tells which other families have changed by it. */
  const sendAndLook = async (each: CheckSend) => {
    const before = rig.readingsOf(device);
    const end = await rig.send(each);
    await new Promise((resolve) => setTimeout(resolve, quietMs));
    const changed = changedFamilies(before, rig.readingsOf(device)).filter(isCounted);
    return { ...end, changed };
  };
  let { outcome, reason, ms, bytes, changed } = await sendAndLook(send);
  if (outcome === 'sent' && changed.length === 0)
    for (const other of variants(command.params, send)) {
      await sendAndLook(other);
      ({ outcome, reason, ms, bytes, changed } = await sendAndLook(send));
      if (changed.length > 0) break;
    }
  const said = (state: Seen['state'], text: string): Seen => ({
    state,
    text,
    ms,
    ...(bytes === undefined ? {} : { bytes }),
    sideEffects: changed.slice(0, mostSideEffects),
  });
  switch (outcome) {
    case 'confirmed':
      if (wasSo)
        return said('passed', 'The stand-in accepted it. It was already so, and nothing else could be set first.');
      return said('passed', expected.length > 0 ? 'The stand-in reported the change.' : 'The stand-in accepted it.');
    case 'sent':
      if (changed.length > 0) return said('passed', 'The stand-in changed what it reports.');
      return said('unproved', 'Sent. This kind of device reports nothing that would confirm it.');
    case 'refused':
      return said('failed', reason ?? 'The stand-in refused it.');
    case 'late':
      return said('failed', reason ?? 'The stand-in did not report the change in time.');
    default:
      return said('unproved', reason ?? 'It could not be sent.');
  }
}

/** The same command with one of its values changed: where nothing confirms it, going there and back shows that it does something. */
function variants(definitions: DriverCommand['params'], send: CheckSend): CheckSend[] {
  return Object.entries(definitions).flatMap(([name, { value: shape }]) => {
    const value = send.params[name];
    const [other] = value === undefined ? [] : otherValues(shape, value);
    return other === undefined ? [] : [{ ...send, params: { ...send.params, [name]: other } }];
  });
}

/** Brings the device into a state in which it takes the command, where its driver says that it needs one and some command does that. */
export async function makeReady(
  rig: PrivateRig,
  document: DriverDocument,
  { device, command }: Pick<CheckSend, 'device' | 'command'>,
): Promise<void> {
  const needs = document.commands[command]?.worksWhile;
  const readingNow = (key: string) => rig.valueNow({ device, key });
  const [first] = needs?.oneOf ?? [];
  const now = needs && readingNow(needs.reading);
  if (!needs || first === undefined || (now !== undefined && needs.oneOf.includes(now))) return;
  const found = commandBehind(document, needs.reading, first, readingNow);
  if (found) await rig.send({ device, command: found.id, params: { ...found.params } });
}

/** Gives a reading another value, where some command does that. */
async function makeDifferent(
  rig: PrivateRig,
  document: DriverDocument,
  { device, command }: CheckSend,
  expected: { readonly key: string; readonly equals?: Scalar } | undefined,
): Promise<void> {
  if (expected?.equals === undefined) return;
  const { key, equals } = expected;
  const readingNow = (each: string) => rig.valueNow({ device, key: each });
  let found: ReturnType<typeof commandBehind>;
  for (const other of otherValues(document.readings[splitKey(key).family]?.value, equals))
    found ??= commandBehind(document, key, other, readingNow);
  if (!found || (found.id === command && found.command.stop)) return;
  await rig.send({ device, command: found.id, params: { ...found.params } });
}

/** The families of readings of the device itself that differ between two moments: what is on air follows from them. */
export function changedFamilies(before: ReadonlyMap<string, Scalar>, after: ReadonlyMap<string, Scalar>): string[] {
  const keys = new Set([...before.keys(), ...after.keys()]);
  const changed = [...keys].filter((key) => before.get(key) !== after.get(key) && !isEngineKey(key));
  return [...new Set(changed.map((key) => splitKey(key).family))];
}
