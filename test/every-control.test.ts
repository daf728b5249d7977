import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readingsOfFace, type FaceView } from '../src/core/face';
import type { PageView } from '../src/core/live';
import {
  isTallyKey,
  ownDevice,
  ownDocumentOf,
  ownId,
  type ControlRecord,
  type PresetRecord,
  type ShowRecord,
} from '../src/core/show';
import type { Scalar } from '../src/core/result';
import { DriverShelf } from '../src/core/driver';
import { shippedDrivers } from '../src/drivers';
import type { StandinTag } from '../src/standins';
import { startDemoRig, tagOfId, type DemoRig } from './support/demo-rig';
import { runAsOne, TestClient, until, type TestRig } from './support/rig';
import { paced } from './support/pace';

/**
 * Every control of the demo show: a lamp or a live face, followed on two panels while somebody works the devices by hand, in doubt
 * while the device is cut off, and true again afterwards.
 */

/** These show nothing that a device reports, and why. */
const withoutFace: Readonly<Record<string, string>> = {
  'ctl-layouts-3-3': 'runs back what glides; the snapshot that glides is lit',
  'ctl-layouts-3-4': 'calls up the next one, whose own button is lit',
  'ctl-layouts-7-1': 'takes a snapshot; the new one is on the screen of snapshots',
  'ctl-cut': 'a cut is over at once: there is nothing to show that lasts',
  'ctl-pontoon-1': 'a stick shows the hand; the picture beside it shows the camera',
  'ctl-work-7': 'a stick shows the hand; the picture beside it shows the camera',
  'ctl-work-8': 'likewise',
  'ctl-work-9': 'likewise',
  'ctl-work-15': 'drives home; the picture shows where the camera is',
  'ctl-work-23': 'works the menu, which is in the picture',
  'ctl-work-26': 'likewise',
  'ctl-pontoon-2': 'closer, on the page on which the zoom is read beside it',
  'ctl-pontoon-3': 'wider, likewise',
  'ctl-pontoon-4': 'it changes the page itself; its lamp is lit by that',
  'ctl-pontoon-5': 'a preset of whichever camera is picked: what it holds is not reported',
  'ctl-pontoon-6': 'likewise',
  // What has stopped is the usual thing and stays dark; the control beside it is lit while it goes on.
  'ctl-screens-1-2': 'switches off; On is lit while it is on',
  'ctl-screens-1-6': 'shows the picture; Blank is lit while it is blank',
  'ctl-screens-1-11': 'unmutes; Mute is lit while it is muted',
  'ctl-screens-2-2': 'likewise, of the other screen',
  'ctl-screens-2-6': 'likewise',
  'ctl-screens-2-11': 'likewise',
  'ctl-streams-1-2': 'stops the stream; Start stream is lit while it is live',
  'ctl-streams-1-4': 'stops the recording; Record is lit while it goes on',
  'ctl-streams-2-2': 'likewise, of the backup',
  'ctl-streams-2-4': 'likewise',
  'ctl-titles-3-2': 'takes the title out; Take is lit while it is on',
  'ctl-engineering-1-3': 'lowers the flag; its height is read beside it',
  'ctl-engineering-1-5': 'puts the light out; Light on is lit while it is on',
  'ctl-engineering-2-4': 'shows the board; Blank is lit while it is blank',
  ...Object.fromEntries(
    [1, 2, 3, 4].map((n) => [`ctl-lights-3-${n}`, 'a colour on three channels: no one reading is it']),
  ),
  'ctl-lights-2-4': 'every lamp out; each look is lit while it is',
  'ctl-lights-4-2': 'ends the blackout; Blackout is lit while it lasts',
  'ctl-lights-4-4': 'puts the on-air light out; On air is lit while it is on',
  'ctl-engineering-2-5': 'clears the board; its first row is read beside it',
  ...Object.fromEntries(
    ['2-3', '2-4', '2-5', '2-6'].map((n) => [`ctl-clocks-${n}`, 'what it does to the timer is read above it']),
  ),
  'ctl-clocks-3-3': 'clears the message; each message is lit while it is shown',
  ...Object.fromEntries(
    ['5-4', '5-5', '5-6'].map((n) => [`ctl-clocks-${n}`, 'what it does to the timer is read beside it']),
  ),
  'ctl-composers-1-10': 'stops the recording; Record is lit while it goes on',
  'ctl-composers-2-10': 'likewise, at the club',
  'ctl-composers-3-4': 'likewise, both',
  'ctl-titles-6-2': 'switches the key off; it is lit beside it',
  'ctl-slides-3-4': 'clears the title; each title is lit while it is on',
  'ctl-slides-4-3': 'clears the message; it is read beside it',
  'ctl-slides-7-3': 'stops the track; its position is read beside it',
  'ctl-wall-6-3': 'halts the blinds; how far they are open is read beside it',
  'ctl-wall-6-7': 'halts the lift; its ends are lit beside it',
  'ctl-wall-7-3': 'clears the board; it is read beside it',
};

