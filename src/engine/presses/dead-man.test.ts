import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, onTestFinished, vi } from 'vitest';
import { DiskReserve } from '../record/disk-reserve';
import { DeadMan, type StopReason, type StopResult } from './dead-man';
import { LedgerFile } from './ledger-file';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const stop = { device: 'cam', command: 'halt', params: {} };
const taken: StopResult = { outcome: 'confirmed', why: 'reported', ms: 1 };
const refused: StopResult = { outcome: 'refused', why: 'refused-by-device', ms: 1, reason: 'busy' };
const lost: StopResult = { outcome: 'lost', why: 'link-down', ms: 0 };

/** A dead man whose device answers each stop in turn as told, and the last way from then on. */
function made(...answers: readonly StopResult[]) {
  const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  const ledger = new LedgerFile(dataDir, new DiskReserve(dataDir));
  let ids = 0;
  const deadMan = new DeadMan(ledger, () => `stop-${(ids += 1)}`);
  onTestFinished(() => {
    deadMan.stop();
    rmSync(dataDir, { recursive: true, force: true });
  });
  let tries = 0;
  const ended: [StopReason, StopResult['outcome']][] = [];
  deadMan.listen({
    onOwed: (_stop, _owner, done) => done(answers[tries++] ?? answers.at(-1) ?? taken),
    onStopped: (_stop, why, { outcome }) => ended.push([why, outcome]),
  });
  return { deadMan, ended, file: join(dataDir, 'owed.jsonl'), tries: () => tries };
}

describe('a stop that is owed', () => {
  it('is tried fifty times where the device refuses it, tells the first and the last, and is given up then', () => {
    const { deadMan, ended, tries } = made(refused);
    deadMan.enter('press', stop, 60_000).sent();
    deadMan.release('press', 'released');
    vi.advanceTimersByTime(60_000);
    expect(tries()).toBe(50);
    expect(ended).toEqual([
      ['released', 'refused'],
      ['released', 'refused'],
    ]);
    expect([deadMan.goingOn, deadMan.owes('press')]).toEqual([0, false]);
  });

  it('ends with the first time that it is taken', () => {
    const { deadMan, ended, tries } = made(refused, refused, taken);
    deadMan.enter('press', stop, 60_000).sent();
    deadMan.release('press', 'released');
    vi.advanceTimersByTime(60_000);
    expect(tries()).toBe(3);
    expect(ended).toEqual([
      ['released', 'refused'],
      ['released', 'confirmed'],
    ]);
  });

  it('waits for the device where it cannot be sent, however long that takes', () => {
    const { deadMan, tries } = made(lost, taken);
    deadMan.enter('press', stop, 60_000).sent();
    deadMan.release('press', 'panel gone');
    vi.advanceTimersByTime(24 * 3_600_000);
    expect(tries()).toBe(1);
    deadMan.payOwed('cam');
    expect(tries()).toBe(2);
    deadMan.payOwed('cam');
    expect(tries()).toBe(2);
  });

  it('comes when its hand is not heard for a second, and not while it is', () => {
    const { deadMan, tries } = made(taken);
    deadMan.enter('press', stop, 60_000).sent();
    deadMan.hold('press');
    for (let n = 0; n < 20; n += 1) {
      vi.advanceTimersByTime(900);
      deadMan.hold('press');
    }
    expect(tries()).toBe(0);
    vi.advanceTimersByTime(1001);
    expect(tries()).toBe(1);
  });
});

describe('the ledger on disk', () => {
  it('begins anew once nothing is owed and it has grown long, and loses nothing that is owed', () => {
    const { deadMan, file } = made(taken);
    const size = () => statSync(file).size;
    const kept = deadMan.enter('kept', { ...stop, command: 'keep' }, 3_600_000);
    kept.sent();
    for (let n = 0; n < 1000; n += 1) {
      deadMan.enter(`press-${n}`, stop, 60_000).sent();
      deadMan.release(`press-${n}`, 'released');
    }
    // Long, and something is still owed.
    expect(size()).toBeGreaterThan(64 * 1024);
    expect(readFileSync(file, 'utf8')).toContain('"keep"');
    kept.strike();
    expect(size()).toBe(0);
    deadMan.enter('next', stop, 60_000).sent();
    expect(readFileSync(file, 'utf8').trim().split('\n')).toHaveLength(1);
  });
});
