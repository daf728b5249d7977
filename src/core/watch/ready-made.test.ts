import { describe, expect, it } from 'vitest';
import { deviceRecord } from '../../../test/support/records';
import { recordSchema, type ShowRecord } from '../show';
import { graphicsWithKey, newWatchEdit } from '.';

describe('titles with a key, ready-made', () => {
  const document = (more: object) => more as never;
  const documents: Readonly<Record<string, never>> = {
    'dev-SW1': document({
      commands: { key: { params: {} } },
      readings: { 'key[].on': { index: { from: 1, to: 4 } } },
    }),
    'dev-T1': document({
      commands: { take: {}, out: {} },
      readings: { 'layer[].state': { index: { from: 1, to: 4 } } },
    }),
  };
  const rig: ShowRecord[] = [
    deviceRecord('SW1', { role: 'switcher' }),
    deviceRecord('T1', { role: 'titles' }),
    { kind: 'tie', id: 't', version: 1, data: { source: 'dev-T1', switcher: 'dev-SW1', input: 8 } },
  ];
  const documentOf = (id: string) => documents[id];

  it('take the next key that has none, and the input of the tie', () => {
    const made = graphicsWithKey(rig, documentOf);
    expect(made).toEqual({
      name: 'Titles with key 1',
      when: {
        is: 'key',
        switcher: 'dev-SW1',
        key: 1,
        input: 8,
        preRoll: 12,
        out: { sends: [{ device: 'dev-T1', command: 'out', params: { layer: 1 } }], withKey: true },
      },
      sends: [{ device: 'dev-T1', command: 'take', params: { layer: 1 } }],
    });
    if (!made) return;
    const edit = newWatchEdit(rig, () => 'watch-new', made);
    const [added] = edit.changes;
    if (added?.op !== 'add') throw new Error('It adds a watch.');
    expect(recordSchema.safeParse(added.record).error).toBeUndefined();
    expect(graphicsWithKey([...rig, added.record], documentOf)?.when).toMatchObject({ key: 2 });
  });

  it('are not offered without a switcher with keys, or without titles', () => {
    expect(graphicsWithKey(rig.slice(1), documentOf)).toBeUndefined();
    expect(graphicsWithKey(rig.slice(0, 1), documentOf)).toBeUndefined();
    expect(graphicsWithKey(rig, () => undefined)).toBeUndefined();
  });
});
