import { ownId, type MacroRecord, type MacroStep } from '../src/core/show';

/** The macros of the demo: what has to happen on several devices at the right moments of a regatta day. */

type Params = Readonly<Record<string, string | number | boolean>>;
type Segment = MacroRecord['data']['segments'][number];

let steps = 0;
const send = (device: string, command: string, params: Params = {}) => ({
  device: `dev-${device}`,
  command,
  params: { ...params },
});
const at = (ms: number, device: string, command: string, params: Params = {}, acts = false): MacroStep => ({
  id: `step-${(steps += 1)}`,
  at: ms,
  ...(acts ? { acts: true as const } : {}),
  does: { is: 'send', send: send(device, command, params) },
});
/** Something that the program itself does. */
const own = (ms: number, command: string, params: Params): MacroStep => ({
  id: `step-${(steps += 1)}`,
  at: ms,
  does: { is: 'send', send: { device: ownId, command, params: { ...params } } },
});
const note = (ms: number, text: string, panel?: string): MacroStep => ({
  id: `step-${(steps += 1)}`,
  at: ms,
  does: { is: 'note', text, ...(panel ? { panel } : {}) },
});
const until = (
  device: string,
  key: string,
  to: string | number | boolean,
  mostMs: number,
  otherwise: 'go on' | 'stop' | 'way out',
) => ({
  waits: { until: { op: 'equals' as const, reading: { device: `dev-${device}`, key }, to }, mostMs, otherwise },
});

function macro(
  id: string,
  order: number,
  name: string,
  note: string,
  segments: readonly (Omit<Segment, 'id'> | Segment)[],
  more: Partial<MacroRecord['data']> = {},
): MacroRecord {
  return {
    kind: 'macro',
    id,
    version: 1,
    data: {
      name,
      order,
      note,
      params: [],
      again: 'ignore',
      whenDown: 'go on',
      segments: segments.map((segment, n) => ({ id: `${id}-${n + 1}`, ...segment })),
      ...more,
    },
  };
}

