import { createServer, type AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { contractOf } from '../src/core/driver';
import type { PageView } from '../src/core/live';
import { contextKey } from '../src/core/page';
import type { Condition, ShowRecord } from '../src/core/show';
import { shippedDrivers } from '../src/drivers';
import { OnvifCamera, onvifPassword, onvifUser } from '../src/standins/camera/onvif-camera';
import { CameraModel } from '../src/standins/camera/model';
import { TcpCamera, UdpCamera } from '../src/standins/camera/server';
import { HouseSync } from '../src/standins/kit';
import { controlRecord, deviceRecord, pageRecord } from './support/records';
import { onTestFinished, runAsOne, startRig, TestClient, until, type TestRig } from './support/rig';
import { paced } from './support/pace';

/**
 * What every camera driver owes under the names of the contract. One page is made for a VISCA camera; through its pick the same controls
 * drive cameras of other protocols and of a make that nobody has heard of. Each press has to end well, and the lamp beside it has to say so
 * from what that camera itself reports.
 */

type Params = Readonly<Record<string, string | number | boolean>>;
type Sample = readonly [id: string, command: string, params: Params, shows?: readonly [reading: string, ...unknown[]]];

/** In this order, for some settings are only taken in a state that another one makes. */
const samples: readonly Sample[] = [
  ['power', 'power', { on: true }, ['power', true]],
  ['place', 'moveTo', { pan: 20, tilt: 5 }, ['pan', 19.5, 20.5]],
  ['by', 'moveBy', { pan: -5, tilt: 0 }, ['pan', 14.5, 15.5]],
  ['store', 'store', { preset: 7 }],
  ['home', 'home', {}, ['pan', -0.5, 0.5]],
  ['recall', 'recall', { preset: 7 }],
  ['forget', 'forget', { preset: 7 }],
  ['zoom', 'zoomTo', { zoom: 40 }, ['zoom', 39, 41]],
  ['manual focus', 'autoFocus', { on: false }, ['autoFocus', false]],
  ['focus', 'focusTo', { focus: 50 }, ['focus', 49, 51]],
  ['focus once', 'focusOnce', {}],
  ['auto focus', 'autoFocus', { on: true }, ['autoFocus', true]],
  ['bright mode', 'exposure', { mode: 'bright' }, ['exposure', 'bright']],
  ['bright', 'bright', { step: 20 }, ['bright', 20]],
  ['manual exposure', 'exposure', { mode: 'manual' }, ['exposure', 'manual']],
  ['iris', 'iris', { step: 17 }, ['iris', 17]],
  ['shutter', 'shutter', { step: 10 }, ['shutter', 10]],
  ['gain', 'gain', { step: 15 }, ['gain', 15]],
  ['compensates', 'exposureCompensation', { on: true }, ['exposureCompensation', true]],
  ['compensation', 'exposureCompensationTo', { step: 9 }, ['exposureCompensationStep', 9]],
  ['backlight', 'backlight', { on: true }, ['backlight', true]],
  ['one push', 'whiteBalance', { mode: 'onePush' }, ['whiteBalance', 'onePush']],
  ['white once', 'whiteBalanceOnce', {}],
  ['manual white', 'whiteBalance', { mode: 'manual' }, ['whiteBalance', 'manual']],
  ['red', 'redGain', { step: 255 }, ['redGain', 255]],
  ['blue', 'blueGain', { step: 0 }, ['blueGain', 0]],
  ['sharpness', 'sharpness', { step: 15 }, ['sharpness', 15]],
  ['noise', 'noiseReduction', { step: 3 }, ['noiseReduction', 3]],
  ['flip', 'flip', { on: true }, ['flip', true]],
  ['mirror', 'mirror', { on: true }, ['mirror', true]],
  ['freeze', 'freeze', { on: true }, ['freeze', true]],
  ['melt', 'freeze', { on: false }, ['freeze', false]],
  ['grey', 'blackAndWhite', { on: true }, ['blackAndWhite', true]],
  ['tally', 'tally', { on: true }, ['tally', true]],
  ['menu', 'menu', { on: true }, ['menu', true]],
  ['enter', 'menuEnter', {}],
  ['back', 'menuBack', {}],
  ['menu off', 'menu', { on: false }, ['menu', false]],
];
const drives = {
  head: ['move', 'stopMoving'],
  zoom: ['zoomIn', 'zoomOut', 'stopZoom'],
  focus: ['focusNear', 'focusFar', 'stopFocus'],
};

/** A camera of no known make: lines of text, names and ranges of its own. */
const reedDriver = {
  format: 1,
  id: 'reed-camera',
  version: 1,
  title: 'Reed camera',
  role: 'camera',
  link: { kind: 'tcp', port: 7000 },
  framing: { kind: 'lines', ending: 'lf' },
  commands: {
    look: {
      title: 'Look',
      says: 'Look at {across}, {up}',
      params: {
        across: { title: 'Across', value: { type: 'decimal', min: -170, max: 170, decimals: 1, unit: '°' } },
        up: { title: 'Up', value: { type: 'decimal', min: -30, max: 90, decimals: 1, unit: '°' } },
      },
      send: 'LOOK {across} {up}',
      confirm: {
        by: 'readings',
        all: [{ reading: 'across', equals: { param: 'across' }, within: 0.2 }],
        withinMs: 20_000,
      },
    },
    go: {
      title: 'Go',
      says: 'Go {way}',
      params: {
        way: {
          title: 'Way',
          value: {
            type: 'choice',
            choices: ['left', 'right', 'up', 'down', 'upLeft', 'upRight', 'downLeft', 'downRight'].map((value) => ({
              value,
              title: value,
            })),
          },
        },
        fast: { title: 'Across', value: { type: 'whole', min: 0, max: 100 }, default: 50 },
        steep: { title: 'Along', value: { type: 'whole', min: 0, max: 100 }, default: 50 },
      },
      send: 'GO {way} {fast} {steep}',
      class: 'urgent',
      stop: { command: 'rest' },
    },
    rest: { title: 'Rest', says: 'Rest', send: 'REST', class: 'stop' },
    keep: {
      title: 'Keep',
      says: 'Keep {place}',
      params: { place: { title: 'Place', value: { type: 'whole', min: 1, max: 12 } } },
      send: 'KEEP {place}',
      risky: true,
    },
    visit: {
      title: 'Visit',
      says: 'Visit {place}',
      params: { place: { title: 'Place', value: { type: 'whole', min: 1, max: 12 } } },
      send: 'VISIT {place}',
    },
    open: {
      title: 'Opening',
      says: 'Open to {part}',
      params: { part: { title: 'Part', value: { type: 'whole', min: 0, max: 100, unit: '%' } } },
      send: 'OPEN {part}',
      confirm: { by: 'readings', all: [{ reading: 'opening', equals: { param: 'part' } }], withinMs: 2000 },
    },
    white: {
      title: 'White',
      says: 'White {how}',
      params: {
        how: {
          title: 'How',
          value: {
            type: 'choice',
            choices: [
              { value: 'auto', title: 'by itself', wire: 'SELF' },
              { value: 'manual', title: 'by hand', wire: 'HAND' },
            ],
          },
        },
      },
      send: 'WHITE {how}',
      confirm: { by: 'readings', all: [{ reading: 'how', equals: { param: 'how' } }], withinMs: 2000 },
    },
  },
  readings: {
    across: { title: 'Across', value: { type: 'decimal', min: -170, max: 170, decimals: 1, unit: '°' } },
    opening: { title: 'Opening', value: { type: 'whole', min: 0, max: 100, unit: '%' } },
    how: {
      title: 'White',
      value: {
        type: 'choice',
        choices: [
          { value: 'auto', title: 'by itself', wire: 'SELF' },
          { value: 'manual', title: 'by hand', wire: 'HAND' },
        ],
      },
    },
  },
  replies: [{ match: '^AT (?P<a>\\S+) (?P<o>\\S+) (?P<h>\\S+)$', set: { across: '{a}', opening: '{o}', how: '{h}' } }],
  drives: { arm: { title: 'Arm', command: 'go', direction: 'way', x: 'fast', y: 'steep' } },
  contract: {
    commands: {
      moveTo: { command: 'look', params: { pan: 'across', tilt: 'up' } },
      move: { command: 'go', params: { direction: 'way', panSpeed: 'fast', tiltSpeed: 'steep' } },
      stopMoving: { command: 'rest', params: {} },
      store: { command: 'keep', params: { preset: 'place' } },
      recall: { command: 'visit', params: { preset: 'place' } },
      iris: { command: 'open', params: { step: 'part' } },
      whiteBalance: { command: 'white', params: { mode: 'how' } },
    },
    readings: { pan: 'across', iris: 'opening', whiteBalance: 'how' },
    drives: { head: 'arm' },
  },
};

const startAt = { pan: 0, tilt: 0, zoom: 0, focus: 0x0800 };

interface End {
  readonly port: number;
  readonly state: () => CameraModel['state'];
}

/** The camera of no known make. */
async function startReed(sync: HouseSync): Promise<End> {
  const tellers = new Set<() => void>();
  const model = new CameraModel(startAt, () => tellers.forEach((tell) => tell()));
  model.set({ iris: 5 });
  sync.onFrame(() => model.frame());
  const server = createServer((socket) => {
    const hows = { auto: 'SELF', manual: 'HAND' } as Readonly<Record<string, string>>;
    const tell = () => {
      const { pan, iris, whiteBalance } = model.state;
      socket.write(`AT ${pan.toFixed(1)} ${Math.round((iris / 17) * 100)} ${hows[whiteBalance] ?? 'SELF'}\n`);
    };
    tellers.add(tell);
    socket.on('close', () => tellers.delete(tell));
    socket.on('error', () => undefined);
    tell();
    let rest = '';
    socket.on('data', (chunk) => {
      const lines = (rest + String(chunk)).split('\n');
      rest = lines.pop() ?? '';
      for (const line of lines) take(line.split(' '));
    });
  });
  const ways: Readonly<Record<string, readonly [number, number]>> = {
    left: [-1, 0],
    right: [1, 0],
    up: [0, 1],
    down: [0, -1],
  };
  function take([verb = '', ...words]: string[]): void {
    const [one = 0, two = 0] = words.map(Number);
    if (verb === 'LOOK') model.goTo({ pan: one, tilt: two }, 24, () => undefined);
    else if (verb === 'GO') {
      const [x, y] = ways[words[0] ?? ''] ?? [0, 0];
      model.move({ panSpeed: (x * Number(words[1])) / 4, tiltSpeed: (y * Number(words[2])) / 5 });
    } else if (verb === 'REST') model.move({ panSpeed: 0, tiltSpeed: 0 });
    else if (verb === 'KEEP') model.store(one);
    else if (verb === 'VISIT') model.goTo(model.state.presets[one] ?? {}, 24, () => undefined);
    else if (verb === 'OPEN') model.set({ iris: Math.round((one / 100) * 17) });
    else if (verb === 'WHITE') model.set({ whiteBalance: words[0] === 'HAND' ? 'manual' : 'auto' });
  }
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  onTestFinished(() => void server.close());
  return { port: (server.address() as AddressInfo).port, state: () => model.state };
}

const allBut = (...has: string[]) => samples.map(([id]) => id).filter((id) => !has.includes(id));

/** What each end lacks of the contract, and what it does without saying so; everything else has to work and to light its lamp. */
const ends = {
  VISCA: { driver: 'ptz-camera', lacks: [], silent: [] },
  TCP: { driver: 'ptz-camera-bare', lacks: [], silent: [] },
  UDP: { driver: 'ptz-camera-udp', lacks: [], silent: [] },
  ONVIF: {
    driver: 'ptz-camera-onvif',
    // It counts pan and tilt in parts of their way, not in degrees, and the focus in no unit.
    lacks: [
      'power',
      'place',
      'by',
      'focus',
      'focus once',
      'bright mode',
      'bright',
      'compensates',
      'compensation',
      'one push',
      'white once',
      'noise',
      'flip',
      'mirror',
      'freeze',
      'melt',
      'grey',
      'tally',
      'menu',
      'enter',
      'back',
      'menu off',
    ],
    silent: ['home'],
  },
  REED: {
    driver: 'reed-camera',
    lacks: allBut('place', 'store', 'recall', 'iris', 'manual white'),
    silent: [],
  },
} as const satisfies Readonly<Record<string, { driver: string; lacks: readonly string[]; silent: readonly string[] }>>;
type Tag = keyof typeof ends;
const tags = Object.keys(ends) as Tag[];

const lampOf = ([reading, from, to]: NonNullable<Sample[3]>): Condition => {
  const ref = { device: 'dev-VISCA', key: reading };
  return to === undefined
    ? { op: 'equals', reading: ref, to: from as never }
    : { op: 'within', reading: ref, from: from as number, to: to as number };
};

const page = (): ShowRecord[] => [
  { kind: 'show', id: 'show', version: 1, data: { name: 'Mixed', note: '' } },
  pageRecord('page', 'Cameras', {
    columns: 12,
    rows: 6,
    zones: [
      {
        id: 'zone',
        title: 'Camera',
        col: 0,
        row: 0,
        cols: 12,
        rows: 6,
        pick: { devices: tags.map((tag) => `dev-${tag}`) },
      },
    ],
  }),
  ...samples.map(([id, command, params, shows], n) =>
    controlRecord(idOf(id), {
      col: n % 12,
      row: Math.floor(n / 12),
      responses: { tap: [{ device: 'dev-VISCA', command, params }] },
      lamps: shows ? [{ when: lampOf(shows), show: 'active' }] : [],
    }),
  ),
  ...Object.keys(drives).map((drive, n) =>
    controlRecord(idOf(`drive ${drive}`), { col: n, row: 5, type: 'stick', drive: { device: 'dev-VISCA', drive } }),
  ),
];
const idOf = (name: string) => `ctl-${name.replaceAll(' ', '-')}`;

let rig: TestRig;
let end: () => Promise<void>;
const cameras = new Map<Tag, End>();

beforeAll(async () => {
  [, end] = await runAsOne(async () => {
    const sync = new HouseSync(25);
    const at = (tag: string) => ({ tag, sync, host: '127.0.0.1', port: 0, scene: 'Tower', startAt });
    const shipped = {
      VISCA: new UdpCamera(at('VISCA')),
      UDP: new UdpCamera(at('UDP'), false),
      TCP: new TcpCamera(at('TCP')),
      ONVIF: new OnvifCamera(at('ONVIF')),
    };
    onTestFinished(async () => {
      sync.stop();
      for (const standin of Object.values(shipped)) await standin.stop();
    });
    for (const tag of ['VISCA', 'UDP', 'TCP', 'ONVIF'] as const) {
      await shipped[tag].setPower(true);
      cameras.set(tag, { port: shipped[tag].port, state: () => shipped[tag].state() as CameraModel['state'] });
    }
    cameras.set('REED', await startReed(sync));
    const devices = tags.map((tag) =>
      deviceRecord(tag, {
        role: 'camera',
        driver: ends[tag].driver,
        host: '127.0.0.1',
        port: cameras.get(tag)?.port ?? 0,
        user: tag === 'ONVIF' ? onvifUser : '',
      }),
    );
    rig = await startRig([...page(), ...devices], [...shippedDrivers, reedDriver], { 'dev-ONVIF': onvifPassword });
  });
});
afterAll(() => end());

it('tries everything that the contract has', () => {
  const tried = [...samples.map(([, command]) => command), ...Object.values(drives).flat()];
  expect(Object.keys(contractOf('camera')?.commands ?? {}).filter((command) => !tried.includes(command))).toEqual([]);
});

describe.each(tags)('a camera over %s', (tag) => {
  const context = contextKey('page', { shift: undefined, picks: { zone: `dev-${tag}` } });
  const state = () => cameras.get(tag)?.state();

  const press = (client: TestClient, name: string) => {
    const id = `${tag}-${name.replaceAll(' ', '-')}-${Date.now()}`;
    client.say({ t: 'press', id, page: 'page', control: idOf(name), context, gesture: 'tap', guard: true });
    return client.outcome(id);
  };

  it('does what its driver offers, and says so itself', { timeout: paced(120_000) }, async () => {
    const client = await TestClient.open(rig.url);
    const word = () => rig.engine.api.health().links.find((each) => each.tag === tag)?.link.word;
    await until(word, (now) => now === 'up' || now === 'not checked');
    await client.follow<PageView>(`page:${context}`);
    const face = (id: string) => (client.topic(`page:${context}`) as PageView).faces[idOf(id)];
    const [lacking, silent, wrong]: string[][] = [[], [], []];
    for (const [id, , , shows] of samples) {
      if (face(id)?.barred) {
        lacking?.push(id);
        continue;
      }
      const { outcome, reason } = await press(client, id).catch(() => ({ outcome: 'none', reason: undefined }));
      // The same number is the same angle, whatever the protocol counts in.
      if (id === 'place') expect(state()?.pan).toBeCloseTo(20, 0);
      const lamp = () => face(id)?.lamp.show;
      const isLit = shows
        ? await until(lamp, (now) => now === 'active', 4000).then(
            () => true,
            () => false,
          )
        : undefined;
      // On a busy computer a report may come late; then the lamp says it all the same.
      const isDone = outcome === 'confirmed' || outcome === 'sent' || (outcome === 'late' && isLit === true);
      if (!isDone) wrong?.push(`${id}: ${outcome}, ${reason ?? ''}`);
      if (isLit === false && lamp() === 'unknown') silent?.push(id);
      else if (isLit === false) wrong?.push(`${id}: its lamp is ${lamp() ?? 'gone'}`);
    }
    expect(wrong).toEqual([]);
    expect({ lacks: lacking, silent }).toEqual({ lacks: ends[tag].lacks, silent: ends[tag].silent });
  });

  it.each(Object.keys(drives))('is driven by %s, and stops when the hand lets go', async (drive) => {
    const client = await TestClient.open(rig.url);
    await client.follow<PageView>(`page:${context}`);
    const view = (client.topic(`page:${context}`) as PageView).faces[idOf(`drive ${drive}`)];
    if (view?.barred) return expect(tag).toBe('REED');
    if (drive === 'focus') await press(client, 'manual focus');
    const id = `${tag}-${drive}-${Date.now()}`;
    client.say({ t: 'turn', id, page: 'page', control: idOf(`drive ${drive}`), context, x: 0, y: 1 });
    await until(() => state()?.moving, Boolean);
    client.say({ t: 'release', id });
    await until(
      () => state()?.moving,
      (moving) => !moving,
    );
  });
});
