import type { ShowRecord } from '../src/core/show';
import { page, pictureZone, reading, type Button, type Params, type Zone } from './page-parts';

/** Further pages of the demo: cameras, replays, titles, streams and sound. */

/** With the direction of the second preset; the first one looks thirty degrees further left. */
const cameras = [
  ['dev-c1', 'C1 Start tower', 35],
  ['dev-c2', 'C2 Mid-course', 5],
  ['dev-c3', 'C3 Finish line', 40],
  ['dev-c4', 'C4 Pontoon', -45],
] as const;

/** Lit while the camera moves along this axis. */
const moves = (key: string) => ({ key, to: true, withinMs: 700, show: 'active', word: 'MOVES' }) as const;

export function cameraPage(): ShowRecord[] {
  const arrows: Readonly<Record<string, string>> = { left: 'before', right: 'next', up: 'up', down: 'down' };
  const move = (device: string, label: string, direction: string): Button => ({
    label,
    icon: arrows[direction] ?? 'move',
    device,
    command: 'move',
    params: { direction },
    held: true,
    lamp: moves(direction === 'up' || direction === 'down' ? 'tilt' : 'pan'),
  });
  const zoom = (device: string, label: string, command: string): Button => ({
    label,
    icon: command === 'zoomIn' ? 'closer' : 'wider',
    device,
    command,
    held: true,
    lamp: moves('zoom'),
  });
  return page(
    'page-cameras',
    'Cameras',
    2,
    11,
    'Hold to move; letting go stops. Presets drive there by themselves.',
    cameras.map(([device, title, pan], row) => ({
      title,
      col: 0,
      row,
      cols: 11,
      buttons: [
        move(device, 'Left', 'left'),
        move(device, 'Right', 'right'),
        move(device, 'Up', 'up'),
        move(device, 'Down', 'down'),
        zoom(device, 'Wider', 'zoomOut'),
        zoom(device, 'Closer', 'zoomIn'),
        ...[0, 1].map((preset): Button => ({
          label: `Preset ${preset}`,
          device,
          command: 'recall',
          params: { preset },
          lamp: { key: 'pan', to: pan + (preset - 1) * 30, show: 'active', word: 'THERE', about: 0.5 },
        })),
        {
          label: 'Tally',
          device,
          command: 'tally',
          params: { on: true },
          lamp: { key: 'tally', to: true, show: 'onAir' },
        },
        { label: title, device, shows: { kind: 'still', device, still: 'view' }, cols: 2 },
      ],
    })),
  );
}

/** A button that begins a macro, lit by what that brings about. */
const runs = (macro: string, label: string, device: string, lamp: Button['lamp']): Button => ({
  label,
  device,
  runs: macro,
  lamp,
});

export function replayPage(): ShowRecord[] {
  const device = 'dev-r1';
  const clip = (n: number): Button => ({
    label: [reading(device, `clip[${n}].name`)],
    device,
    command: 'load',
    params: { clip: n },
    lamp: { key: 'loaded', to: n, show: 'next', word: 'LOADED' },
  });
  return page('page-replays', 'Replays', 3, 6, 'Choose a clip, then play it.', [
    { title: 'Clips', col: 0, row: 0, cols: 6, buttons: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12].map(clip) },
    {
      title: 'Transport',
      col: 0,
      row: 2,
      cols: 6,
      buttons: [
        {
          label: 'Play',
          icon: 'play',
          device,
          command: 'play',
          lamp: { key: 'transport', to: 'playing', show: 'active', word: 'PLAYING' },
        },
        {
          label: 'Half speed',
          device,
          command: 'play',
          params: { speed: 50 },
          lamp: { key: 'speed', to: 50, show: 'active', word: '50 %' },
        },
        {
          label: 'Pause',
          icon: 'pause',
          device,
          command: 'pause',
          lamp: { key: 'transport', to: 'paused', show: 'active', word: 'PAUSED' },
        },
        {
          label: 'Stop and cue',
          icon: 'stop',
          device,
          command: 'stop',
          lamp: { key: 'transport', to: 'cued', show: 'next', word: 'CUED' },
        },
        {
          label: 'Loop',
          icon: 'loop',
          device,
          command: 'loop',
          params: { on: true },
          lamp: { key: 'loop', to: true, show: 'active', word: 'LOOP' },
        },
        { label: [{ text: 'Left ' }, reading(device, 'left')], device },
        {
          label: [reading(device, 'loadedName')],
          device,
          cols: 6,
          range: {
            send: { device, command: 'jump', params: {} },
            param: 'to',
            min: 0,
            max: 3600,
            most: { device, key: 'length' },
            reading: { device, key: 'time' },
          },
        },
      ],
    },
    {
      title: 'Macros of the day',
      col: 0,
      row: 4,
      cols: 6,
      buttons: [
        runs('mac-wipe', 'Wipe to replay', 'dev-switcher', { key: 'program', to: 7, show: 'onAir' }),
        runs('mac-start', 'Start of race', 'dev-g1', { key: 'horn', to: true, show: 'active', word: 'HORN' }),
        runs('mac-finish', 'Finish', 'dev-switcher', { key: 'program', to: 3, show: 'onAir' }),
        runs('mac-interview', 'Interview', 'dev-switcher', { key: 'program', to: 4, show: 'onAir' }),
        runs('mac-streams', 'Start streams', 'dev-e1', { key: 'stream', to: 'live', show: 'onAir', word: 'LIVE' }),
        runs('mac-end', 'End of day', 'dev-switcher', { key: 'black', to: 'on', show: 'warning', word: 'BLACK' }),
      ],
    },
  ]);
}

