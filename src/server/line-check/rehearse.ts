import { contextsOf } from '../../core/line-check';
import type { CheckItem, CheckResult, CheckSend } from '../../core/line-check';
import type { ShowRecord } from '../../core/show';
import type { PrivateRig } from './private-rig';
import { changedFamilies, proveCommand, type Seen } from './prove-command';
import { proveLamp } from './prove-lamp';

/** A proof that was rehearsed: which item, how, and what was seen. */
export type Rehearsed = Pick<CheckResult, 'item' | 'by' | 'fingerprint'> & Seen;

/** How long the stand-ins are watched to learn what changes by itself. */
const watchMs = 1200;

/** How many commands are tried at the most to bring a device into a state in which something can be proved. */
const mostEnablers = 12;

/**
 * Carries out the proofs of items that a rehearsal can give: devices side by side, one thing at a time at each. What a device can do depends on
 * what was done before: a screen that was switched off takes no input, a layer without a template has no rows. So what does not pass is
 * tried once more at new stand-ins, and then after commands that did pass.
 */
export async function rehearseItems(
  rig: PrivateRig,
  records: readonly ShowRecord[],
  items: readonly CheckItem[],
  tell: (result: Rehearsed) => void,
  signal: AbortSignal,
): Promise<void> {
  const restless = await restlessOf(rig, records);
  const say = ({ item, by }: Work, seen: Seen) => tell({ item: item.id, by, fingerprint: item.fingerprint, ...seen });
  const passed: CheckSend[] = [];
  const turns = new DeviceTurns();
  const retry = async (one: Work, before: Seen): Promise<void> => {
    if (signal.aborted) return;
    // As the try before it has left it, the device may do.
    let seen = await one.run(false);
    if (seen.state !== 'passed') {
      await Promise.all(one.item.devices.map((device) => rig.renew(device)));
      seen = await one.run(true);
    }
    if (seen.state !== 'passed' && seen.state !== 'doubtful')
      seen = await afterOthers(rig, one, passed, telling(before, seen), signal);
    say(one, seen);
  };
  const retries: Promise<void>[] = [];
  const first = async (one: Work): Promise<void> => {
    if (signal.aborted) return;
    const seen = await one.run(false);
    // Behind everything else that its devices still have to do.
    if (seen.state !== 'passed') return void retries.push(turns.take(one.item.devices, () => retry(one, seen)));
    if (one.send) passed.push(one.send);
    say(one, seen);
  };
  const work = worksOf(rig, records, items, restless);
  await Promise.all(work.map((one) => turns.take(one.item.devices, () => first(one))));
  await Promise.all(retries);
}

interface Work {
  readonly item: CheckItem;
  readonly by: CheckResult['by'];
  /** Of a command: what is sent. */
  readonly send: CheckSend | undefined;
  readonly run: (isNew: boolean) => Promise<Seen>;
}

function worksOf(
  rig: PrivateRig,
  records: readonly ShowRecord[],
  items: readonly CheckItem[],
  restless: ReadonlyMap<string, ReadonlySet<string>>,
): readonly Work[] {
  return items.flatMap((item) =>
    item.proofs.flatMap((proof): Work[] => {
      if (proof.by === 'rehearsal') {
        const { send } = proof;
        const run = (isNew: boolean) => proveCommand(rig, send, restless.get(send.device) ?? none, isNew);
        return [{ item, by: proof.by, send, run }];
      }
      if (proof.by !== 'lamp') return [];
      const run = (isNew: boolean) => proveLampOf(rig, records, proof.control, proof.context, isNew);
      return [{ item, by: proof.by, send: undefined, run }];
    }),
  );
}

/** Tries something after each of the commands that passed at its devices, until it passes. */
async function afterOthers(
  rig: PrivateRig,
  { item, send, run }: Work,
  passed: readonly CheckSend[],
  first: Seen,
  signal: AbortSignal,
): Promise<Seen> {
  let seen = first;
  const own = passed.filter(({ device }) => item.devices.includes(device));
  // Of each command one for each of its first values: a layer, a strip, a channel.
  const kinds = new Map(own.map((each) => [`${each.command} ${String(Object.values(each.params)[0])}`, each]));
  const alike = (each: CheckSend) => (send && Object.values(each.params)[0] === Object.values(send.params)[0] ? 0 : 1);
  for (const enabler of [...kinds.values()].sort((a, b) => alike(a) - alike(b)).slice(0, mostEnablers)) {
    if (signal.aborted) return seen;
    await rig.send(enabler);
    const now = await run(true);
    if (now.state === 'passed') return now;
    seen = telling(seen, now);
  }
  return seen;
}

/** Of two tries that did not pass, the one that says more: that something is wrong, rather than that it could not be tried. */
const telling = (before: Seen, now: Seen): Seen =>
  now.state === 'unproved' && before.state !== 'unproved' ? before : now;

const none: ReadonlySet<string> = new Set();

async function proveLampOf(
  rig: PrivateRig,
  records: readonly ShowRecord[],
  id: string,
  context: string,
  isNew: boolean,
): Promise<Seen> {
  const control = records.find((record) => record.id === id);
  const page = control?.kind === 'control' && records.find((record) => record.id === control.data.page);
  if (!page || page.kind !== 'page' || control?.kind !== 'control')
    return { state: 'unproved', text: 'The control no longer exists.' };
  const found = contextsOf(control, page, rig).find((each) => each.context === context);
  return found
    ? proveLamp(rig, found.data, isNew)
    : { state: 'unproved', text: 'The control is not shown in this context any more.' };
}

/** By device, the families of readings that change although nobody does anything. */
async function restlessOf(
  rig: PrivateRig,
  records: readonly ShowRecord[],
): Promise<ReadonlyMap<string, ReadonlySet<string>>> {
  const devices = records.flatMap((record) => (record.kind === 'device' ? [record.id] : []));
  const before = new Map(devices.map((id) => [id, rig.readingsOf(id)]));
  await new Promise((resolve) => setTimeout(resolve, watchMs));
  return new Map(devices.map((id) => [id, new Set(changedFamilies(before.get(id) ?? new Map(), rig.readingsOf(id)))]));
}

/** One thing at a time at each device. What needs several devices waits until it has all of them. */
class DeviceTurns {
  private readonly last = new Map<string, Promise<void>>();

  take(devices: readonly string[], run: () => Promise<void>): Promise<void> {
    const before = devices.map((device) => this.last.get(device));
    const turn = Promise.all(before).then(run);
    const over = turn.catch(() => undefined);
    for (const device of devices) this.last.set(device, over);
    return turn;
  }
}
