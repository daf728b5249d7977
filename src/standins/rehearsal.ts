import type { AddressInfo } from 'node:net';
import type { Server } from 'node:http';
import { BoardStandin, NetworkBoardStandin } from './board/server';
import { OnvifCamera, onvifPassword, onvifUser } from './camera/onvif-camera';
import { TcpCamera, UdpCamera } from './camera/server';
import { ClockStandin } from './clock/server';
import { club, launch } from './composer/place';
import { composerPassword, ComposerStandin } from './composer/server';
import { DeckStandin } from './deck/server';
import { encoderPassword, EncoderStandin, encoderUser } from './encoder/server';
import { SerialLine } from './gateway/serial-line';
import { GatewayStandin } from './gateway/server';
import { HouseSync, serveSites, type Standin, type StandinOptions } from './kit';
import { LightsStandin } from './lights/server';
import { MixerStandin } from './mixer/server';
import { MultiviewerStandin } from './multiviewer/server';
import { RelaysStandin } from './relays/server';
import { screenPassword, ScreenStandin } from './screen/server';
import { SlidesStandin } from './slides/server';
import { SwitcherStandin } from './switcher/server';
import { TitlesStandin } from './titles/server';
import { walls } from './viewer/place';
import { ViewerStandin } from './viewer/server';

/** A device of a rig that is to be stood in for. */
interface RehearsedDevice {
  readonly id: string;
  readonly tag: string;
  readonly name: string;
  /** The id of its driver: which of the stand-ins speaks as it does. */
  readonly driver: string;
  /** The gateway behind which it is. */
  readonly through?: string;
}

/** Where the stand-in of a device is, and what it wants to be called with. */
interface RehearsedPlace {
  readonly host: string;
  readonly port: number;
  readonly user: string;
  readonly password: string;
  readonly options: Readonly<Record<string, string | number>>;
}

const baud = 9600;
const host = '127.0.0.1';

type Make = (options: StandinOptions, device: RehearsedDevice, line: SerialLine) => Standin;

const cameraAt = (options: StandinOptions, { name }: RehearsedDevice) => ({
  ...options,
  scene: name,
  startAt: { pan: 0, tilt: 0, zoom: 3000, focus: 0x0800 },
});

/** Which stand-in speaks as a driver expects it. */
const makers: Readonly<Record<string, Make>> = {
  'vision-switcher': (options) => new SwitcherStandin(options),
  'ptz-camera': (options, device) => new UdpCamera(cameraAt(options, device)),
  'ptz-camera-udp': (options, device) => new UdpCamera(cameraAt(options, device), false),
  'ptz-camera-bare': (options, device) => new TcpCamera(cameraAt(options, device)),
  'ptz-camera-onvif': (options, device) => new OnvifCamera(cameraAt(options, device)),
  'streaming-encoder': (options) =>
    new EncoderStandin({ ...options, destination: 'srt://rehearsal.example:9000/none' }),
  'replay-deck': (options) => new DeckStandin(options),
  'audio-mixer': (options) => new MixerStandin(options),
  'title-machine': (options) => new TitlesStandin(options),
  multiviewer: (options) => new MultiviewerStandin(options),
  'relay-gateway': (options, _device, line) => new GatewayStandin({ ...options, serialPort: 0, line }),
  'screen-pjlink': (options, { name }) => new ScreenStandin({ ...options, name, class: 2, isOn: true }),
  'lights-sacn': (options) => new LightsStandin({ ...options, universe: 0 }),
  'clock-machine': (options) => new ClockStandin(options),
  composer: (options, { tag }) => new ComposerStandin({ ...options, place: tag === 'P2' ? club : launch }),
  slides: (options) => new SlidesStandin(options),
  'wall-viewer': (options, { tag }) =>
    new ViewerStandin({ ...options, ...(walls[tag as keyof typeof walls] ?? walls.W1), signsIn: false }),
  'relay-box': (options) => new RelaysStandin(options),
  'results-board': (options, { through }, line) =>
    through === undefined ? new NetworkBoardStandin(options) : new BoardStandin({ ...options, line }),
};

/** True when something here speaks as a driver expects it, or nothing has to: an engine has timers of its own. */
export const canStandIn = (driver: string): boolean => driver in makers || driver === 'own-timers';