export function titlePage(): ShowRecord[] {
  const device = 'dev-t1';
  const crew = (row: number): Button => ({
    label: [reading(device, `row[${row}].crew`)],
    device,
    command: 'row',
    params: { layer: 1, row },
    lamp: { key: 'layer[1].row', to: row, show: 'active' },
  });
  const template = (n: number): Button => ({
    label: [reading(device, `template[${n}].name`)],
    device,
    command: 'load',
    params: { layer: 1, template: n },
    lamp: { key: 'layer[1].template', to: n, show: 'next', word: 'LOADED' },
  });
  return page(
    'page-titles',
    'Titles',
    4,
    8,
    'Load a title on layer 1, choose a crew, take it, or switch key 1 on: it brings the title. The next crew follows while it is on.',
    [
      { title: 'Load', col: 0, row: 0, cols: 6, buttons: [1, 2, 3, 4, 5, 6].map(template) },
      { title: 'Crew', col: 0, row: 1, cols: 6, buttons: [1, 2, 3, 4, 5, 6].map(crew) },
      {
        title: 'Layer 1',
        col: 0,
        row: 2,
        cols: 3,
        buttons: [
          {
            label: 'Take',
            icon: 'screen',
            device,
            command: 'take',
            params: { layer: 1 },
            lamp: { key: 'layer[1].state', to: 'on', show: 'onAir' },
          },
          {
            label: 'Out',
            device,
            command: 'out',
            params: { layer: 1 },
          },
          {
            label: [{ text: 'Next after ' }, reading(device, 'layer[1].crew')],
            device,
            command: 'next',
            params: { layer: 1 },
          },
        ],
      },
      {
        title: 'Guests',
        col: 0,
        row: 3,
        cols: 3,
        buttons: [guest(device)],
      },
      {
        title: 'Functions',
        col: 3,
        row: 2,
        cols: 3,
        buttons: [5, 4, 1].map((n): Button => ({
          label: [reading(device, `function[${n}].name`)],
          device,
          command: 'run',
          params: { function: n },
          lamp: { key: 'lastFunction', to: n, show: 'active' },
        })),
      },
      {
        // A watch takes what is loaded on layer 1, 12 frames before the key.
        title: 'Layer 1 with key 1',
        col: 3,
        row: 3,
        cols: 3,
        buttons: [keyOne(true), keyOne(false)],
      },
      pictureZone('Output of the titles', device, 'preview', { col: 6, row: 0, cols: 2, rows: 2 }),
      pictureZone('Program', 'dev-switcher', 'program', { col: 6, row: 2, cols: 2, rows: 2 }),
    ],
  );
}

const keyOne = (on: boolean): Button => ({
  label: on ? 'Key on' : 'Key off',
  device: 'dev-switcher',
  command: 'key',
  params: { key: 1, on },
  ...(on ? { lamp: { key: 'key[1].on', to: true, show: 'onAir' } } : {}),
});

