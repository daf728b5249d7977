import type { AddressInfo } from 'node:net';
import { BoardStandin, NetworkBoardStandin } from './board/server';
import { regattaCamera } from './camera/regatta';
import { TcpCamera, UdpCamera } from './camera/server';
import { ClockStandin } from './clock/server';
import { club, launch } from './composer/place';
import { ComposerStandin } from './composer/server';
import { DeckStandin } from './deck/server';
import { EncoderStandin } from './encoder/server';
import { SerialLine } from './gateway/serial-line';
import { GatewayStandin } from './gateway/server';
import { HouseSync, serveSites, type Standin } from './kit';
import { LightsStandin } from './lights/server';
import { MixerStandin } from './mixer/server';
import { MultiviewerStandin } from './multiviewer/server';
import { RelaysStandin } from './relays/server';
import { ScreenStandin } from './screen/server';
import { SlidesStandin } from './slides/server';
import { SwitcherStandin } from './switcher/server';
import { TitlesStandin } from './titles/server';
import { walls } from './viewer/place';
import { ViewerStandin } from './viewer/server';

/** Ports of the stand-ins, counted from the base. S1 has none of its own: it hangs on G1's serial port. */
export const standinPorts = {
  pages: 0,
  SW1: 1,
  C1: 2,
  C2: 3,
  C3: 4,
  C4: 5,
  E1: 6,
  E2: 7,
  R1: 8,
  A1: 9,
  T1: 10,
  G1: 11,
  S1: 12,
  M1: 13,
  D1: 14,
  D2: 15,
  L1: 16,
  K1: 17,
  P1: 18,
  P2: 19,
  V1: 20,
  W1: 21,
  W2: 22,
  W3: 23,
  H1: 24,
  B1: 25,
} as const;

export type StandinTag = Exclude<keyof typeof standinPorts, 'pages'>;
export const standinTags = Object.keys(standinPorts).filter((tag) => tag !== 'pages') as StandinTag[];

interface FleetOptions {
  readonly host: string;
  /** The pages are on this port, each device on the one after its place; 0 picks free ports. */
  readonly portBase: number;
  /** Only these; all where left out. S1 brings G1 with it. */
  readonly only?: readonly StandinTag[];
  /** Ports of single ones that differ from the base. */
  readonly ports?: Readonly<Partial<Record<StandinTag, number>>>;
}

export interface Fleet {
  readonly devices: ReadonlyMap<StandinTag, Standin>;
  /** The port of the pages. */
  readonly pagePort: number;
  readonly stop: () => Promise<void>;
}

/** Starts stand-ins on one house sync, with their pages. */
export async function startFleet({ host, portBase, only = standinTags, ports = {} }: FleetOptions): Promise<Fleet> {
  const sync = new HouseSync(25);
  const line = new SerialLine(9600);
  const at = (tag: keyof typeof standinPorts) =>
    (tag === 'pages' ? undefined : ports[tag]) ?? (portBase === 0 ? 0 : portBase + standinPorts[tag]);
  const wanted = new Set<StandinTag>(only.includes('S1') ? [...only, 'G1'] : only);
  const devices = new Map<StandinTag, Standin>();
  for (const tag of standinTags) if (wanted.has(tag)) devices.set(tag, make(tag));

  function make(tag: StandinTag): Standin {
    const options = { tag, sync, host, port: at(tag) };
    switch (tag) {
      case 'SW1':
        return new SwitcherStandin(options);
      case 'C1':
      case 'C2':
      case 'C3':
      case 'C4': {
        const camera = { ...options, ...regattaCamera(tag) };
        return tag === 'C4' ? new TcpCamera(camera) : new UdpCamera(camera);
      }
      case 'E1':
        return new EncoderStandin({ ...options, destination: 'srt://ingest.tidewick.example:9000/main' });
      case 'E2':
        return new EncoderStandin({ ...options, destination: 'srt://ingest.tidewick.example:9000/backup' });
      case 'R1':
        return new DeckStandin(options);
      case 'A1':
        return new MixerStandin(options);
      case 'T1':
        return new TitlesStandin(options);
      case 'M1':
        return new MultiviewerStandin(options);
      case 'G1':
        return new GatewayStandin({ ...options, serialPort: at('S1'), line });
      case 'D1':
        return new ScreenStandin({ ...options, name: 'Bank screen', class: 1, isOn: true });
      case 'D2':
        return new ScreenStandin({ ...options, name: 'Club house', class: 2, isOn: true });
      case 'L1':
        return new LightsStandin({ ...options, universe: 1 });
      case 'K1':
        return new ClockStandin(options);
      case 'P1':
        return new ComposerStandin({ ...options, place: launch });
      case 'P2':
        return new ComposerStandin({ ...options, place: club });
      case 'V1':
        return new SlidesStandin(options);
      case 'W1':
      case 'W2':
      case 'W3':
        return new ViewerStandin({ ...options, ...walls[tag] });
      case 'H1':
        return new RelaysStandin(options);
      case 'B1':
        return new NetworkBoardStandin(options);
      case 'S1':
        return new BoardStandin({ ...options, line });
    }
  }

  const stop = async () => {
    sync.stop();
    for (const device of devices.values()) await device.stop();
  };
  try {
    for (const device of devices.values()) await device.setPower(true);
    const http = await serveSites([...devices.values()], host, at('pages'));
    return {
      devices,
      pagePort: (http.address() as AddressInfo).port,
      stop: async () => {
        await stop();
        http.closeAllConnections();
        await new Promise<void>((resolve) => void http.close(() => resolve()));
      },
    };
  } catch (error) {
    await stop();
    throw error;
  }
}
