import { ownId, type ControlRecord, type LabelSegment, type ShowRecord } from '../src/core/show';

/** The page for the interviews on the pontoon: a camera that is steered, the guests' sound, their titles and the replays at hand. */

type Data = ControlRecord['data'];

const id = 'page-pontoon';
const empty = { values: {}, responses: { tap: [] }, lamps: [] } as const;
const text = (label: string): LabelSegment[] => [{ text: label }];
const program = { device: 'dev-switcher', key: 'program' };
const preview = { device: 'dev-switcher', key: 'preview' };

export function pontoonPage(): ShowRecord[] {
  let count = 0;
  const put = (
    col: number,
    row: number,
    data: Partial<Data> & Pick<Data, 'label'>,
    cols = 1,
    rows = 1,
  ): ControlRecord => ({
    kind: 'control',
    id: `ctl-pontoon-${(count += 1)}`,
    version: 1,
    data: {
      page: id,
      type: 'button',
      ...empty,
      responses: { tap: [] },
      values: {},
      lamps: [],
      col,
      row,
      cols,
      rows,
      ...data,
    },
  });
  const camera = 'dev-c4';
  const titles = 'dev-t1';
  const sound = 'dev-a1';
  const fader = (strip: number, col: number) =>
    put(
      col,
      0,
      {
        type: 'fader',
        label: [{ reading: { device: sound, key: 'strip[$strip].name' } }],
        tint: 'plum',
        values: { strip },
        range: {
          send: { device: sound, command: 'level', params: { strip: { value: 'strip' } } },
          param: 'level',
          reading: { device: sound, key: 'strip[$strip].level' },
          min: -60,
          max: 10,
        },
      },
      1,
      3,
    );
  return [
    {
      kind: 'page',
      id,
      version: 1,
      data: {
        name: 'Pontoon talk',
        order: 6.5,
        columns: 8,
        rows: 6,
        note: 'The guests on the pontoon: frame them, open their microphones, bring their name. Hold “Guests” for the second pair of presets.',
        legend: { lagoon: 'Camera', plum: 'Sound', sand: 'Titles', slate: 'Replays' },
        badges: true,
        shifts: [{ id: 'shift-guests', name: 'guests' }],
        zones: [
          {
            id: 'zone-pontoon-camera',
            title: 'Camera',
            col: 0,
            row: 0,
            cols: 5,
            rows: 3,
            pick: { devices: [camera, 'dev-c3', 'dev-c2', 'dev-c1'], follow: [preview] },
          },
          { id: 'zone-pontoon-sound', title: 'Sound', col: 5, row: 0, cols: 3, rows: 3 },
          { id: 'zone-pontoon-titles', title: 'Titles and layout', col: 0, row: 3, cols: 4, rows: 3 },
          { id: 'zone-pontoon-replays', title: 'Replays', col: 4, row: 3, cols: 4, rows: 3 },
        ],
      },
    },
    put(0, 0, { type: 'stick', label: text('Frame'), tint: 'lagoon', drive: { device: camera, drive: 'head' } }, 2, 3),
    put(2, 0, {
      label: text('Closer'),
      icon: 'closer',
      tint: 'lagoon',
      responses: { tap: [], held: [{ device: camera, command: 'zoomIn', params: { speed: 3 } }] },
    }),
    put(3, 0, {
      label: text('Wider'),
      icon: 'wider',
      tint: 'lagoon',
      responses: { tap: [], held: [{ device: camera, command: 'zoomOut', params: { speed: 3 } }] },
    }),
    put(4, 0, {
      label: text('Guests'),
      icon: 'people',
      sets: { shift: 'shift-guests', while: 'held' },
    }),
    ...[0, 1].map((preset) =>
      put(2 + preset, 1, {
        label: text(preset === 0 ? 'Host' : 'Both'),
        tint: 'lagoon',
        values: { preset },
        responses: { tap: [{ device: camera, command: 'recall', params: { preset: { value: 'preset' } } }] },
        shifts: {
          'shift-guests': { label: text(preset === 0 ? 'Guest 1' : 'Guest 2'), values: { preset: preset + 2 } },
        },
      }),
    ),
    put(4, 1, {
      label: text('Auto focus'),
      icon: 'focus',
      tint: 'lagoon',
      responses: { tap: [{ device: camera, command: 'autoFocus', params: { on: true } }] },
      lamps: [
        {
          when: { op: 'equals', reading: { device: camera, key: 'autoFocus' }, to: true },
          show: 'active',
          word: 'AUTO',
        },
      ],
    }),
    put(2, 2, {
      label: text('Pontoon next'),
      responses: { tap: [{ device: 'dev-switcher', command: 'ready', params: { input: 4 } }] },
      lamps: [{ when: { op: 'equals', reading: preview, to: 4 }, show: 'next' }],
    }),
    put(3, 2, {
      label: text('To air'),
      responses: { tap: [{ device: 'dev-switcher', command: 'auto', params: {} }] },
      lamps: [{ when: { op: 'equals', reading: program, to: 4 }, show: 'onAir' }],
    }),
    put(4, 2, {
      type: 'readout',
      label: [{ text: 'Zoom ' }, { reading: { device: camera, key: 'zoom' } }],
      tint: 'lagoon',
    }),
    fader(3, 5),
    fader(4, 6),
    put(
      7,
      0,
      {
        type: 'dial',
        label: text('Main'),
        tint: 'plum',
        range: {
          send: { device: sound, command: 'mainLevel', params: {} },
          param: 'level',
          reading: { device: sound, key: 'mainLevel' },
          min: -60,
          max: 10,
        },
      },
      1,
      2,
    ),
    put(7, 2, {
      label: [{ text: 'Mute ' }, { reading: { device: sound, key: 'strip[3].name' } }],
      icon: 'mute',
      tint: 'plum',
      responses: { tap: [{ device: sound, command: 'mute', params: { strip: 3, on: true } }] },
      lamps: [
        {
          when: { op: 'equals', reading: { device: sound, key: 'strip[3].muted' }, to: true },
          show: 'warning',
          word: 'MUTED',
        },
      ],
    }),
    put(
      0,
      3,
      {
        type: 'list',
        label: text('Titles'),
        tint: 'sand',
        list: { device: titles, list: 'templates2', form: 'large' },
      },
      3,
      3,
    ),
    put(3, 3, {
      label: text('Open interview'),
      icon: 'people',
      responses: { tap: [], runs: { macro: 'mac-open-talk', params: {} } },
      lamps: [{ when: { op: 'equals', reading: program, to: 10 }, show: 'onAir' }],
    }),
    put(
      3,
      4,
      {
        label: [{ reading: { device: ownId, key: 'snapshot[$snapshot].name' } }],
        values: { snapshot: 2 },
        shows: { kind: 'picture', reading: { device: ownId, key: 'snapshot[$snapshot].picture' } },
        responses: { tap: [{ device: ownId, command: 'callUp', params: { snapshot: { value: 'snapshot' } } }] },
        lamps: [
          {
            when: { op: 'equals', reading: { device: ownId, key: 'snapshot[$snapshot].state' }, to: 'moving' },
            show: 'active',
            word: 'MOVING',
          },
          {
            when: { op: 'equals', reading: { device: ownId, key: 'snapshot[$snapshot].state' }, to: 'there' },
            show: 'active',
            word: 'THERE',
          },
        ],
      },
      1,
      2,
    ),
    put(
      4,
      3,
      { type: 'list', label: text('Clips'), tint: 'slate', list: { device: 'dev-r1', list: 'clips', form: 'small' } },
      3,
      3,
    ),
    put(7, 3, {
      label: text('Play and take'),
      icon: 'play',
      tint: 'slate',
      // The picture comes when the clip is already running.
      responses: {
        tap: [
          { device: 'dev-r1', command: 'play', params: {} },
          { device: 'dev-switcher', command: 'take', params: { input: 7 }, waitMs: 240 },
        ],
      },
      lamps: [
        {
          when: { op: 'equals', reading: { device: 'dev-r1', key: 'transport' }, to: 'playing' },
          show: 'active',
          word: 'PLAYING',
        },
      ],
    }),
    put(7, 4, {
      label: text('Back to pontoon'),
      icon: 'before',
      responses: { tap: [{ device: 'dev-switcher', command: 'take', params: { input: 4 } }] },
      lamps: [{ when: { op: 'equals', reading: program, to: 4 }, show: 'onAir' }],
    }),
    put(7, 5, {
      type: 'readout',
      label: [{ text: 'Left ' }, { reading: { device: 'dev-r1', key: 'left' } }],
      tint: 'slate',
    }),
  ];
}