const presets = () => ({
  presets: () => records.filter((record): record is PresetRecord => record.kind === 'preset'),
});

/** It comes by a way of its own: `pictures.test.ts`. */
const isLivePicture = ({ shows }: ControlRecord['data']) => shows?.kind === 'still';

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const range = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, n) => from + n);

type Order = readonly [tag: StandinTag, order: object, waitMs?: number];

/** Lights report nothing by themselves: what is sent to them is what the page shows. */
const lights = [
  ['setLook', { channel: 1, levels: '255, 255, 200, 255, 255, 60, 255, 255' }],
  ['setLook', { channel: 1, levels: '230, 200, 120, 160, 160, 140' }],
  ['setLook', { channel: 1, levels: '60, 50, 30, 80, 80, 20' }],
  ['blackout', { on: true }],
  ['blackout', { on: false }],
  ['setRange', { channel: 1, last: 12, level: 0 }],
] as const;

/** No hand reaches the timers of the program but by commands. */
const timers = [
  ['startNext', {}],
  ['pause', {}],
  ['stop', {}],
  ['move', { by: 1 }],
] as const;

const screens = ['D1', 'D2'] as const;

/** What somebody does at the devices themselves, so that everything that a control of the demo shows becomes another. */
const byHand: readonly Order[] = [
  ...range(1, 12).map((input): Order => ['SW1', { verb: 'name', input, text: `Place ${input}` }]),
  ...[...range(1, 8), 10, 1].flatMap((input): Order[] => [
    ['SW1', { verb: 'take', input }, 60],
    ['SW1', { verb: 'ready', input: (input % 6) + 1 }, 60],
  ]),
  ...[1, 2, 3, 4, 5, 6].map((input): Order => ['SW1', { verb: 'ready', input }, 60]),
  ['SW1', { verb: 'rate', frames: 25 }, 100],
  ['SW1', { verb: 'mix' }, 1500],
  ['SW1', { verb: 'black', on: true }, 1500],
  ['SW1', { verb: 'black', on: false }, 1500],
  ['SW1', { verb: 'key', key: 1, on: true }, 400],
  ['SW1', { verb: 'key', key: 1, on: false }, 100],
  ...[1, 2, 3, 4].flatMap((box): Order[] => [
    ['SW1', { verb: 'box', box, on: true }, 100],
    ['SW1', { verb: 'box', box, on: false }, 100],
  ]),
  ...(['C1', 'C2', 'C3', 'C4'] as const).flatMap((tag): Order[] => [
    [tag, { verb: 'recall', preset: 0 }, 1500],
    [tag, { verb: 'move', pan: 6, tilt: 4, zoom: 3 }, 400],
    [tag, { verb: 'move' }, 100],
    [tag, { verb: 'focus', auto: false }, 200],
    [tag, { verb: 'set', exposure: 'manual', iris: 4, gain: 9, whiteBalance: 'indoor' }, 1100],
    [tag, { verb: 'set', whiteBalance: 'outdoor' }, 1100],
    [tag, { verb: 'set', whiteBalance: 'manual', redGain: 60, blueGain: 190 }, 1100],
    [tag, { verb: 'menu', on: true }, 1100],
    [tag, { verb: 'menu', on: false }, 200],
    [tag, { verb: 'tally', on: true }, 1100],
    [tag, { verb: 'tally', on: false }, 1100],
  ]),
  ...(['E1', 'E2'] as const).flatMap((tag): Order[] => [
    [tag, { verb: 'record', on: true }, 200],
    [tag, { verb: 'stream', on: true }, 2500],
    [tag, { verb: 'stream', on: false }, 300],
    [tag, { verb: 'record', on: false }, 300],
  ]),
  ...range(1, 12).map((clip): Order => ['R1', { verb: 'load', clip }, 60]),
  ['R1', { verb: 'play', speed: 50 }, 500],
  ['R1', { verb: 'play' }, 300],
  ['R1', { verb: 'pause' }, 100],
  ['R1', { verb: 'loop', on: true }, 100],
  ['R1', { verb: 'loop', on: false }, 100],
  ['R1', { verb: 'stop' }, 100],
  ...range(1, 6).flatMap((strip): Order[] => [
    ['A1', { verb: 'mute', strip, on: true }, 60],
    ['A1', { verb: 'level', strip, level: -7 }, 60],
    ['A1', { verb: 'mute', strip, on: false }, 60],
  ]),
  ['A1', { verb: 'main', level: -3 }, 100],
  ...range(1, 3).map((scene): Order => ['A1', { verb: 'recall', scene }, 100]),
  ...[1, 2].flatMap((layer) => range(1, 6).map((template): Order => ['T1', { verb: 'load', layer, template }, 200])),
  ...range(1, 6).map((row): Order => ['T1', { verb: 'row', layer: 1, row }, 200]),
  ...range(1, 6).map((n): Order => ['T1', { verb: 'run', function: n }, 200]),
  ...[1, 2].flatMap((layer): Order[] => [
    ['T1', { verb: 'take', layer }, 900],
    ['T1', { verb: 'out', layer }, 900],
  ]),
  ['G1', { verb: 'coil', n: 0, on: true }, 300],
  ['G1', { verb: 'coil', n: 0, on: false }, 200],
  ['G1', { verb: 'coil', n: 1, on: true }, 300],
  ['G1', { verb: 'coil', n: 1, on: false }, 300],
  ['G1', { verb: 'coil', n: 3, on: true }, 9000],
  ['G1', { verb: 'coil', n: 3, on: false }, 200],
  ['G1', { verb: 'coil', n: 4, on: true }, 600],
  ['G1', { verb: 'coil', n: 4, on: false }, 200],
  ['S1', { verb: 'text', row: 1, text: '1 LANE 4' }, 300],
  ['S1', { verb: 'text', row: 1, text: '1 LANE 2' }, 300],
  ['S1', { verb: 'show', on: false }, 1100],
  ['S1', { verb: 'show', on: true }, 1100],
  ['S1', { verb: 'clear' }, 300],
  ...screens.flatMap((tag): Order[] => [
    [tag, { verb: 'input', id: '32' }],
    [tag, { verb: 'mute', isBlank: true, isMuted: true }],
    [tag, { verb: 'freeze', on: true }],
    ...['fan', 'lamp', 'temperature'].map((part): Order => [tag, { verb: 'health', part, health: 'warning' }]),
  ]),
  ...range(1, 3).map((place): Order => ['K1', { verb: 'start', place }, 60]),
  ['K1', { verb: 'pause' }, 60],
  ['K1', { verb: 'message', text: 'Two minutes, please' }, 60],
  ['K1', { verb: 'message', text: 'Please come to an end' }, 60],
  ['K1', { verb: 'stop' }, 60],
  ...(['P1', 'P2'] as const).flatMap((tag): Order[] => {
    const call = (method: string, params: object = {}, waitMs = 60): Order => [
      tag,
      { verb: 'call', method, params },
      waitMs,
    ];
    return [
      ...[2, 3, 4, 1].map((board) => call('board.show', { board })),
      call('board.next', { board: 3 }),
      call('board.go', {}, 900),
      call('overlay', { overlay: 1, on: true }),
      call('feed.restart', { feed: 1 }),
      call('feed.reload', { feed: 3 }),
      call('record', { on: true }, 1200),
      call('effect.play', { name: 'Bell' }),
      call('channel.level', { channel: 1, db: -3 }),
      call('program.start', { program: 1 }, 1700),
      [tag, { verb: 'disk', freeGb: 80 }],
    ];
  }),
  ...[
    ...[2, 3, 1].map((deck) => ['deck', { deck }] as const),
    ...[1, 2].map((slide) => ['slide', { slide }] as const),
    ...[1, 2, 3].map((title) => ['title', { title, on: true }] as const),
    ...[1, 2, 3].map((picture) => ['picture', { picture, on: true }] as const),
    ['message', { text: 'Two minutes' }] as const,
    ['message', { text: 'Wait for the horn' }] as const,
    ...[1, 2, 3].map((arrangement) => ['arrangement', { arrangement }] as const),
    ...[2, 3, 4].map((set) => ['set', { set }] as const),
    ['play', { track: 1 }] as const,
    ['play', { track: 3 }] as const,
  ].map(([path, body]): Order => ['V1', { verb: 'call', path: `/api/${path}`, body }, 60]),
  ...['source=Control boat/Program&mode=full', 'source=Finish/Line', 'source=Office/Results'].flatMap(
    (what): Order[] => [
      // They are asked once a second.
      ...(['W1', 'W2', 'W3'] as const).map((tag): Order => [tag, { verb: 'set', query: `at=all&${what}` }, 1300]),
    ],
  ),
  ...range(0, 4).map((n): Order => ['H1', { verb: 'coil', n, on: true }]),
  ['H1', { verb: 'door', closed: false }],
  ['H1', { verb: 'bell', on: true }],
  ['H1', { verb: 'coil', n: 11, on: true }],
  ['H1', { verb: 'coil', n: 9, on: true }, 6500],
  ['B1', { verb: 'text', row: 1, text: 'RACING' }, 300],
  ['B1', { verb: 'text', row: 1, text: 'BREAK' }, 300],
  // They are asked every five seconds at the latest.
  ...screens.flatMap((tag): Order[] => [
    [tag, { verb: 'freeze', on: true }, 5500],
    [tag, { verb: 'turn', on: false }],
    [tag, { verb: 'health', part: 'fan', health: 'well' }, 3000],
    [tag, { verb: 'turn', on: true }],
  ]),
];