/** Asks for a name, takes it on layer 2, and takes it out by itself. */
const guest = (device: string): Button => {
  const send = (command: string, params: Params, waitMs?: number) => ({
    device,
    command,
    params: { layer: 2, ...params },
    ...(waitMs === undefined ? {} : { waitMs }),
  });
  const field = (n: number, value: string) => ({
    ...send('field', { field: n }, 60),
    params: { layer: 2, field: n, text: { value } },
  });
  return {
    label: [{ text: 'Guest ' }, reading(device, 'field[21].text')],
    cols: 2,
    device,
    values: { name: '', line: 'Tidewick Regatta' },
    responses: {
      tap: [send('load', { template: 1 }), field(1, 'name'), field(2, 'line'), send('take', {}, 60)],
      off: { afterMs: 8000, again: 'end', sends: [send('out', {})] },
      asks: {
        mostMs: 45_000,
        items: [
          { value: 'name', title: 'Name of the guest' },
          { value: 'line', title: 'Line below' },
        ],
      },
    },
    lamp: { key: 'layer[2].state', to: 'on', show: 'onAir' },
  };
};

export function streamPage(): ShowRecord[] {
  const zone = (device: string, title: string, row: number): Zone => ({
    title,
    col: 0,
    row,
    cols: 6,
    buttons: [
      {
        label: 'Start stream',
        icon: 'stream',
        device,
        command: 'startStream',
        lamp: { key: 'stream', to: 'live', show: 'onAir', word: 'LIVE' },
      },
      {
        label: 'Stop stream',
        icon: 'stop',
        device,
        command: 'stopStream',
      },
      {
        label: 'Record',
        icon: 'record',
        device,
        command: 'startRecord',
        lamp: { key: 'recording', to: true, show: 'recording' },
      },
      {
        label: 'Stop recording',
        icon: 'stop',
        device,
        command: 'stopRecord',
      },
      { label: [{ text: 'On air ' }, reading(device, 'streamTime')], device },
      {
        label: 'Bit rate',
        icon: 'fader',
        device,
        shows: { kind: 'bar', reading: { device, key: 'kbps' }, min: 0, max: 8000 },
      },
    ],
  });
  return page('page-streams', 'Streams', 5, 6, 'Starting and stopping is guarded: hold until the bar is full.', [
    zone('dev-e1', 'Main', 0),
    zone('dev-e2', 'Backup', 1),
    pictureZone('Main output', 'dev-e1', 'output', { col: 0, row: 2, cols: 3, rows: 3 }),
    pictureZone('Backup output', 'dev-e2', 'output', { col: 3, row: 2, cols: 3, rows: 3 }),
  ]);
}

export function soundPage(): ShowRecord[] {
  const device = 'dev-a1';
  const strip = (n: number, on: boolean): Button => ({
    label: [reading(device, `strip[${n}].name`)],
    device,
    command: 'mute',
    params: { strip: n, on },
    icon: on ? 'microphone-off' : 'microphone',
    lamp: { key: `strip[${n}].muted`, to: on, show: on ? 'warning' : 'active', word: on ? 'MUTED' : 'OPEN' },
  });
  const meter = (n: number): Button => ({
    label: [reading(device, `strip[${n}].name`)],
    device,
    shows: { kind: 'bar', reading: { device, key: `strip[${n}].meter` }, min: -60, max: 0 },
  });
  const strips = [1, 2, 3, 4, 5, 6];
  return page('page-sound', 'Sound', 6, 6, 'The upper row opens, the lower one mutes.', [
    { title: 'Open', col: 0, row: 0, cols: 6, buttons: strips.map((n) => strip(n, false)) },
    { title: 'Mute', col: 0, row: 1, cols: 6, buttons: strips.map((n) => strip(n, true)) },
    { title: 'Levels', col: 0, row: 2, cols: 6, buttons: strips.map(meter) },
    {
      title: 'Stored settings',
      col: 0,
      row: 3,
      cols: 6,
      buttons: [1, 2, 3].map((n): Button => ({
        label: [reading(device, `scene[${n}].name`)],
        device,
        command: 'recall',
        params: { scene: n },
        lamp: { key: 'lastScene', to: n, show: 'active' },
      })),
    },
  ]);
}
