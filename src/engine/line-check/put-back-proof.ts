import { readingTitle, valueText, splitKey, type DriverDocument } from '../../core/driver';
import { keysOfCommand, putBackOf, type CheckResult, type CheckSend } from '../../core/line-check';
import type { Scalar } from '../../core/result';
import { isWell, type Link } from '../../core/session';
import type { DeviceRecord } from '../../core/show';
import type { Tally } from '../../core/tally';
import type { Aims } from '../aim/aims';
import type { ReadingStore } from '../devices/readings';
import type { DeadMan, StopResult } from '../presses/dead-man';
import type { Presses } from '../presses/presses';
import { onAirReason } from './on-air';

type Seen = Pick<CheckResult, 'state' | 'text' | 'ms' | 'bytes' | 'press' | 'left'>;

interface PutBackSources {
  readonly readings: ReadingStore;
  readonly presses: Presses;
  readonly deadMan: DeadMan;
  readonly aims: Aims;
  readonly newId: () => string;
  readonly linkOf: (device: string) => Link['word'] | undefined;
  readonly tallyOf: (device: string) => Tally | undefined;
  /** Told before anything is sent: what has to be what again afterwards. */
  readonly onBegin: (device: string, before: ReadonlyMap<string, Scalar>) => void;
  /** The connection ended in the middle: whether the device is as it was can be seen only when it is back. */
  readonly onCutOff: (device: string, before: ReadonlyMap<string, Scalar>) => void;
}

/** After this long what was changed is put back, whatever has become of the check. */
const longestMs = 15_000;
/** How long the device has to report that it is as it was. */
const restoredMs = 3000;
const lookMs = 25;

/**
 * Sends a command to a device and puts back what it has changed. What puts it back is entered in the ledger before the first byte leaves, so
 * that it is sent even if the link is cut or the engine is killed meanwhile. Nothing on air is touched.
 */
export async function provePutBack(
  send: CheckSend,
  device: DeviceRecord,
  document: DriverDocument,
  sources: PutBackSources,
): Promise<Seen> {
  const { readings, presses, deadMan, aims, newId, linkOf, tallyOf } = sources;
  const fresh = (key: string) => readings.fresh(device.id, key);
  const unproved = (text: string): Seen => ({ state: 'unproved', text });
  if (aims.aim !== 'live') return unproved('The aim is not live, so nothing was sent to the device.');
  const word = linkOf(device.id);
  if (!word || !isWell(word)) return unproved(`${device.data.tag} is not connected.`);
  const needs = document.commands[send.command]?.worksWhile;
  const state = needs && fresh(needs.reading);
  if (needs && (state === undefined || !needs.oneOf.includes(state))) {
    const name = readingTitle(document, needs.reading) ?? needs.reading;
    return unproved(`Not tried: the device does not take it with “${name}” as it is now.`);
  }
  const keys = keysOfCommand(document, send, fresh);
  if (!keys.ok) return unproved(keys.error);
  const onAir = onAirReason(device, keys.value, { document, tally: tallyOf(device.id), fresh });
  if (onAir !== undefined) return unproved(`Not tried: ${onAir}`);
  const back = putBackOf(document, device.id, keys.value, fresh);
  if (!back.ok) return unproved(`Not tried: ${back.error}`);
  const { before, sends } = back.value;

  sources.onBegin(device.id, before);
  const owner = newId();
  const ends = sends.map(
    ({ command, params }) =>
      new Promise<StopResult>((resolve) => {
        deadMan.enter(owner, { device: device.id, command, params }, longestMs, 'its time was over', resolve);
      }),
  );
  const result = await new Promise<{
    outcome: string;
    ms: number;
    reason?: string | undefined;
    bytes?: string | undefined;
  }>((resolve) => {
    const { command, params } = send;
    const request = { id: owner, device, command, params, guard: false, gesture: 'tap', who: 'line check' } as const;
    presses.command({ ...request, label: 'Line check' }, (report) => {
      if (!('sends' in report)) return;
      const [first] = report.sends;
      resolve({ ...report, reason: report.reason ?? first?.reason, bytes: first?.bytes });
    });
  });
  if (result.outcome === 'skipped' || result.outcome === 'lost') {
    // A command that was cut off may have arrived all the same: then it is put back once the device is there again.
    if (result.outcome === 'skipped') deadMan.forget(owner);
    else {
      deadMan.release(owner, 'released');
      sources.onCutOff(device.id, before);
    }
    return { ...unproved(result.reason ?? 'It could not be sent.'), press: owner };
  }
  deadMan.release(owner, 'released');
  await Promise.race([Promise.all(ends), new Promise((resolve) => setTimeout(resolve, longestMs))]);
  const left = await leftOf(device.id, before, fresh);
  const base = { press: owner, ms: result.ms, ...(result.bytes === undefined ? {} : { bytes: result.bytes }) };
  if (left.length > 0 && !isWell(linkOf(device.id) ?? 'off')) {
    sources.onCutOff(device.id, before);
    return { ...base, state: 'unproved', text: 'The connection ended while the device was put back.' };
  }
  if (left.length > 0) {
    const [first] = left;
    const name = readingTitle(document, first?.key ?? '') ?? first?.key ?? '';
    const shape = document.readings[splitKey(first?.key ?? '').family]?.value;
    const was = first ? valueText(shape, first.before) : '';
    return { ...base, state: 'failed', text: `“${name}” could not be put back to ${was}.`, left };
  }
  if (result.outcome === 'confirmed')
    return { ...base, state: 'passed', text: 'The device reported the change, and was put back.' };
  const text =
    result.reason ??
    (result.outcome === 'late' ? 'The device did not report the change in time.' : `It ended as ${result.outcome}.`);
  return { ...base, state: 'failed', text };
}

/** What is not as it was, after the device had time to report. */
async function leftOf(
  device: string,
  before: ReadonlyMap<string, Scalar>,
  fresh: (key: string) => Scalar | undefined,
): Promise<NonNullable<CheckResult['left']>> {
  const deadline = performance.now() + restoredMs;
  for (;;) {
    const left = changedSince(device, before, fresh);
    if (left.length === 0 || performance.now() > deadline) return left;
    await new Promise((resolve) => setTimeout(resolve, lookMs));
  }
}

/** The readings that are not what they were. */
export const changedSince = (
  device: string,
  before: ReadonlyMap<string, Scalar>,
  fresh: (key: string) => Scalar | undefined,
): NonNullable<CheckResult['left']> =>
  [...before].flatMap(([key, value]) => {
    const now = fresh(key);
    return now === value ? [] : [{ device, key, before: value, ...(now === undefined ? {} : { now }) }];
  });
