import {
  usualLimits,
  type ControlRecord,
  type DeviceRecord,
  type Meaning,
  type PageRecord,
  type PanelRecord,
  type ShowRecord,
  type TieRecord,
} from '../src/core/show';
import { internalPlace } from '../src/core/net';
import { composerPassword } from '../src/standins/composer/server';
import { encoderPassword, encoderUser } from '../src/standins/encoder/server';
import { screenPassword } from '../src/standins/screen/server';
import { standinPorts, type StandinTag } from '../src/standins/fleet';
import { viewerPassword, viewerUser } from '../src/standins/viewer/server';
import { automation } from './automation';
import { clocksPage, ownTimers } from './clocks';
import { composersPage } from './composers';
import { demoMacros } from './macros';
import { pontoonPage } from './pontoon';
import { engineeringPage } from './engineering';
import { lightsPage } from './lights';
import { screensPage } from './screens';
import { demoSnapshots, layoutsPage } from './snapshots';
import { slidesPage } from './slides';
import { wallPage } from './wall';
import { cameraSteps, cameraWorkPage, demoPresets } from './cameras';
import { cameraPage, replayPage, soundPage, streamPage, titlePage } from './pages';

/**
 * The demo show: the Tidewick Regatta, a made-up day of rowing on a made-up estuary. All of it runs on the stand-ins.
 */

/** The ids of the devices, by tag. */
export const deviceIds: Readonly<Record<StandinTag, string>> = {
  SW1: 'dev-switcher',
  C1: 'dev-c1',
  C2: 'dev-c2',
  C3: 'dev-c3',
  C4: 'dev-c4',
  E1: 'dev-e1',
  E2: 'dev-e2',
  R1: 'dev-r1',
  A1: 'dev-a1',
  T1: 'dev-t1',
  G1: 'dev-g1',
  S1: 'dev-s1',
  M1: 'dev-m1',
  D1: 'dev-d1',
  D2: 'dev-d2',
  L1: 'dev-l1',
  K1: 'dev-k1',
  P1: 'dev-p1',
  P2: 'dev-p2',
  V1: 'dev-v1',
  W1: 'dev-w1',
  W2: 'dev-w2',
  W3: 'dev-w3',
  H1: 'dev-h1',
  B1: 'dev-b1',
};

/** The passwords of the stand-ins, by device. */
export const demoPasswords: ReadonlyMap<string, string> = new Map(
  Object.entries({
    E1: encoderPassword,
    E2: encoderPassword,
    D1: screenPassword,
    D2: screenPassword,
    P1: composerPassword,
    P2: composerPassword,
    W2: viewerPassword,
  }).map(([tag, password]) => [deviceIds[tag as StandinTag], password]),
);

interface Entry {
  readonly name: string;
  readonly role: string;
  readonly driver: string;
  readonly site: string;
}

const rig: Readonly<Record<StandinTag, Entry>> = {
  SW1: { name: 'Vision switcher', role: 'switcher', driver: 'vision-switcher', site: 'Control boat' },
  C1: { name: 'Start tower', role: 'camera', driver: 'ptz-camera', site: 'Start' },
  C2: { name: 'Mid-course', role: 'camera', driver: 'ptz-camera', site: 'Course' },
  C3: { name: 'Finish line', role: 'camera', driver: 'ptz-camera', site: 'Finish' },
  C4: { name: 'Pontoon', role: 'camera', driver: 'ptz-camera-bare', site: 'Pontoon' },
  E1: { name: 'Stream, main', role: 'encoder', driver: 'streaming-encoder', site: 'Control boat' },
  E2: { name: 'Stream, backup', role: 'encoder', driver: 'streaming-encoder', site: 'Club house' },
  R1: { name: 'Replays', role: 'playout', driver: 'replay-deck', site: 'Control boat' },
  A1: { name: 'Audio mixer', role: 'audio', driver: 'audio-mixer', site: 'Control boat' },
  T1: { name: 'Titles', role: 'titles', driver: 'title-machine', site: 'Control boat' },
  G1: { name: 'Start gateway', role: 'gateway', driver: 'relay-gateway', site: 'Start' },
  S1: { name: 'Results board', role: 'screen', driver: 'results-board', site: 'Start' },
  M1: { name: 'Multiviewer', role: 'tally', driver: 'multiviewer', site: 'Control boat' },
  D1: { name: 'Bank screen', role: 'screen', driver: 'screen-pjlink', site: 'Finish' },
  D2: { name: 'Club house screen', role: 'screen', driver: 'screen-pjlink', site: 'Club house' },
  L1: { name: 'Pontoon lights', role: 'lights', driver: 'lights-sacn', site: 'Pontoon' },
  K1: { name: 'Race office clocks', role: 'clock', driver: 'clock-machine', site: 'Club house' },
  P1: { name: 'Composer, launch', role: 'composer', driver: 'composer', site: 'Launch' },
  P2: { name: 'Composer, club', role: 'composer', driver: 'composer', site: 'Club house' },
  V1: { name: 'Slides and clips', role: 'slides', driver: 'slides', site: 'Club house' },
  W1: { name: 'Wall, foyer', role: 'viewer', driver: 'wall-viewer', site: 'Club house' },
  W2: { name: 'Wall, bar', role: 'viewer', driver: 'wall-viewer', site: 'Club house' },
  W3: { name: 'Wall, boat house', role: 'viewer', driver: 'wall-viewer', site: 'Club house' },
  H1: { name: 'House relays', role: 'relays', driver: 'relay-box', site: 'Club house' },
  B1: { name: 'Public board', role: 'screen', driver: 'results-board', site: 'Finish' },
};

