import type { DeviceRecord, ShowRecord } from '../src/core/show';
import { page, reading, type Button, type Lamp } from './page-parts';

const clock = 'dev-k1';
const own = 'dev-own';

/** How a timer is told apart from afar, the same wherever one is shown. */
const states: readonly Lamp[] = [
  { key: 'state', to: 'over', show: 'fault', word: 'OVER' },
  { key: 'state', to: 'warning', show: 'warning', word: 'WARNING' },
  { key: 'state', to: 'running', show: 'active', word: 'RUNNING' },
  { key: 'state', to: 'ready', show: 'next', word: 'READY' },
];

const act = (device: string, label: string, command: string, more: Partial<Button> = {}): Button => ({
  label,
  device,
  command,
  ...more,
});

const message = (text: string): Button => ({
  label: text,
  device: clock,
  command: 'message',
  params: { text },
  cols: 2,
  lamp: { key: 'message', to: text, show: 'active', word: 'SHOWN' },
});

/** The clock machine of the race office and the timers of the show itself. */
export function clocksPage(): ShowRecord[] {
  return page(
    'page-clocks',
    'Clocks',
    11,
    9,
    'The timer marked READY starts next. After its end, a timer shows how far it has run over.',
    [
      {
        title: 'Race office',
        col: 0,
        row: 0,
        cols: 6,
        buttons: [
          {
            label: [reading(clock, 'name'), { text: ' · ' }, reading(clock, 'left')],
            device: clock,
            cols: 3,
            rows: 2,
            lamps: states,
          },
          {
            label: [{ text: 'Next: ' }, reading(clock, 'nextName'), { text: ' ' }, reading(clock, 'nextSpeaker')],
            device: clock,
            cols: 3,
            rows: 2,
          },
        ],
      },
      {
        title: 'Run',
        col: 0,
        row: 2,
        cols: 6,
        buttons: [
          act(clock, 'Start next', 'startNext', {
            icon: 'play',
            lamp: { key: 'runs', to: true, show: 'active', word: 'RUNNING' },
          }),
          act(clock, 'Pause', 'pause', {
            icon: 'pause',
            lamp: { key: 'state', to: 'paused', show: 'warning', word: 'PAUSED' },
          }),
          act(clock, 'Resume', 'resume'),
          act(clock, 'Restart', 'restart'),
          act(clock, 'Add 1 min', 'add', { params: { seconds: 60 } }),
          act(clock, 'Remove 1 min', 'add', { params: { seconds: -60 } }),
        ],
      },
      {
        title: 'Under the clock',
        col: 0,
        row: 3,
        cols: 6,
        buttons: [
          message('Two minutes, please'),
          message('Please come to an end'),
          act(clock, 'Clear message', 'clearMessage', { cols: 2 }),
        ],
      },
      {
        title: 'Timers of the race office',
        col: 6,
        row: 0,
        cols: 3,
        buttons: [{ label: 'Timers', device: clock, list: { list: 'timers', form: 'small' }, cols: 3, rows: 4 }],
      },
      {
        title: 'Timers of this show',
        col: 0,
        row: 4,
        cols: 9,
        buttons: [
          { label: [reading(own, 'name'), { text: ' · ' }, reading(own, 'left')], device: own, cols: 2, lamps: states },
          act(own, 'Start next', 'startNext', {
            icon: 'play',
            lamp: { key: 'runs', to: true, show: 'active', word: 'RUNNING' },
          }),
          act(own, 'Pause', 'pause', {
            icon: 'pause',
            lamp: { key: 'state', to: 'paused', show: 'warning', word: 'PAUSED' },
          }),
          act(own, 'Resume', 'resume'),
          act(own, 'End', 'stop', { icon: 'stop' }),
          act(own, 'Next one down', 'move', { params: { by: 1 }, icon: 'down' }),
          { label: [{ text: 'Next: ' }, reading(own, 'nextName')], device: own, cols: 2 },
        ],
      },
    ],
  );
}

const minutes = 60;

/** The timers that this program keeps by itself. */
export const ownTimers: NonNullable<DeviceRecord['data']['timers']> = [
  { id: 'to-air', name: 'To air', speaker: '', lengthS: 10 * minutes, warnS: minutes, graceS: 0 },
  { id: 'next-race', name: 'Next race', speaker: '', lengthS: 8 * minutes, warnS: minutes, graceS: 0 },
  { id: 'break', name: 'Break', speaker: '', lengthS: 20 * minutes, warnS: 2 * minutes, graceS: 0 },
];
