import type { Edit, InletData, InletRecord, ShowRecord } from '../show';

type NewId = (kind: 'inlet') => string;

/** The inlets of a show in their order. */
export const inletsOf = (records: readonly ShowRecord[]): InletRecord[] =>
  records
    .filter((record): record is InletRecord => record.kind === 'inlet')
    .sort((a, b) => a.data.order - b.data.order || a.data.name.localeCompare(b.data.name));

/** Where the first inlet of a kind listens. */
const firstPorts = { text: 4800, osc: 4810, http: 4820, mqtt: 4830, sacn: 5568, umd: 4840 } as const;
const kindNames = { text: 'Text', osc: 'OSC', http: 'HTTP', mqtt: 'MQTT', sacn: 'sACN', umd: 'UMD' } as const;

/** A new inlet is off, and for this computer only. */
export function newInletEdit(records: readonly ShowRecord[], newId: NewId, speaks: InletData['speaks']): Edit {
  const all = inletsOf(records);
  const taken = new Set(all.map(({ data }) => data.port));
  let port: number = firstPorts[speaks];
  while (taken.has(port)) port += 1;
  const data: InletData = {
    name: `${kindNames[speaks]} ${port}`,
    order: Math.max(0, ...all.map((each) => each.data.order)) + 1,
    note: '',
    speaks,
    over: ['osc', 'sacn', 'umd'].includes(speaks) ? 'udp' : 'tcp',
    port,
    host: '127.0.0.1',
    from: [],
    on: false,
  };
  const record: InletRecord = { kind: 'inlet', id: newId('inlet'), version: 1, data };
  return { title: `Add inlet ${data.name}`, changes: [{ op: 'add', record }] };
}

export const changeInletEdit = (from: InletRecord, data: InletData, what: string): Edit => ({
  title: `${what} of inlet ${from.data.name}`,
  changes: [{ op: 'update', from, to: { ...from, data } }],
});

export const removeInletEdit = (record: InletRecord): Edit => ({
  title: `Remove inlet ${record.data.name}`,
  changes: [{ op: 'remove', record }],
});
