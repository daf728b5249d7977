import { describe, expect, it } from 'vitest';
import type { DeviceRecord } from '../show';
import { mendEdit, mendSchema, type Mend } from '.';

const device: DeviceRecord = {
  kind: 'device',
  id: 'dev-1',
  version: 1,
  data: {
    tag: 'E2',
    name: 'Stream, backup',
    role: 'encoder',
    driver: 'streaming-encoder',
    host: '192.0.2.7',
    port: 9,
    site: '',
    user: '',
    options: { profile: 'low' },
    enabled: false,
  },
};

describe('a mend of a connection', () => {
  it.each<[Mend, object]>([
    [{ do: 'port', port: 8080 }, { port: 8080 }],
    [
      { do: 'driver', driver: 'other', title: 'Other' },
      { driver: 'other', options: {} },
    ],
    [{ do: 'option', name: 'level', title: 'Level', value: 3 }, { options: { profile: 'low', level: 3 } }],
    [{ do: 'enable' }, { enabled: true }],
  ])('is an edit of its device that changes nothing else: %j', (mend, change) => {
    expect(mendSchema.parse(JSON.parse(JSON.stringify(mend)))).toEqual(mend);
    const edit = mendEdit(device, mend);
    const [update] = edit?.changes ?? [];
    expect(update).toMatchObject({ op: 'update', from: device, to: { data: { ...device.data, ...change } } });
  });

  it('is none where somebody has to look for the device, or to interrupt it', () => {
    expect(mendEdit(device, { do: 'find' })).toBeUndefined();
    expect(mendEdit(device, { do: 'interrupt' })).toBeUndefined();
  });
});