export function demoMacros(): MacroRecord[] {
  steps = 0;
  return [
    macro(
      'mac-wipe',
      1,
      'Wipe to replay and back',
      'The deck’s clip runs over everything; the cut falls under it when it fills the frame; then the replay, and back to the start tower.',
      [
        {
          name: 'Ready',
          part: 'reset',
          steps: [
            at(0, 'switcher', 'key', { key: 1, on: false }),
            at(10, 'switcher', 'keySource', { key: 1, input: 7 }),
            at(20, 'r1', 'load', { clip: 11 }),
            at(30, 'switcher', 'ready', { input: 6 }),
          ],
        },
        {
          name: 'Wipe',
          ...until('r1', 'transport', 'cued', 2000, 'way out'),
          steps: [at(0, 'switcher', 'key', { key: 1, on: true }), at(40, 'r1', 'play')],
        },
        {
          name: 'Under it',
          ...until('r1', 'transport', 'playing', 1000, 'way out'),
          markers: [{ id: 'mark-covered', name: 'picture covered', at: 400, forMs: 400 }],
          steps: [
            at(480, 'switcher', 'cut', {}, true),
            at(960, 'switcher', 'key', { key: 1, on: false }),
            at(1000, 'r1', 'load', { clip: 2 }),
          ],
        },
        {
          name: 'Replay',
          ...until('r1', 'transport', 'cued', 2000, 'way out'),
          steps: [at(0, 'r1', 'play'), at(40, 'switcher', 'take', { input: 7 })],
        },
        {
          name: 'Back',
          ...until('r1', 'transport', 'ended', 60_000, 'go on'),
          part: 'way out',
          steps: [at(0, 'switcher', 'key', { key: 1, on: false }), at(20, 'switcher', 'take', { input: 1 })],
        },
      ],
      { whenDown: 'way out' },
    ),
    macro('mac-start', 2, 'Start of race', 'Lights, horn, start tower on air, the race title for five seconds.', [
      {
        name: 'Call',
        part: 'reset',
        steps: [
          at(0, 'g1', 'light', { light: 'tower', on: true }),
          at(0, 't1', 'load', { layer: 1, template: 3 }),
          note(0, 'Crews are called to the start.'),
          at(1500, 'switcher', 'take', { input: 1 }),
        ],
      },
      {
        name: 'Go',
        steps: [
          {
            id: 'step-horn',
            at: 0,
            does: { is: 'pulse', on: send('g1', 'horn'), off: send('g1', 'hornOff'), forMs: 1200 },
          },
          at(200, 't1', 'take', { layer: 1 }),
          at(5200, 't1', 'out', { layer: 1 }),
          at(5400, 'g1', 'light', { light: 'tower', on: false }),
        ],
      },
    ]),
    macro(
      'mac-finish',
      3,
      'Finish and result title',
      'The finish line on air, the horn, and the result board over it.',
      [
        {
          name: 'Finish',
          steps: [
            at(-500, 't1', 'load', { layer: 1, template: 4 }),
            at(0, 'switcher', 'take', { input: 3 }),
            {
              id: 'step-finish-horn',
              at: 100,
              does: { is: 'pulse', on: send('g1', 'horn'), off: send('g1', 'hornOff'), forMs: 600 },
            },
            at(3000, 't1', 'take', { layer: 1 }),
          ],
        },
        { name: 'Off', part: 'way out', steps: [at(6000, 't1', 'out', { layer: 1 })] },
      ],
    ),
    macro(
      'mac-interview',
      4,
      'Pontoon interview opening',
      'The camera drives to the guest, the sound goes to the interview, and the name strap follows the cut.',
      [
        {
          name: 'Set up',
          part: 'reset',
          steps: [
            at(0, 'c4', 'recall', { preset: 1 }),
            at(0, 'switcher', 'ready', { input: 4 }),
            at(20, 't1', 'load', { layer: 2, template: 1 }),
            note(0, 'Interview in three seconds.', 'pan-cameras'),
            {
              id: 'step-guests',
              at: 0,
              does: { is: 'shift', page: 'page-pontoon', shift: 'shift-guests' },
            },
          ],
        },
        {
          name: 'On air',
          steps: [
            at(3000, 'a1', 'recall', { scene: 2 }),
            at(3000, 'switcher', 'cut', {}, true),
            at(4500, 't1', 'take', { layer: 2 }),
            at(10_500, 't1', 'out', { layer: 2 }),
          ],
        },
      ],
    ),
    macro(
      'mac-streams',
      5,
      'Start of the streams',
      'The backup first; the main one once the backup is live; then both are recorded.',
      [
        { name: 'Backup', steps: [at(0, 'e2', 'startStream'), at(0, 'e2', 'startRecord')] },
        {
          name: 'Main',
          ...until('e2', 'stream', 'live', 15_000, 'go on'),
          steps: [at(0, 'e1', 'startStream'), at(0, 'e1', 'startRecord')],
        },
        {
          name: 'Told',
          ...until('e1', 'stream', 'live', 15_000, 'go on'),
          steps: [note(0, 'Both streams are live.')],
        },
      ],
    ),
    macro('mac-end', 6, 'End of day', 'Titles off, to black, then streams and recordings off, the flag down.', [
      {
        name: 'Picture',
        steps: [
          at(0, 't1', 'run', { function: 1 }),
          at(500, 'switcher', 'black', { to: 'on' }),
          at(500, 'a1', 'mainMute', { on: true }),
        ],
      },
      {
        name: 'Streams',
        steps: [
          at(2500, 'e1', 'stopStream'),
          at(2500, 'e2', 'stopStream'),
          at(3500, 'e1', 'stopRecord'),
          at(3500, 'e2', 'stopRecord'),
          note(4000, 'Thank you. That was the day.'),
        ],
      },
    ]),
    macro(
      'mac-prizes',
      8,
      'Prize giving',
      'In one press: slides to the club house, the talent sees the clock, the walls show the program, the light is warm, the next timer waits.',
      [
        {
          name: 'House',
          steps: [
            at(0, 'v1', 'set', { set: 3 }),
            at(0, 'v1', 'deck', { deck: 1 }),
            at(40, 'v1', 'arrangement', { arrangement: 2 }),
            at(0, 'w1', 'showAll', { source: 'Control boat/Program' }),
            at(0, 'w2', 'showAll', { source: 'Control boat/Program' }),
            at(0, 'k1', 'nextNamed', { name: 'Prize giving' }),
          ],
        },
        {
          name: 'Light',
          steps: [
            at(0, 'h1', 'relay', { relay: 1, on: false }),
            at(0, 'h1', 'relay', { relay: 3, on: true }),
            at(0, 'l1', 'setLook', { channel: 1, levels: '255, 255, 200, 255, 255, 60', fade: 2 }),
            note(2000, 'The house is ready for the prize giving.', 'pan-stage'),
          ],
        },
      ],
    ),
    macro(
      'mac-open-talk',
      7,
      'Open interview',
      'The layout of the interview glides in while the sound changes over; it goes to air, and the name comes over it.',
      [
        {
          name: 'Layout',
          steps: [
            own(0, 'cutTo', { snapshot: 1 }),
            at(40, 'switcher', 'take', { input: 10 }),
            own(200, 'glideTo', { snapshot: 2, ms: 1200, curve: 'smooth' }),
            own(200, 'callUp', { snapshot: 12 }),
            at(700, 't1', 'take', { layer: 1 }),
          ],
        },
      ],
    ),
  ];
}
