import { escapeXml, jsonText, atPointer, type Json } from '../../core/wire';
import { limits, presetCount, type CameraModel, type Pose } from './model';

/** The services of a camera that speaks ONVIF: what each message does to its model, and what it is answered with. */

export const namespaces = {
  tt: 'http://www.onvif.org/ver10/schema',
  tds: 'http://www.onvif.org/ver10/device/wsdl',
  trt: 'http://www.onvif.org/ver10/media/wsdl',
  tptz: 'http://www.onvif.org/ver20/ptz/wsdl',
  timg: 'http://www.onvif.org/ver20/imaging/wsdl',
} as const;

/** Where the services are, by the prefix of their namespace. */
const paths = {
  tds: '/onvif/device_service',
  trt: '/onvif/media',
  tptz: '/onvif/ptz',
  timg: '/onvif/imaging',
} as const;

/** A refusal: the codes of a SOAP fault from the outermost to the innermost, without their prefixes. */
export class OnvifFault extends Error {
  constructor(
    readonly codes: readonly [outer: 'Sender' | 'Receiver', ...inner: string[]],
    reason: string,
  ) {
    super(reason);
  }
}

/** What else a picture can be set to, besides what the model has. */
export type Looks = Record<string, string>;
export const standardLooks: Readonly<Looks> = {
  Brightness: '50',
  ColorSaturation: '50',
  Contrast: '50',
  Sharpness: '20',
  IrCutFilter: 'AUTO',
  'BacklightCompensation/Mode': 'OFF',
  'Exposure/Mode': 'AUTO',
  'Exposure/Iris': '0',
  'Exposure/Gain': '6',
  'Exposure/ExposureTime': '20000',
  'WideDynamicRange/Mode': 'OFF',
  'WhiteBalance/Mode': 'AUTO',
  'WhiteBalance/CrGain': '50',
  'WhiteBalance/CbGain': '50',
};

interface Camera {
  readonly model: CameraModel;
  readonly looks: Looks;
  readonly names: Map<number, string>;
  readonly home: { at: Partial<Pose> };
  /** Host and port as the client wrote them. */
  readonly host: string;
  readonly model2: boolean;
  readonly now: Date;
  /** Stops what a continuous move started, after so many seconds. */
  readonly endAfter: (part: 'head' | 'zoom', seconds: number) => void;
}

const profile = 'main';
const source = 'lens';
const fullSpeed = { head: 24, zoom: 7, focus: 7 } as const;
const tiltMiddle = (limits.tiltUp + limits.tiltDown) / 2;
const tiltHalf = (limits.tiltUp - limits.tiltDown) / 2;

const vectorOf = ({ pan, tilt, zoom }: Pose): string =>
  `<tt:PanTilt x="${(pan / limits.pan).toFixed(4)}" y="${((tilt - tiltMiddle) / tiltHalf).toFixed(4)}"/><tt:Zoom x="${(zoom / limits.zoom).toFixed(4)}"/>`;

/** Everything that a body asks for, by the local name of its element. */
type OnvifAnswer = (asked: Json, camera: Camera) => string;

const text = (asked: Json, pointer: string): string | undefined => jsonText(atPointer(asked, pointer));
function number(asked: Json, pointer: string): number | undefined {
  const value = text(asked, pointer);
  if (value === undefined) return undefined;
  const read = Number(value);
  if (!Number.isFinite(read)) throw new OnvifFault(['Sender', 'InvalidArgVal'], `${value} is no number.`);
  return read;
}
function space(asked: Json, pointer: string, least = -1): number | undefined {
  const value = number(asked, pointer);
  if (value !== undefined && (value < least || value > 1))
    throw new OnvifFault(['Sender', 'InvalidArgVal', 'InvalidPosition'], 'Out of bounds.');
  return value;
}

/** The axes that a vector names, in the units of the model. */
function pose(asked: Json, at: string, from?: Pose): Partial<Pose> {
  const [x, y, z] = [space(asked, `${at}/PanTilt/@x`), space(asked, `${at}/PanTilt/@y`), space(asked, `${at}/Zoom/@x`)];
  const base = from ?? { pan: 0, tilt: tiltMiddle, zoom: 0 };
  return {
    ...(x === undefined ? {} : { pan: base.pan + x * limits.pan }),
    ...(y === undefined ? {} : { tilt: base.tilt + y * tiltHalf }),
    ...(z === undefined ? {} : { zoom: base.zoom + z * limits.zoom }),
  };
}

function presetOf(asked: Json, { model }: Camera): { readonly n: number; readonly at: Pose } {
  const n = Number(text(asked, '/PresetToken'));
  const at = model.state.presets[n];
  if (!at) throw new OnvifFault(['Sender', 'InvalidArgVal', 'NoToken'], 'There is no such preset.');
  return { n, at };
}

const url = (host: string, service: keyof typeof paths): string => `http://${escapeXml(host)}${paths[service]}`;
const nothing = () => undefined;

