import { describe, expect, it, onTestFinished } from 'vitest';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { compileDriver } from '../../core/driver';
import type { DeviceLink } from './links';
import { prepare } from './prepare';
import type { SendListener } from './send-book';
import { SessionSender } from './session-sender';
import { SyncProgress } from './sync-progress';

/** A second between two commands: what is sent after the first one waits. */
const compiled = compileDriver({ ...visionSwitcher, link: { ...visionSwitcher.link, gapMs: 1000 } });
if (!compiled.ok) throw new Error('The driver does not compile.');
const driver = compiled.value;

/** A sender whose link takes everything. */
function made() {
  const written: string[] = [];
  const link: DeviceLink = {
    proves: true,
    write: (message) => {
      written.push(JSON.stringify(message));
      return { ok: true, bytes: new Uint8Array([1]) };
    },
    forget: () => undefined,
    pause: () => undefined,
    resume: () => undefined,
    rest: () => new Uint8Array(),
    close: () => undefined,
  };
  const options = { driver, host: '', port: 1, user: '', password: '' };
  const sender = new SessionSender(options, new SyncProgress(() => undefined), {
    freshReading: () => undefined,
    onWire: (_dir, bytes) => bytes,
    onUnanswered: () => undefined,
    onStuck: () => undefined,
    onFault: () => undefined,
    isSyncing: () => false,
  });
  sender.open(link);
  onTestFinished(() => sender.close());
  const ended: Parameters<SendListener>[0][] = [];
  const take = (input: number, owners: readonly string[] = []) => {
    const prepared = prepare(driver, 'take', { input });
    if (!prepared.ok) throw new Error(prepared.error.message);
    sender.send(prepared.value, (result) => ended.push(result), 'ordinary', undefined, owners);
  };
  return { sender, written, ended, take };
}

describe('what waits for a device', () => {
  it('is limited: one too many is lost at once and says so, and those that wait are not', () => {
    const { sender, written, ended, take } = made();
    for (let n = 0; n < 501; n += 1) take(1);
    expect([written.length, sender.waiting, ended.length]).toEqual([1, 500, 0]);
    take(2);
    expect(ended).toMatchObject([{ outcome: 'lost', why: 'too-many' }]);
    expect(sender.waiting).toBe(500);
  });

  it('is lost with the connection, each with its reason', () => {
    const { sender, ended, take } = made();
    for (let n = 0; n < 4; n += 1) take(n + 1);
    sender.close();
    expect(ended).toHaveLength(4);
    expect(new Set(ended.map(({ outcome, why }) => `${outcome} ${why}`))).toEqual(new Set(['lost cut-off']));
    expect(sender.waiting).toBe(0);
  });
});
