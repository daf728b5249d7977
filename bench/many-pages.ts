import { demoShow } from '../demo/show';
import type { ShowRecord } from '../src/core/show';
import { showOfOneDevice } from './processes';

const columns = 10;

/**
 * So many pages of 100 controls, each with a lamp by the switcher's program and its number in the label.
 * @param device the port of the switcher; without it every device of the demo is there, switched off
 */
export function manyPages(pages: number, devicePort?: number): ShowRecord[] {
  const all = devicePort === undefined ? demoShow(4400) : showOfOneDevice(devicePort);
  const rig = all.filter(({ kind }) => kind !== 'page' && kind !== 'control' && kind !== 'panel');
  return [
    ...rig.map((record) =>
      record.kind === 'device' && devicePort === undefined
        ? { ...record, data: { ...record.data, enabled: false } }
        : record,
    ),
    ...Array.from({ length: pages }, (_, p) => [
      {
        kind: 'page' as const,
        id: `page-${p}`,
        version: 1,
        data: { name: `Page ${p}`, order: p, columns, rows: 10, note: '', zones: [] },
      },
      ...Array.from({ length: 100 }, (__, n): ShowRecord => ({
        kind: 'control',
        id: `ctl-${p}-${n}`,
        version: 1,
        data: {
          page: `page-${p}`,
          type: 'button',
          col: n % columns,
          row: Math.floor(n / columns),
          cols: 1,
          rows: 1,
          label: [{ text: `Take ${n} ` }, { reading: { device: 'dev-switcher', key: 'program' } }],
          values: { input: (n % 12) + 1 },
          responses: { tap: [{ device: 'dev-switcher', command: 'take', params: { input: { value: 'input' } } }] },
          lamps: [
            {
              when: { op: 'equals', reading: { device: 'dev-switcher', key: 'program' }, to: { value: 'input' } },
              show: 'onAir',
            },
          ],
        },
      })),
    ]).flat(),
  ];
}