interface Panel {
  readonly client: TestClient;
  /** Every face that each control has shown. */
  readonly seen: Map<string, Set<string>>;
}

let rig: TestRig;
let panels: readonly [Panel, Panel];
let records: readonly ShowRecord[];
let controls: readonly ControlRecord[];
let operate: DemoRig['operate'];
let end: () => Promise<void>;

function documents() {
  const own = ownDocumentOf(records);
  const shelf = new DriverShelf();
  shelf.put(shippedDrivers);
  const byId = new Map(records.flatMap((record) => (record.kind === 'device' ? [[record.id, record.data]] : [])));
  return (id: string) => {
    if (id === ownId) return own;
    const data = byId.get(id);
    return data && shelf.for(data)?.document;
  };
}

async function openPanel(pages: readonly string[]): Promise<Panel> {
  const client = await TestClient.open(rig.url.replace('/live', '/live?as=panel'));
  const seen = new Map<string, Set<string>>();
  const note = (faces: Readonly<Record<string, FaceView>> | undefined) => {
    for (const [id, face] of Object.entries(faces ?? {}))
      seen.set(id, (seen.get(id) ?? new Set()).add(JSON.stringify(face)));
  };
  client.onMessage((message) => {
    if (message.t === 'whole' && message.topic.startsWith('page:')) note((message.data as PageView).faces);
    if (message.t === 'diff' && message.topic.startsWith('page:'))
      note((message.data as { faces?: { put?: Record<string, FaceView> } }).faces?.put);
  });
  for (const page of pages) await client.follow(`page:${page}`);
  return { client, seen };
}

