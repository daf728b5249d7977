import type { ShowRecord } from '../src/core/show';
import { page, type Button } from './page-parts';

const device = 'dev-l1';

/** The lights of the pontoon, as they hang: the first channel is the first lamp. */
const names = ['Key left', 'Key right', 'Fill', 'Back left', 'Back right', 'Desk', 'On-air light', 'Steps'];

const fader = (label: string, n: number): Button => ({
  label,
  device,
  rows: 3,
  range: {
    send: { device, command: 'setLevel', params: { channel: n + 1, level: 0, fade: 0 } },
    param: 'level',
    min: 0,
    max: 100,
    reading: { device, key: `level[${n + 1}]` },
  },
});

/** @param lit between which levels of the first channel it is what is lit; darkness is no state to point out */
const look = (label: string, levels: string, lit?: readonly [number, number]): Button => ({
  label,
  device,
  command: 'setLook',
  params: { channel: 1, levels, fade: 2 },
  ...(lit
    ? { lamp: { key: 'level[1]', to: (lit[0] + lit[1]) / 2, about: (lit[1] - lit[0]) / 2, show: 'active' } }
    : {}),
});

const colour = (label: string, hex: string): Button => ({
  label,
  device,
  command: 'setColour',
  params: { channel: 10, colour: hex, fade: 1 },
});

/** Faders, looks and the wash on the water: DMX over sACN. */
export function lightsPage(): ShowRecord[] {
  return page(
    'page-lights',
    'Lights',
    10,
    8,
    'A look takes two seconds. Levels are what is sent: the lamps cannot answer.',
    [
      { title: 'Levels', col: 0, row: 0, cols: 8, buttons: names.map(fader) },
      {
        title: 'Looks',
        col: 0,
        row: 3,
        cols: 4,
        buttons: [
          look('Interview', '230, 200, 120, 160, 160, 140', [88, 92]),
          look('Walk-on', '255, 255, 200, 255, 255, 60', [99, 100]),
          look('Dim', '60, 50, 30, 80, 80, 20', [22, 25]),
          look('Out', '0, 0, 0, 0, 0, 0'),
        ],
      },
      {
        title: 'Water wash',
        col: 4,
        row: 3,
        cols: 4,
        buttons: [
          colour('Warm', '#FFB46B'),
          colour('Dusk', '#4A3CC8'),
          colour('Sea', '#0E7A8C'),
          colour('None', '#000000'),
        ],
      },
      {
        title: 'All',
        col: 0,
        row: 4,
        cols: 4,
        buttons: [
          {
            label: 'Blackout',
            icon: 'light-off',
            device,
            command: 'blackout',
            params: { on: true },
            lamp: { key: 'blackout', to: true, show: 'warning', word: 'DARK' },
          },
          { label: 'Lights back', icon: 'light', device, command: 'blackout', params: { on: false } },
          {
            label: 'On air',
            device,
            command: 'setLevel',
            params: { channel: 7, level: 100, fade: 0 },
            lamp: { key: 'level[7]', to: 100, show: 'active', word: 'LIT' },
          },
          { label: 'Off air', device, command: 'setLevel', params: { channel: 7, level: 0, fade: 0 } },
        ],
      },
    ],
  );
}
