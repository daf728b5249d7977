import type { ShowRecord } from '../../src/core/show';
import { shippedDrivers } from '../../src/drivers';
import type { PictureRelay, Prober } from '../../src/engine';
import type { PressResult } from '../../src/engine/presses/presses';
import {
  composerPassword,
  encoderPassword,
  encoderUser,
  screenPassword,
  startFleet,
  viewerPassword,
  viewerUser,
  type Fleet,
  type GatewayStandin,
  type StandinTag,
} from '../../src/standins';
import { onTestFinished, startRig, TestClient, until, type TestRig } from './rig';

/** The driver of each stand-in of the fleet. */
export const fleetDrivers: Readonly<Record<StandinTag, string>> = {
  SW1: 'vision-switcher',
  C1: 'ptz-camera',
  C2: 'ptz-camera',
  C3: 'ptz-camera',
  C4: 'ptz-camera-bare',
  E1: 'streaming-encoder',
  E2: 'streaming-encoder',
  R1: 'replay-deck',
  A1: 'audio-mixer',
  T1: 'title-machine',
  G1: 'relay-gateway',
  S1: 'results-board',
  M1: 'multiviewer',
  D1: 'screen-pjlink',
  D2: 'screen-pjlink',
  L1: 'lights-sacn',
  K1: 'clock-machine',
  P1: 'composer',
  P2: 'composer',
  V1: 'slides',
  W1: 'wall-viewer',
  W2: 'wall-viewer',
  W3: 'wall-viewer',
  H1: 'relay-box',
  B1: 'results-board',
};

/** By tag or by its first letter. */
const passwords: Readonly<Record<string, string>> = {
  E: encoderPassword,
  D: screenPassword,
  P: composerPassword,
  W2: viewerPassword,
};

/** Stand-ins on free ports with an engine that speaks to them; all of it ends with the test. */
export interface FleetRig {
  readonly fleet: Fleet;
  readonly rig: TestRig;
  /** A desk; another one can take its place after the engine was killed. */
  client: TestClient;
  /** The id of a device by its tag. */
  readonly id: (tag: string) => string;
  readonly send: (
    tag: string,
    command: string,
    params?: Readonly<Record<string, string | number | boolean>>,
  ) => Promise<PressResult>;
  readonly reading: (tag: string, key: string) => string | number | boolean | undefined;
  readonly link: (tag: string) => { readonly word: string; readonly cause?: string; readonly detail?: string };
  readonly linkIs: (tag: string, word: string, withinMs?: number) => Promise<void>;
  /** A stand-in's own state, over HTTP. */
  readonly state: (tag: string) => Promise<Record<string, never>>;
  /** A verb of a stand-in, over HTTP. */
  readonly operate: (tag: string, verb: string, body?: object) => Promise<void>;
}

export async function startFleetRig(
  tags: readonly StandinTag[],
  more: readonly ShowRecord[] = [],
  prober?: Prober,
  moreDrivers: typeof shippedDrivers = [],
  /** What is special to single devices. */
  special: Readonly<Partial<Record<StandinTag, object>>> = {},
  pictures?: PictureRelay,
): Promise<FleetRig> {
  const fleet = await startFleet({ host: '127.0.0.1', portBase: 0, only: tags });
  onTestFinished(() => fleet.stop());
  const id = (tag: string) => `dev-${tag}`;
  const portOf = (tag: StandinTag) =>
    tag === 'S1' ? (fleet.devices.get('G1') as GatewayStandin).serialPort : (fleet.devices.get(tag)?.port ?? 0);
  const devices = [...fleet.devices.keys()].map((tag): ShowRecord => ({
    kind: 'device',
    id: id(tag),
    version: 1,
    data: {
      tag,
      name: `The ${tag}`,
      role: 'gateway',
      driver: fleetDrivers[tag],
      host: tag === 'S1' ? '' : '127.0.0.1',
      port: portOf(tag),
      enabled: true,
      site: '',
      user: tag.startsWith('E') ? encoderUser : tag === 'W2' ? viewerUser : '',
      options: tag === 'W2' ? { signIn: 'on' } : {},
      ...special[tag],
      ...(tag === 'S1' ? { through: { device: id('G1'), port: 'serial' } } : {}),
    },
  }));
  const own = more.some(({ kind }) => kind === 'show');
  const show: ShowRecord = { kind: 'show', id: 'show', version: 1, data: { name: 'Fleet', note: '' } };
  const secrets = Object.fromEntries(
    tags.flatMap((tag) => {
      const password = passwords[tag.startsWith('W') ? tag : tag.slice(0, 1)];
      return password === undefined ? [] : [[id(tag), password]];
    }),
  );
  const rig = await startRig(
    [...(own ? [] : [show]), ...devices, ...more],
    [...shippedDrivers, ...moreDrivers],
    secrets,
    prober,
    undefined,
    pictures,
  );
  const client = await TestClient.open(rig.url);
  const pages = `http://127.0.0.1:${fleet.pagePort}`;
  const link = (tag: string) => {
    const found = rig.engine.api.health().links.find((each) => each.tag === tag)?.link;
    return found ?? { word: 'off' };
  };
  let sent = 0;
  return {
    fleet,
    rig,
    client,
    id,
    link,
    linkIs: async (tag, word, withinMs) => {
      await until(
        () => link(tag),
        (now) => now.word === word,
        withinMs,
      );
    },
    send: (tag, command, params = {}) =>
      new Promise((resolve, reject) => {
        const device = rig.engine.api.deviceByTag(tag);
        if (!device) return reject(new Error(`There is no ${tag}.`));
        const request = { id: `send-${(sent += 1)}-${Date.now()}`, device, command, params, guard: true } as const;
        rig.engine.api.presses.command({ ...request, gesture: 'tap', who: 'test' }, (report) => {
          if ('sends' in report) resolve(report);
        });
      }),
    reading: (tag, key) => {
      const found = rig.engine.api.readings(tag)?.readings.find((each) => each.key === key);
      return found?.freshness === 'fresh' ? found.value : undefined;
    },
    state: async (tag) => (await (await fetch(`${pages}/${tag.toLowerCase()}/state`)).json()) as Record<string, never>,
    operate: async (tag, verb, body = {}) => {
      const answer = await fetch(`${pages}/${tag.toLowerCase()}/${verb}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
      if (!answer.ok) throw new Error(await answer.text());
    },
  };
}