/** The regatta is always today. */
function today(): string {
  const now = new Date();
  return [now.getFullYear(), now.getMonth() + 1, now.getDate()].map((part) => String(part).padStart(2, '0')).join('-');
}

/** The multiviewer shows the switcher's inputs in their order. */
const mosaic = Array.from({ length: 12 }, (_, n) => ({ number: n + 1, switcher: deviceIds.SW1, input: n + 1 }));

function device(tag: StandinTag, portBase: number): DeviceRecord {
  const behind = tag === 'S1';
  return {
    kind: 'device',
    id: deviceIds[tag],
    version: 1,
    data: {
      tag,
      ...rig[tag],
      host: behind ? '' : '127.0.0.1',
      port: portBase + standinPorts[tag],
      enabled: true,
      user: rig[tag].role === 'encoder' ? encoderUser : tag === 'W2' ? viewerUser : '',
      options: optionsOf(tag, portBase),
      ...(tag === 'M1' ? { displays: mosaic } : {}),
      ...(tag === 'C2' || tag === 'C3' ? { steering: longLens } : {}),
      ...(behind ? { through: { device: deviceIds.G1, port: 'serial' } } : {}),
    },
  };
}

/** A countdown without a clock machine: this program itself. */
const timersOfTheShow: DeviceRecord = {
  kind: 'device',
  id: 'dev-own',
  version: 1,
  data: {
    tag: 'TM1',
    name: 'Timers of the show',
    role: 'clock',
    driver: 'own-timers',
    site: 'Control boat',
    host: internalPlace,
    port: 1,
    enabled: true,
    user: '',
    options: {},
    timers: ownTimers,
  },
};

/** Cameras that look far pan slowly while they are zoomed in. */
const longLens: DeviceRecord['data']['steering'] = { head: { atFullZoom: 0.25 } };

/** The cameras' pictures are on the port of the stand-ins' pages. */
function optionsOf(tag: StandinTag, portBase: number): DeviceRecord['data']['options'] {
  if (tag === 'L1') return { begins: 'zeros' };
  if (tag === 'W2') return { signIn: 'on' };
  const [port, site] = [portBase + standinPorts.pages, `/${tag.toLowerCase()}`];
  if (tag === 'SW1')
    return {
      picturePort: port,
      programPath: `${site}/live?view=program`,
      previewPath: `${site}/live?view=preview`,
    };
  if (['M1', 'T1', 'E1', 'E2'].includes(tag)) return { picturePort: port, picturePath: `${site}/live` };
  if (rig[tag].role !== 'camera') return {};
  const names = { irisNames: cameraSteps.iris, shutterNames: cameraSteps.shutter, gainNames: cameraSteps.gain };
  return { stillPort: port, stillPath: `${site}/still`, streamPath: `${site}/live`, ...names };
}

/** All records of the demo show, its devices on the stand-ins' ports. */
export function demoShow(standinPortBase: number): ShowRecord[] {
  const show: ShowRecord = {
    kind: 'show',
    id: 'show',
    version: 1,
    data: {
      name: 'Tidewick Regatta',
      beginsAt: `${today()}T10:00`,
      // The stand-ins of all devices run on the same computer, whose load says nothing about the show.
      health: { ...usualLimits, off: ['load', 'held-up', 'memory'] },
      drills: [
        {
          id: 'drill-morning',
          name: 'Race morning',
          steps: [
            { fault: 'off', subject: deviceIds.C2, afterSeconds: 5 },
            { fault: 'password', subject: deviceIds.E1, afterSeconds: 30 },
            { fault: 'slow', subject: deviceIds.R1, afterSeconds: 60 },
          ],
        },
      ],
      note: 'One day of rowing on the Tidewick estuary. Six lanes, two streams, one bank screen.',
    },
  };
  const devices = (Object.keys(rig) as StandinTag[]).map((tag) => device(tag, standinPortBase));
  return [
    show,
    ...devices,
    timersOfTheShow,
    ...ties(),
    ...racePage(),
    ...cameraPage(),
    ...demoPresets(),
    ...replayPage(),
    ...titlePage(),
    ...streamPage(),
    ...soundPage(),
    ...pontoonPage(),
    ...cameraWorkPage(devices),
    ...layoutsPage(),
    ...engineeringPage(),
    ...screensPage(),
    ...lightsPage(),
    ...clocksPage(),
    ...slidesPage(),
    ...composersPage(),
    ...wallPage(),
    ...panels(),
    ...demoMacros(),
    ...demoSnapshots(),
    ...automation(),
  ];
}

