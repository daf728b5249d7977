import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it, onTestFinished } from 'vitest';
import { paced } from '../../../test/support/pace';
import { until } from '../../../test/support/rig';
import { demoShow } from '../../../demo/show';
import { shippedDrivers } from '../../drivers';
import { commitEdit, installDriver, openShow } from '../../store';
import { ShowFeed } from './show-feed';
import type { ShowNews } from './show-worker';

/** The worker that reads the show may end by itself; nothing waits longer for that, then or later. */
it('answers each look, also when its worker ends in the middle of one', async () => {
  const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  const { db, close } = openShow(dataDir);
  commitEdit(db, { title: 'Start', changes: demoShow(4400).map((record) => ({ op: 'add', record })) }, 'mine', 1);
  installDriver(db, 'lift', { format: 1, id: 'lift', version: 1 }, 1);
  const news: ShowNews[] = [];
  const feed = new ShowFeed(dataDir, shippedDrivers, (each) => Promise.resolve(void news.push(each)));
  onTestFinished(async () => {
    await feed.close();
    close();
    rmSync(dataDir, { recursive: true, force: true });
  });
  await feed.look();
  const worker = () => (feed as unknown as { worker: { terminate: () => Promise<number>; threadId: number } }).worker;
  for (let round = 0; round < 2; round += 1) {
    const before = worker();
    const cut = feed.look();
    await before.terminate();
    // Pending requests resolve at once; a request made while there is no worker is answered by the next one.
    await cut;
    const asked = performance.now();
    await feed.look();
    // The new worker loads its code first.
    expect(performance.now() - asked).toBeLessThan(paced(10_000));
    await until(worker, (now) => now !== before);
    for (let edit = 0; edit < 3; edit += 1) {
      const startedAt = performance.now();
      await feed.look();
      // An edit waits two seconds for the engine; the tolerance is for a computer on which other tests run.
      expect(performance.now() - startedAt).toBeLessThan(paced(4000));
    }
  }
  // Each new worker hands the drivers over once, as they are.
  const drivers = news.filter((each) => each.type === 'drivers');
  expect(drivers.map(({ all }) => all)).toEqual(drivers.map(() => ['lift']));
});
