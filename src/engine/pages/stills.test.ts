import { expect, it } from 'vitest';
import { deviceRecord } from '../../../test/support/records';
import { Stills } from './stills';

it('says why there is no picture when what fetches them does not answer, and rejects nothing', async () => {
  const still = { title: 'View', port: 80, path: '/view', everyMs: 500 };
  const stills = new Stills({
    show: { driverOf: () => ({ document: { stills: { view: still } } }) },
    prober: { ask: () => Promise.reject(new Error('gone')) },
    places: { placeOf: () => ({ host: '127.0.0.1', port: 80, path: '/view' }) },
  } as never);
  const taken = await stills.take(deviceRecord('C1'), 'view');
  expect(taken.ok ? '' : taken.error).toContain('does not answer');
  const none = await stills.take(deviceRecord('C1'), 'other');
  expect(none.ok ? '' : none.error).toContain('does not define');
});
