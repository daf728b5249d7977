import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it, onTestFinished } from 'vitest';
import type { Why } from '../../core/press';
import type { DeviceRecord } from '../../core/show';
import type { DeviceSession } from '../devices/device-session';
import type { PreparedSend } from '../devices/session-types';
import type { Aims } from '../aim/aims';
import { DiskReserve } from '../record/disk-reserve';
import type { RunningShow } from '../show/running-show';
import { DeadMan } from './dead-man';
import { Dispatcher, type Order } from './dispatcher';
import { LedgerFile } from './ledger-file';
import { OwnOrders } from './own-orders';
import { PreRoll } from './pre-roll';

const device = { kind: 'device', id: 'cam', version: 1, data: { tag: 'C1' } } as unknown as DeviceRecord;
const pan = {
  title: 'Pan',
  params: {},
  risky: false,
  class: 'urgent',
  stop: { command: 'halt', params: {}, longestMs: 5000 },
};
const prepared = (command: object = pan) =>
  ({ id: 'pan', command, given: {}, encoded: undefined }) as unknown as PreparedSend;

/** A dispatcher with one device that takes what it is sent, or nothing while it is away. */
function start() {
  const dataDir = mkdtempSync(join(tmpdir(), 'sorrelfinch-'));
  const deadMan = new DeadMan(new LedgerFile(dataDir, new DiskReserve(dataDir)), () => `stop-${Math.random()}`);
  deadMan.listen({ onOwed: (_stop, _owner, done) => done({ outcome: 'confirmed', why: 'reported', ms: 0 }) });
  onTestFinished(() => {
    deadMan.stop();
    rmSync(dataDir, { recursive: true, force: true });
  });
  const seen = { isAway: false, left: 0, owedWhenItLeft: 0, told: 0, recorded: 0 };
  const send: DeviceSession['send'] = (_prepared, listener) => {
    if (seen.isAway) {
      listener({ outcome: 'lost', why: 'link-down', ms: 0 });
      return false;
    }
    seen.left += 1;
    seen.owedWhenItLeft = deadMan.goingOn;
    return true;
  };
  const dispatcher = new Dispatcher({
    show: { driverOf: () => undefined } as unknown as RunningShow,
    sessions: new Map([[device.id, { send } as unknown as DeviceSession]]),
    deadMan,
    own: new OwnOrders(),
    preRoll: new PreRoll({ listen: () => undefined } as unknown as Aims),
    onSent: () => (seen.told += 1),
    onCommand: () => (seen.recorded += 1),
  });
  const whys: Why[] = [];
  const dispatch = (more: Partial<Order> = {}) =>
    dispatcher.dispatch(
      {
        device,
        prepared: prepared(),
        aim: 'live',
        who: 'panel',
        isConfirmed: true,
        owners: ['press'],
        stopOwner: 'press',
        ...more,
      },
      ({ why }) => whys.push(why),
    );
  return { seen, whys, deadMan, dispatch };
}

it('enters the stop of what goes on before its bytes leave', () => {
  const { seen, deadMan, dispatch } = start();
  expect(dispatch()).toBe(true);
  expect(seen).toMatchObject({ left: 1, owedWhenItLeft: 1, told: 1, recorded: 1 });
  expect(deadMan.owes('press')).toBe(true);
});

it('owes nothing for what has not left', () => {
  const { seen, whys, deadMan, dispatch } = start();
  seen.isAway = true;
  expect(dispatch()).toBe(false);
  expect(whys).toEqual(['link-down']);
  expect(deadMan.goingOn).toBe(0);
  expect(seen.recorded).toBe(0);
});

it('sends nothing dry, and shows the recorder what would have been sent', () => {
  const { seen, whys, deadMan, dispatch } = start();
  expect(dispatch({ aim: 'dry' })).toBe(false);
  expect(whys).toEqual(['dry']);
  expect(seen).toMatchObject({ left: 0, recorded: 1 });
  expect(deadMan.goingOn).toBe(0);
});

it.each(['live', 'dry'] as const)('holds back what is risky and not confirmed while the aim is %s', (aim) => {
  const { seen, whys, dispatch } = start();
  const risky = prepared({ ...pan, risky: true });
  expect(dispatch({ prepared: risky, isConfirmed: false, aim })).toBe(false);
  expect(whys).toEqual(['guarded']);
  expect(seen).toMatchObject({ left: 0, recorded: 0 });
  expect(dispatch({ prepared: risky })).toBe(true);
});

it('enters the stop of a movement once, however often it is sent', () => {
  const { seen, deadMan, dispatch } = start();
  for (let n = 0; n < 5; n += 1) dispatch({ isMovement: true });
  expect(seen.left).toBe(5);
  expect(deadMan.goingOn).toBe(1);
});

it('strikes out what is owed when a stop is sent by hand', () => {
  const { deadMan, dispatch } = start();
  dispatch();
  dispatch({ prepared: { ...prepared({ ...pan, class: 'stop', stop: undefined }), id: 'halt' } });
  expect(deadMan.goingOn).toBe(0);
});
