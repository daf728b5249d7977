import { describe, expect, it } from 'vitest';
import { shippedDrivers } from '../../drivers';
import { DriverShelf } from '../driver';
import type { Reading } from '../reading';
import type { DeviceRecord } from '../show';
import { hasOutputs, outputKeys, outputView } from '.';

const shelf = new DriverShelf();
shelf.put(shippedDrivers);
const documentOf = (driver: string) => shelf.for({ driver })?.document;

function view(
  driver: string,
  readings: Readonly<Record<string, Reading['value']>>,
  freshness: Reading['freshness'] = 'fresh',
) {
  const record = { kind: 'device', id: 'dev', version: 1, data: { tag: 'E1', name: 'Stream', driver } } as DeviceRecord;
  return outputView(record, {
    documentOf: () => documentOf(driver),
    readingNow: ({ key }) => (key in readings ? ({ value: readings[key], at: 5000, freshness } as Reading) : undefined),
  });
}

describe('what streams and records', () => {
  it('is an encoder and a composer, and no switcher', () => {
    const drivers = ['streaming-encoder', 'composer', 'vision-switcher', 'clock-machine', 'nothing'];
    expect(drivers.map((driver) => hasOutputs(documentOf(driver)))).toEqual([true, true, false, false, false]);
  });

  it('says the same of all of them, whatever their drivers call it', () => {
    expect(
      view('streaming-encoder', { stream: 'live', streamTime: 62, recording: false, recordTime: 0, dropped: 3 }),
    ).toMatchObject({
      stream: 'live',
      streamTime: { seconds: 62, at: 5000, rate: 1 },
      recording: false,
      recordTime: 0,
      dropped: 3,
    });
    expect(view('composer', { stream: 'starting', recording: true, recordTime: 5, freeGb: 80.2 })).toMatchObject({
      stream: 'starting',
      streamTime: 0,
      recording: true,
      recordTime: { seconds: 5, at: 5000, rate: 1 },
      left: 80.2,
    });
    expect(view('streaming-encoder', { stream: 'idle' }, 'stale')).toMatchObject({ stream: 'off', freshness: 'stale' });
    expect(view('composer', {})).toMatchObject({ freshness: 'unknown' });
  });

  it('rests on these readings and no others', () => {
    expect([...outputKeys(documentOf('composer'))].sort()).toEqual([
      'dropped',
      'freeGb',
      'recordTime',
      'recording',
      'stream',
      'streamTime',
    ]);
  });
});