const device: Readonly<Record<string, OnvifAnswer>> = {
  GetSystemDateAndTime: (_, { now }) =>
    `<tds:SystemDateAndTime><tt:DateTimeType>NTP</tt:DateTimeType><tt:DaylightSavings>false</tt:DaylightSavings><tt:UTCDateTime><tt:Time><tt:Hour>${now.getUTCHours()}</tt:Hour><tt:Minute>${now.getUTCMinutes()}</tt:Minute><tt:Second>${now.getUTCSeconds()}</tt:Second></tt:Time><tt:Date><tt:Year>${now.getUTCFullYear()}</tt:Year><tt:Month>${now.getUTCMonth() + 1}</tt:Month><tt:Day>${now.getUTCDate()}</tt:Day></tt:Date></tt:UTCDateTime></tds:SystemDateAndTime>`,
  GetDeviceInformation: (_, { model2 }) =>
    `<tds:Manufacturer>Reedmark</tds:Manufacturer><tds:Model>${model2 ? 'Dunlin 9' : 'Heron 3'}</tds:Model><tds:FirmwareVersion>1.2.0</tds:FirmwareVersion><tds:SerialNumber>RM-3301</tds:SerialNumber><tds:HardwareId>1</tds:HardwareId>`,
  GetServices: (_, { host }) =>
    (['tds', 'trt', 'tptz', 'timg'] as const)
      .map(
        (each) =>
          `<tds:Service><tds:Namespace>${namespaces[each]}</tds:Namespace><tds:XAddr>${url(host, each)}</tds:XAddr><tds:Version><tt:Major>2</tt:Major><tt:Minor>60</tt:Minor></tds:Version></tds:Service>`,
      )
      .join(''),
  GetCapabilities: (_, { host }) =>
    `<tds:Capabilities><tt:Imaging><tt:XAddr>${url(host, 'timg')}</tt:XAddr></tt:Imaging><tt:Media><tt:XAddr>${url(host, 'trt')}</tt:XAddr></tt:Media><tt:PTZ><tt:XAddr>${url(host, 'tptz')}</tt:XAddr></tt:PTZ></tds:Capabilities>`,
  SystemReboot: () => '<tds:Message>Restarting</tds:Message>',
};

const media: Readonly<Record<string, OnvifAnswer>> = {
  GetProfiles: () =>
    `<trt:Profiles token="${profile}" fixed="true"><tt:Name>Main</tt:Name><tt:VideoSourceConfiguration token="v"><tt:Name>v</tt:Name><tt:SourceToken>${source}</tt:SourceToken></tt:VideoSourceConfiguration><tt:PTZConfiguration token="p"><tt:Name>p</tt:Name></tt:PTZConfiguration></trt:Profiles>`,
  GetSnapshotUri: (_, { host }) => `<trt:MediaUri><tt:Uri>http://${escapeXml(host)}/still</tt:Uri></trt:MediaUri>`,
};

const ptz: Readonly<Record<string, OnvifAnswer>> = {
  GetStatus: (_, { model }) => {
    const moves = model.state.moving ? 'MOVING' : 'IDLE';
    return `<tptz:PTZStatus><tt:Position>${vectorOf(model.state)}</tt:Position><tt:MoveStatus><tt:PanTilt>${moves}</tt:PanTilt><tt:Zoom>${moves}</tt:Zoom></tt:MoveStatus></tptz:PTZStatus>`;
  },
  GetPresets: (_, { model, names }) =>
    model.state.presets
      .map((at, n) =>
        at
          ? `<tptz:Preset token="${n}"><tt:Name>${escapeXml(names.get(n) ?? `Preset ${n}`)}</tt:Name><tt:PTZPosition>${vectorOf(at)}</tt:PTZPosition></tptz:Preset>`
          : '',
      )
      .join(''),
  ContinuousMove: (asked, { model, endAfter }) => {
    const seconds = Number(/^PT([\d.]+)S$/.exec(text(asked, '/Timeout') ?? 'PT10S')?.[1] ?? NaN);
    if (!(seconds > 0 && seconds <= 120))
      throw new OnvifFault(['Sender', 'InvalidArgVal', 'TimeoutNotSupported'], 'A move takes two minutes at the most.');
    const [x, y, z] = ['PanTilt/@x', 'PanTilt/@y', 'Zoom/@x'].map((axis) => space(asked, `/Velocity/${axis}`));
    if (x !== undefined && y !== undefined) {
      model.move({ panSpeed: x * fullSpeed.head, tiltSpeed: y * fullSpeed.head });
      endAfter('head', seconds);
    }
    if (z !== undefined) {
      model.move({ zoomSpeed: z * fullSpeed.zoom });
      endAfter('zoom', seconds);
    }
    return '';
  },
  Stop: (asked, { model }) => {
    const all = text(asked, '/PanTilt') === undefined && text(asked, '/Zoom') === undefined;
    if (all || text(asked, '/PanTilt') === 'true') model.move({ panSpeed: 0, tiltSpeed: 0 });
    if (all || text(asked, '/Zoom') === 'true') model.move({ zoomSpeed: 0 });
    return '';
  },
  AbsoluteMove: (asked, { model }) => (model.goTo(pose(asked, '/Position'), fullSpeed.head, nothing), ''),
  RelativeMove: (asked, { model }) => (
    model.goTo(pose(asked, '/Translation', model.state), fullSpeed.head, nothing),
    ''
  ),
  GotoHomePosition: (_, { model, home }) => (model.goTo(home.at, fullSpeed.head, nothing), ''),
  SetHomePosition: (_, { model, home }) => ((home.at = model.state), ''),
  // It has no wiper and no lamp, and says nothing against either.
  SendAuxiliaryCommand: () => '<tptz:AuxiliaryResponse/>',
  GotoPreset: (asked, camera) => (camera.model.goTo(presetOf(asked, camera).at, fullSpeed.head, nothing), ''),
  SetPreset: (asked, camera) => {
    const { model, names } = camera;
    const given = text(asked, '/PresetToken') === undefined ? undefined : presetOf(asked, camera).n;
    const n = given ?? model.state.presets.findIndex((each) => each === null);
    if (n < 0)
      throw new OnvifFault(
        ['Receiver', 'Action', 'TooManyPresets'],
        `The camera can store ${presetCount} presets only.`,
      );
    model.store(n);
    const name = text(asked, '/PresetName');
    if (name !== undefined) names.set(n, name);
    return `<tptz:PresetToken>${n}</tptz:PresetToken>`;
  },
  RemovePreset: (asked, camera) => (camera.model.forget(presetOf(asked, camera).n), ''),
};

