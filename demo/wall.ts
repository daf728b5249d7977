import type { ShowRecord } from '../src/core/show';
import { page, reading, type Button, type Zone } from './page-parts';

const walls = ['dev-w1', 'dev-w2', 'dev-w3'] as const;
const house = 'dev-h1';
const board = 'dev-b1';

const source = (device: string, label: string, name: string): Button => ({
  label,
  device,
  command: 'showAll',
  params: { source: name },
  lamp: { key: 'allSource', to: name, show: 'active', word: 'ON' },
});

const wall = (device: string, title: string, row: number): Zone => ({
  title,
  col: 0,
  row,
  cols: 5,
  buttons: [
    source(device, 'Program', 'Control boat/Program'),
    source(device, 'Finish', 'Finish/Line'),
    source(device, 'Results', 'Office/Results'),
    {
      label: [reading(device, 'monitor[1].name'), { text: ' full' }],
      device,
      command: 'mode',
      params: { monitor: 1, mode: 'full' },
      lamp: { key: 'monitor[1].mode', to: 'full', show: 'active', word: 'FULL' },
    },
    { label: 'Dark', device, command: 'allOff', lamp: { key: 'allOff', to: true, show: 'active', word: 'DARK' } },
  ],
});

const everyWall = (
  label: string,
  command: string,
  params: Readonly<Record<string, string>>,
  lamp: Button['lamp'],
): Button => ({
  label,
  device: walls[0],
  cols: 2,
  responses: { tap: walls.map((device) => ({ device, command, params: { ...params } })) },
  ...(lamp ? { lamp } : {}),
});

/** A relay that one button switches on and off. */
const relay = (n: number): Button => ({
  label: [reading(house, `relay[${n}].name`)],
  icon: 'light',
  device: house,
  responses: {
    tap: [{ device: house, command: 'relay', params: { relay: n, on: true } }],
    turns: [[{ device: house, command: 'relay', params: { relay: n, on: false } }]],
  },
  lamp: { key: `relay[${n}].on`, to: true, show: 'active', word: 'ON' },
});

/** The walls of monitors, the public board, and what moves in the club house. */
export function wallPage(): ShowRecord[] {
  return page(
    'page-wall',
    'Wall and house',
    14,
    10,
    'A wall is asked once a second: its lamps follow within that time.',
    [
      wall(walls[0], 'Foyer', 0),
      wall(walls[1], 'Bar', 1),
      wall(walls[2], 'Boat house', 2),
      {
        title: 'Every wall',
        col: 0,
        row: 3,
        cols: 5,
        buttons: [
          everyWall(
            'Program everywhere',
            'showAll',
            { source: 'Control boat/Program' },
            { key: 'allSource', to: 'Control boat/Program', show: 'active', word: 'ON' },
          ),
          everyWall('All dark', 'allOff', {}, { key: 'allOff', to: true, show: 'active', word: 'DARK' }),
        ],
      },
      { title: 'House', col: 5, row: 0, cols: 5, buttons: [1, 2, 3, 4, 5].map(relay) },
      {
        title: 'Blinds and lift',
        col: 5,
        row: 1,
        cols: 5,
        buttons: [
          {
            label: 'Open blinds',
            icon: 'up',
            device: house,
            command: 'openBlinds',
            lamp: { key: 'blindsOpen', to: true, show: 'active', word: 'OPEN' },
          },
          {
            label: 'Close blinds',
            icon: 'down',
            device: house,
            command: 'closeBlinds',
            lamp: { key: 'blindsClosed', to: true, show: 'active', word: 'CLOSED' },
          },
          { label: 'Halt blinds', icon: 'stop', device: house, command: 'haltBlinds' },
          { label: [{ text: 'Blinds ' }, reading(house, 'blinds'), { text: ' %' }], device: house, cols: 2 },
          {
            label: 'Lift up',
            icon: 'up',
            device: house,
            command: 'liftUp',
            lamp: { key: 'liftTop', to: true, show: 'active', word: 'TOP' },
          },
          {
            label: 'Lift down',
            icon: 'down',
            device: house,
            command: 'liftDown',
            lamp: { key: 'liftBottom', to: true, show: 'active', word: 'BOTTOM' },
          },
          { label: 'Halt lift', icon: 'stop', device: house, command: 'haltLift' },
          { label: 'Door', device: house, lamp: { key: 'door', to: false, show: 'warning', word: 'OPEN' } },
          { label: 'Bell', device: house, lamp: { key: 'bell', to: true, show: 'active', word: 'RINGS' } },
        ],
      },
      {
        title: 'Public board',
        col: 5,
        row: 3,
        cols: 5,
        buttons: [
          {
            label: 'Racing',
            device: board,
            command: 'text',
            params: { row: 1, text: 'RACING' },
            lamp: { key: 'row[1].text', to: 'RACING', show: 'active' },
          },
          {
            label: 'Break',
            device: board,
            command: 'text',
            params: { row: 1, text: 'BREAK' },
            lamp: { key: 'row[1].text', to: 'BREAK', show: 'active' },
          },
          { label: 'Clear board', device: board, command: 'clearAll' },
          { label: [{ text: 'Board: ' }, reading(board, 'row[1].text')], device: board, cols: 2 },
        ],
      },
    ],
  );
}
