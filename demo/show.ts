import type { Argument, ControlRecord, Meaning, ShowRecord } from '../src/core/show';
import { standinPorts } from '../src/standins/fleet';

/**
 * The demo show: the Tidewick Regatta, a made-up day of rowing on a made-up estuary. All of it runs on the stand-ins.
 */

const switcher = 'dev-switcher';
const race = 'page-race';

const inputs = [1, 2, 3, 4, 5, 6];

function sourceButton(bus: 'program' | 'preview', input: number, row: number): ControlRecord {
  const onProgram = bus === 'program';
  return control(`${bus}-${input}`, input - 1, row, {
    label: [{ reading: { device: switcher, key: 'input[$input].name' } }],
    values: { input },
    command: onProgram ? 'take' : 'ready',
    params: { input: { value: 'input' } },
    lamp: { key: bus, to: { value: 'input' }, show: onProgram ? 'onAir' : 'next' },
  });
}

interface Button {
  readonly label: ControlRecord['data']['label'];
  readonly values?: Readonly<Record<string, number>>;
  readonly command: string;
  readonly params?: Record<string, Argument>;
  readonly lamp?: { readonly key: string; readonly to: Argument; readonly show: Meaning; readonly word?: string };
}

function control(id: string, col: number, row: number, button: Button): ControlRecord {
  const { lamp } = button;
  return {
    kind: 'control',
    id: `ctl-${id}`,
    version: 1,
    data: {
      page: race,
      type: 'button',
      col,
      row,
      cols: 1,
      rows: 1,
      label: button.label,
      values: { ...button.values },
      responses: { tap: [{ device: switcher, command: button.command, params: button.params ?? {} }] },
      lamps: lamp
        ? [
            {
              when: { op: 'equals', reading: { device: switcher, key: lamp.key }, to: lamp.to },
              show: lamp.show,
              word: lamp.word,
            },
          ]
        : [],
    },
  };
}

/** All records of the demo show, its devices on the stand-ins' ports. */
export function demoShow(standinPortBase: number): ShowRecord[] {
  return [
    {
      kind: 'show',
      id: 'show',
      version: 1,
      data: {
        name: 'Tidewick Regatta',
        note: 'One day of rowing on the Tidewick estuary. Six lanes, two streams, one bank screen.',
      },
    },
    {
      kind: 'device',
      id: switcher,
      version: 1,
      data: {
        tag: 'SW1',
        name: 'Vision switcher',
        role: 'switcher',
        driver: 'vision-switcher',
        host: '127.0.0.1',
        port: standinPortBase + standinPorts.SW1,
        enabled: true,
        site: 'Control boat',
        user: '',
        options: {},
      },
    },
    {
      kind: 'page',
      id: race,
      version: 1,
      data: {
        name: 'Race',
        order: 1,
        columns: 7,
        rows: 2,
        note: 'Set the next picture below, then cut or auto. The upper row goes to air at once.',
        zones: [
          { id: 'zone-program', title: 'Straight to program', col: 0, row: 0, cols: 6, rows: 1 },
          { id: 'zone-preview', title: 'Set up on preview', col: 0, row: 1, cols: 6, rows: 1 },
          { id: 'zone-change', title: 'Change over', col: 6, row: 0, cols: 1, rows: 2 },
        ],
      },
    },
    ...inputs.map((input) => sourceButton('program', input, 0)),
    ...inputs.map((input) => sourceButton('preview', input, 1)),
    control('cut', 6, 0, { label: [{ text: 'Cut' }], command: 'cut' }),
    control('auto', 6, 1, {
      label: [{ text: 'Auto' }],
      command: 'auto',
      lamp: { key: 'mixing', to: true, show: 'active', word: 'MIXING' },
    }),
  ];
}