function signInAt(standin: Standin): { readonly user: string; readonly password: string } {
  if (standin instanceof EncoderStandin) return { user: encoderUser, password: encoderPassword };
  if (standin instanceof OnvifCamera) return { user: onvifUser, password: onvifPassword };
  if (standin instanceof ComposerStandin) return { user: '', password: composerPassword };
  return { user: '', password: standin instanceof ScreenStandin ? screenPassword : '' };
}

/** Private stand-ins for the devices of a rig, on free ports of this computer: a rehearsal reaches nothing else. */
export class Rehearsal {
  private readonly sync = new HouseSync(25);
  private readonly running = new Map<string, { readonly key: string; readonly standin: Standin }>();
  private readonly lines = new Map<string, SerialLine>();
  /** Those that have a page now; the server of the pages looks here. */
  private readonly sites: Standin[] = [];
  private pages: Server | undefined;
  private turn: Promise<unknown> = Promise.resolve();

  /** Starts what is missing and stops what is there no more. @returns a place for each device that can be stood in for */
  arrange(devices: readonly RehearsedDevice[]): Promise<{
    readonly places: Readonly<Record<string, RehearsedPlace>>;
    readonly pagePort: number;
  }> {
    const done = this.turn.then(() => this.change(devices));
    this.turn = done.catch(() => undefined);
    return done;
  }

  /** Replaces what stands in for a device by a new one in its first state, at another port. */
  renew(device: string): Promise<void> {
    const done = this.turn.then(async () => {
      const running = this.running.get(device);
      this.running.delete(device);
      await running?.standin.stop();
    });
    this.turn = done.catch(() => undefined);
    return done;
  }

  async stop(): Promise<void> {
    await this.turn;
    this.sync.stop();
    for (const { standin } of this.running.values()) await standin.stop();
    this.running.clear();
    this.pages?.closeAllConnections();
    this.pages?.close();
  }

  private async change(devices: readonly RehearsedDevice[]) {
    const wanted = new Map(devices.map((device) => [device.id, device]));
    const keyOf = (device: RehearsedDevice) => JSON.stringify(device);
    for (const [id, { key, standin }] of this.running) {
      const device = wanted.get(id);
      if (device && keyOf(device) === key) continue;
      this.running.delete(id);
      await standin.stop();
    }
    for (const device of devices) {
      const make = makers[device.driver];
      if (!make || this.running.has(device.id)) continue;
      const line = this.lineOf(device.through ?? device.id);
      const standin = make({ tag: device.tag, sync: this.sync, host, port: 0 }, device, line);
      await standin.setPower(true);
      this.running.set(device.id, { key: keyOf(device), standin });
    }
    const sites = [...this.running.values()].map(({ standin }) => standin);
    this.sites.splice(0, this.sites.length, ...sites);
    this.pages ??= await serveSites(this.sites, host, 0);
    const pagePort = (this.pages.address() as AddressInfo).port;
    const places = Object.fromEntries(
      devices.flatMap((device) => {
        const standin = this.running.get(device.id)?.standin;
        return standin ? [[device.id, this.placeOf(device, standin, pagePort)] as const] : [];
      }),
    );
    return { places, pagePort };
  }

  private placeOf({ tag, through }: RehearsedDevice, standin: Standin, pagePort: number): RehearsedPlace {
    const gateway = through === undefined ? undefined : this.running.get(through)?.standin;
    const port = gateway instanceof GatewayStandin ? gateway.serialPort : standin.port;
    const { user, password } = signInAt(standin);
    return { host, port, user, password, options: picturesOf(standin, pagePort, `/${tag.toLowerCase()}`) };
  }

  private lineOf(gateway: string): SerialLine {
    let line = this.lines.get(gateway);
    if (!line) this.lines.set(gateway, (line = new SerialLine(baud)));
    return line;
  }
}

/** Where a stand-in hands its pictures out, as the options of its driver. */
function picturesOf(standin: Standin, port: number, site: string): RehearsedPlace['options'] {
  if (standin instanceof UdpCamera || standin instanceof TcpCamera)
    return { stillPort: port, stillPath: `${site}/still`, streamPath: `${site}/live` };
  if (standin instanceof SwitcherStandin)
    return { picturePort: port, programPath: `${site}/live?view=program`, previewPath: `${site}/live?view=preview` };
  return 'still' in standin ? { picturePort: port, picturePath: `${site}/live` } : {};
}
