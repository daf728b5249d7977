import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Aim } from '../../core/live';
import { usualLimits } from '../../core/show';
import { Health } from './health';

const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-health-'));
afterEach(() => {
  vi.useRealTimers();
  rmSync(dataDir, { recursive: true, force: true });
});
beforeEach(() => void vi.useFakeTimers());

describe('health after a start', () => {
  let aim: Aim = 'live';
  const health = () =>
    new Health({
      dataDir,
      show: { devices: new Map([['c1', {}]]), healthLimits: usualLimits },
      statuses: new Map(),
      screens: () => [],
      aimNow: () => aim,
      asRun: { record: () => undefined },
      publish: () => undefined,
      isFollowed: () => false,
      topics: { serve: () => undefined },
      status: { set: () => undefined },
      newId: () => 'incident',
    } as unknown as ConstructorParameters<typeof Health>[0]);
  const missed = (of: Health) => (of.historyOf('c1')?.minutes ?? []).reduce((sum, span) => sum + span.missed, 0);

  it('counts answers and what stays unanswered only once everything has had its time to begin', () => {
    const started = health();
    started.start();
    vi.advanceTimersByTime(7900);
    started.onUnanswered('c1', 5);
    started.onAnswer('c1', 900);
    expect(missed(started)).toBe(0);
    expect(started.historyOf('c1')?.minutes.every(({ answers }) => answers === 0)).toBe(true);
    vi.advanceTimersByTime(200);
    started.onUnanswered('c1', 2);
    expect(missed(started)).toBe(2);

    // The stand-ins of a rehearsal begin, too; the devices themselves are where they were.
    aim = 'rehearse';
    started.onAim(aim);
    started.onUnanswered('c1', 3);
    expect(missed(started)).toBe(0);
    aim = 'live';
    started.onAim(aim);
    vi.advanceTimersByTime(8100);
    started.onUnanswered('c1', 1);
    expect(missed(started)).toBe(3);
    started.stop();
  });
});
