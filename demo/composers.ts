import type { ShowRecord } from '../src/core/show';
import { page, reading, type Button, type Zone } from './page-parts';

const launch = 'dev-p1';
const club = 'dev-p2';

const board = (device: string, n: number): Button => ({
  label: [reading(device, `board[${n}].name`)],
  device,
  command: 'show',
  params: { board: n },
  lamps: [
    { key: 'board', to: n, show: 'active', word: 'ON' },
    { key: 'nextBoard', to: n, show: 'next' },
  ],
});

const zone = (device: string, title: string, row: number, web: number): Zone => ({
  title,
  col: 0,
  row,
  cols: 8,
  buttons: [
    ...[1, 2, 3, 4].map((n) => board(device, n)),
    {
      label: [{ text: 'Go: ' }, reading(device, 'nextBoardName')],
      icon: 'next',
      device,
      command: 'go',
      lamp: { key: 'mixing', to: true, show: 'active', word: 'MIXING' },
    },
    {
      label: [reading(device, 'overlay[1].name')],
      device,
      responses: {
        tap: [{ device, command: 'overlay', params: { overlay: 1, on: true } }],
        turns: [[{ device, command: 'overlay', params: { overlay: 1, on: false } }]],
      },
      lamp: { key: 'overlay[1].on', to: true, show: 'active', word: 'ON' },
    },
    {
      label: [{ text: 'Restart ' }, reading(device, 'feed[1].name')],
      device,
      command: 'restart',
      params: { feed: 1 },
      lamps: [
        { key: 'feed[1].state', to: 'frozen', show: 'fault', word: 'FROZEN' },
        { key: 'feed[1].state', to: 'loading', show: 'active', word: 'LOADING' },
      ],
    },
    {
      label: [{ text: 'Reload ' }, reading(device, `feed[${web}].name`)],
      device,
      command: 'reload',
      params: { feed: web },
      lamp: { key: `feed[${web}].state`, to: 'loading', show: 'active', word: 'LOADING' },
    },
    {
      label: 'Record',
      icon: 'record',
      device,
      command: 'startRecord',
      lamp: { key: 'recording', to: true, show: 'recording' },
    },
    { label: 'Stop recording', icon: 'stop', device, command: 'stopRecord' },
    { label: [{ text: 'Recording ' }, reading(device, 'recordTime')], device },
    { label: [{ text: 'Disk ' }, reading(device, 'freeGb'), { text: ' GB' }], device },
    {
      label: [reading(device, 'effect[1].name')],
      icon: 'sound',
      device,
      command: 'effect',
      params: { name: 'Bell' },
      lamp: { key: 'effect', to: 'Bell', show: 'active', word: 'PLAYING' },
    },
    {
      label: [reading(device, 'channel[1].name')],
      device,
      cols: 2,
      range: {
        send: { device, command: 'level', params: { channel: 1 } },
        param: 'level',
        min: -60,
        max: 6,
        reading: { device, key: 'channel[1].level' },
      },
    },
    {
      label: [reading(device, 'program[1].name')],
      device,
      command: 'startProgram',
      params: { program: 1 },
      lamps: [
        { key: 'program[1].state', to: 'running', show: 'active', word: 'RUNNING' },
        { key: 'program[1].state', to: 'starting', show: 'next', word: 'STARTING' },
      ],
    },
  ],
});

/** One button for both computers. */
const both = (
  label: string,
  command: string,
  params: [Readonly<Record<string, number | string>>, Readonly<Record<string, number | string>>],
  lamp: Button['lamp'],
  icon?: string,
): Button => ({
  label,
  device: launch,
  cols: 2,
  ...(icon === undefined ? {} : { icon }),
  responses: {
    tap: [
      { device: launch, command, params: params[0] },
      { device: club, command, params: params[1] },
    ],
  },
  ...(lamp ? { lamp } : {}),
});

/** The composers on the launch and at the club. */
export function composersPage(): ShowRecord[] {
  return page(
    'page-composers',
    'Launch and club',
    13,
    8,
    'Each composer runs on a computer of its own. The lowest row speaks to both at once.',
    [
      zone(launch, 'On the launch', 0, 3),
      zone(club, 'At the club', 2, 3),
      {
        title: 'Both at once',
        col: 0,
        row: 4,
        cols: 8,
        buttons: [
          both('First board on both', 'show', [{ board: 1 }, { board: 1 }], {
            key: 'board',
            to: 1,
            show: 'active',
            word: 'ON',
          }),
          both('Record both', 'startRecord', [{}, {}], { key: 'recording', to: true, show: 'recording' }, 'record'),
          both(
            'Bell on both',
            'effect',
            [{ name: 'Bell' }, { name: 'Bell' }],
            { key: 'effect', to: 'Bell', show: 'active', word: 'PLAYING' },
            'sound',
          ),
          both('Stop both recordings', 'stopRecord', [{}, {}], undefined, 'stop'),
        ],
      },
    ],
  );
}