const faceOn = ({ client }: Panel, { id, data }: ControlRecord): FaceView | undefined =>
  (client.topic(`page:${data.page}`) as PageView | undefined)?.faces[id];

function isInDoubt(face: FaceView | undefined): boolean {
  if (!face) return false;
  return (
    face.lamp.show === 'unknown' ||
    face.lamp.show === 'stale' ||
    face.segments.some(({ doubt }) => doubt) ||
    face.range?.doubt !== undefined ||
    face.shown?.doubt !== undefined ||
    (face.tiles ?? []).some(({ doubt }) => doubt) ||
    face.items?.length === 0 ||
    (face.items ?? []).some(({ doubt }) => doubt)
  );
}

/** Tells the program itself something; resolves when it is over. */
const tellOwn = (command: string, params: Readonly<Record<string, Scalar>> = {}): Promise<void> =>
  new Promise((resolve) => {
    const id = `own-${command}-${JSON.stringify(params)}`;
    rig.engine.api.presses.command(
      { id, device: ownDevice, command, params, gesture: 'tap', guard: true, who: 'test' },
      (report) => {
        if ('sends' in report) resolve();
      },
    );
  });

/** Every snapshot is called up; one is held on its way; a fader goes between two. */
async function glideAndHold(): Promise<void> {
  for (const record of records)
    if (record.kind === 'snapshot') await tellOwn('glideTo', { snapshot: record.data.number, ms: 200 });
  const held = tellOwn('glideTo', { snapshot: 1, ms: 3000 });
  await wait(150);
  await tellOwn('holdGlides', { on: true });
  await wait(250);
  await tellOwn('stopGlides');
  await held;
  await tellOwn('morph', { from: 1, to: 3, at: 40 });
}