/** Which device feeds which input of the switcher, by the inputs' names at its start. */
const fed: Partial<Readonly<Record<StandinTag, number>>> = { C1: 1, C2: 2, C3: 3, C4: 4, R1: 7, T1: 8 };

function ties(): TieRecord[] {
  return Object.entries(fed).map(([tag, input]) => ({
    kind: 'tie',
    id: `tie-${input}`,
    version: 1,
    data: { switcher: deviceIds.SW1, input, source: deviceIds[tag as StandinTag] },
  }));
}

/** Who has which pages in hand. Whoever is at the cameras does not start streams; the sound has no use for the rest. */
function panels(): PanelRecord[] {
  const panel = (
    order: number,
    name: string,
    path: string,
    pages: string[],
    more: Partial<PanelRecord['data']> = {},
  ): PanelRecord => ({
    kind: 'panel',
    id: `pan-${path}`,
    version: 1,
    data: { name, path, order, pages, hidden: [], brightness: 100, ...more },
  });
  return [
    panel(1, 'Director', 'director', ['page-race', 'page-pontoon', 'page-layouts', 'page-replays', 'page-streams']),
    panel(2, 'Cameras', 'cameras', ['page-work', 'page-cameras', 'page-pontoon'], {
      brightness: 70,
      hidden: [1, 2, 3, 4].map((row) => `ctl-cameras-${row}-9`),
    }),
    panel(3, 'Sound', 'sound', ['page-sound']),
    panel(4, 'Start tower', 'start', ['page-engineering', 'page-race']),
    panel(5, 'Graphics', 'graphics', ['page-titles', 'page-slides']),
    panel(6, 'Replay', 'replay', ['page-replays']),
    panel(7, 'Stage manager', 'stage', ['page-clocks', 'page-slides']),
  ];
}

const race = 'page-race';
const inputs = [1, 2, 3, 4, 5, 6];

function racePage(): ShowRecord[] {
  const page: PageRecord = {
    kind: 'page',
    id: race,
    version: 1,
    data: {
      name: 'Race',
      order: 1,
      columns: 7,
      rows: 2,
      legend: { lagoon: 'Camera' },
      note: 'Set the next picture below, then cut or auto. The upper row goes to air at once.',
      zones: [
        { id: 'zone-program', title: 'Straight to program', col: 0, row: 0, cols: 6, rows: 1 },
        { id: 'zone-preview', title: 'Set up on preview', col: 0, row: 1, cols: 6, rows: 1 },
        { id: 'zone-change', title: 'Change over', col: 6, row: 0, cols: 1, rows: 2 },
      ],
    },
  };
  return [
    page,
    ...inputs.map((input) => sourceButton('program', input, 0)),
    ...inputs.map((input) => sourceButton('preview', input, 1)),
    changeButton('cut', 'Cut', 0),
    changeButton('auto', 'Auto', 1, { key: 'mixing', show: 'active', word: 'MIXING' }),
  ];
}

function sourceButton(bus: 'program' | 'preview', input: number, row: number): ControlRecord {
  const onProgram = bus === 'program';
  const reading = { device: deviceIds.SW1, key: bus };
  return {
    kind: 'control',
    id: `ctl-${bus}-${input}`,
    version: 1,
    data: {
      page: race,
      type: 'button',
      col: input - 1,
      row,
      cols: 1,
      rows: 1,
      // The drone and the launch are fixed inputs; the others are cameras of the rig.
      ...(input <= 4 ? { tint: 'lagoon' as const } : {}),
      label: [{ reading: { device: deviceIds.SW1, key: 'input[$input].name' } }],
      values: { input },
      responses: {
        tap: [{ device: deviceIds.SW1, command: onProgram ? 'take' : 'ready', params: { input: { value: 'input' } } }],
      },
      lamps: [{ when: { op: 'equals', reading, to: { value: 'input' } }, show: onProgram ? 'onAir' : 'next' }],
    },
  };
}

function changeButton(
  command: string,
  label: string,
  row: number,
  lamp?: { readonly key: string; readonly show: Meaning; readonly word: string },
): ControlRecord {
  const reading = { device: deviceIds.SW1, key: lamp?.key ?? '' };
  return {
    kind: 'control',
    id: `ctl-${command}`,
    version: 1,
    data: {
      page: race,
      type: 'button',
      col: 6,
      row,
      cols: 1,
      rows: 1,
      icon: command === 'cut' ? 'cut' : 'mix',
      label: [{ text: label }],
      values: {},
      responses: { tap: [{ device: deviceIds.SW1, command, params: {} }] },
      lamps: lamp ? [{ when: { op: 'equals', reading, to: true }, show: lamp.show, word: lamp.word }] : [],
    },
  };
}