const imaging: Readonly<Record<string, OnvifAnswer>> = {
  GetImagingSettings: (_, { model, looks }) => {
    const groups = new Map<string, string>([
      ['Focus', `<tt:AutoFocusMode>${model.state.focusAuto ? 'AUTO' : 'MANUAL'}</tt:AutoFocusMode>`],
    ]);
    for (const [key, value] of Object.entries(looks)) {
      const [group = '', leaf] = key.split('/');
      groups.set(group, (groups.get(group) ?? '') + (leaf ? `<tt:${leaf}>${value}</tt:${leaf}>` : value));
    }
    const inside = Array.from(groups, ([group, each]) => `<tt:${group}>${each}</tt:${group}>`);
    return `<timg:ImagingSettings>${inside.join('')}</timg:ImagingSettings>`;
  },
  SetImagingSettings: (asked, { model, looks }) => {
    const wanted = atPointer(asked, '/ImagingSettings');
    const given = typeof wanted === 'object' && wanted !== null ? Object.entries(wanted) : [];
    const flat = given.flatMap(([group, each]) =>
      typeof each === 'object' && each !== null
        ? Object.entries(each).map(([leaf, value]) => [`${group}/${leaf}`, String(value)] as const)
        : [[group, String(each)] as const],
    );
    for (const [key, value] of flat) {
      if (key === 'Focus/AutoFocusMode') model.set({ focusAuto: value === 'AUTO' });
      else if (!(key in looks) || (/^[\d.-]+$/.test(looks[key] ?? '') && !(Number(value) >= 0 && Number(value) <= 1e6)))
        throw new OnvifFault(['Sender', 'InvalidArgVal', 'SettingsInvalid'], `It does not take ${value} for ${key}.`);
      else looks[key] = escapeXml(value);
    }
    return '';
  },
  GetStatus: (_, { model }) =>
    `<timg:Status><tt:FocusStatus20><tt:Position>${(model.state.focus / limits.focus).toFixed(4)}</tt:Position><tt:MoveStatus>IDLE</tt:MoveStatus></tt:FocusStatus20></timg:Status>`,
  Move: (asked, { model }) => {
    const [speed, to] = [number(asked, '/Focus/Continuous/Speed'), number(asked, '/Focus/Absolute/Position')];
    // The model counts towards near.
    if (speed !== undefined) model.move({ focusSpeed: -speed * fullSpeed.focus });
    if (to !== undefined) model.goTo({ focus: to * limits.focus }, fullSpeed.head, nothing);
    return '';
  },
  Stop: (_, { model }) => (model.move({ focusSpeed: 0 }), ''),
};

const services = { tds: device, trt: media, tptz: ptz, timg: imaging } as const;

/** What answers this message at this path, with the prefix of its service; `undefined` where nothing does. */
export function onvifAnswer(
  path: string,
  name: string,
): { readonly prefix: string; readonly answer: OnvifAnswer } | undefined {
  const prefix = (Object.keys(paths) as (keyof typeof paths)[]).find((each) => paths[each] === path);
  const answer = prefix && Object.hasOwn(services[prefix], name) ? services[prefix][name] : undefined;
  return prefix && answer ? { prefix, answer } : undefined;
}