/** Each variable takes another value, and each watch that a control switches is off for a while. */
async function setAndSwitch(): Promise<void> {
  for (const round of ['Semi-finals', 'Finals']) {
    await tellOwn('setRound', { value: round });
    await wait(50);
  }
  await tellOwn('stepRace');
  await tellOwn('switchPontoon');
  await tellOwn('switchWatch', { watch: 2, on: false });
  await wait(50);
  await tellOwn('switchWatch', { watch: 2, on: true });
}

beforeAll(async () => {
  [, end] = await runAsOne(async () => {
    ({ rig, records, operate } = await startDemoRig());
    controls = records.filter((record): record is ControlRecord => record.kind === 'control');
    const pages = records.flatMap((record) => (record.kind === 'page' ? [record.id] : []));
    panels = [await openPanel(pages), await openPanel(pages)];
  });
});
afterAll(() => end());

describe('every control of the demo show', () => {
  it('has a lamp or a live face, save the listed handful', () => {
    const documentOf = documents();
    const bare = controls
      .filter(({ data }) => !isLivePicture(data) && readingsOfFace(data, documentOf, presets()).length === 0)
      .map(({ id }) => id);
    expect(bare.sort()).toEqual(Object.keys(withoutFace).sort());
    expect(controls.length).toBeGreaterThan(150);
  });

  it('follows what is done at the devices by hand, on two panels alike', { timeout: paced(240_000) }, async () => {
    const atDevice = async (device: string, slower: number) => {
      for (const [tag, order, waitMs = 50] of byHand) {
        if (tag !== device) continue;
        await operate(tag, 'operate', order);
        await wait(slower * waitMs);
      }
    };
    // Hands at different devices do not wait for each other.
    await Promise.all([...new Set(byHand.map(([tag]) => tag))].map((tag) => atDevice(tag, 2)));
    const sent = [
      ...lights.map((each) => ['L1', ...each] as const),
      ...timers.map((each) => ['TM1', ...each] as const),
    ];
    for (const [tag, command, params] of sent) {
      const device = rig.engine.api.deviceByTag(tag);
      if (!device) throw new Error(`There is no ${tag}.`);
      const base = { id: `sent-${command}-${JSON.stringify(params)}`, device, gesture: 'tap' } as const;
      await new Promise<void>((resolve) =>
        rig.engine.api.presses.command({ ...base, command, params, guard: true, who: 'test' }, (report) => {
          if ('sends' in report) resolve();
        }),
      );
      await wait(250);
    }
    await glideAndHold();
    await setAndSwitch();
    const isStill = ({ id, data }: ControlRecord) =>
      !(id in withoutFace) &&
      !isClock(data) &&
      !isLivePicture(data) &&
      panels.some((panel) => (panel.seen.get(id)?.size ?? 0) < 2);
    const still = () => controls.filter(isStill);
    // What a busy computer has overlooked is done again, with more time for each.
    for (let slower = 10; slower < 100 && still().length > 0; slower *= 2) {
      const documentOf = documents();
      const devices = still().flatMap(({ data }) =>
        readingsOfFace(data, documentOf, presets()).map((ref) => ref.device),
      );
      const tags = new Set(devices.map((id) => tagOfId.get(id)));
      await Promise.all([...tags].map((tag) => atDevice(tag ?? '', slower)));
      await wait(1000);
    }
    expect(still().map(({ id }) => id)).toEqual([]);
    await until(
      () => controls.filter((control) => !sameFace(control)).map(({ id }) => id),
      (ids) => ids.length === 0,
      4000,
    );
  });

  it(
    'is in doubt on both while its device is cut off, and true again afterwards',
    { timeout: paced(240_000) },
    async () => {
      const documentOf = documents();
      for (const [id, tag] of tagOfId) {
        if (tag === 'M1') continue;
        // The zone of the pontoon drives the camera that is next.
        if (tag === 'C4') await operate('SW1', 'operate', { verb: 'ready', input: 4 });
        // Its tally is known from the switcher, whatever becomes of the device itself.
        const own = controls.filter(({ data }) =>
          readingsOfFace(data, documentOf, presets()).some(({ device, key }) => device === id && !isTallyKey(key)),
        );
        await operate(tag, 'power', { on: false });
        const sure = () =>
          own.filter((control) => !panels.every((panel) => isInDoubt(faceOn(panel, control)))).map((each) => each.id);
        await until(sure, (ids) => ids.length === 0, 20_000);
        await operate(tag, 'power', { on: true });
        const doubtful = () =>
          own.filter((control) => panels.some((panel) => isInDoubt(faceOn(panel, control)))).map((each) => each.id);
        await until(doubtful, (ids) => ids.length === 0, 20_000);
      }
      await until(
        () => controls.filter((control) => !sameFace(control)).map(({ id }) => id),
        (ids) => ids.length === 0,
        4000,
      );
    },
  );
});

/** A clock of the program itself changes by no hand. */
const isClock = ({ label }: ControlRecord['data']): boolean =>
  label.some((segment) => 'reading' in segment && segment.reading.device === ownId);

const sameFace = (control: ControlRecord): boolean =>
  JSON.stringify(faceOn(panels[0], control)) === JSON.stringify(faceOn(panels[1], control));
