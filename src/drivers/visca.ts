import camera from './visca-camera.json';

/**
 * The four ways in which cameras speak VISCA. The messages are the same; what differs is the link, the header, and whether a camera has an
 * address of its own on the line.
 */

/** Answers and commands as the command lists that cameras publish have them, behind the address: what they are to, the bytes, what they mean. */
const heard: readonly (readonly [to: string, bytes: string, means: object])[] = [
  ['version', '50 00 01 05 11 01 04 02', { gives: { model: '0511', firmware: '0104' } }],
  ['power', '50 03', { gives: { power: false } }],
  ['panTilt', '50 0F 0D 07 08 00 00 00 00', { gives: { pan: -45, tilt: 0 } }],
  ['zoom', '50 04 00 00 00', { gives: { zoom: 100 } }],
  ['focusMode', '50 02', { gives: { autoFocus: true } }],
  ['exposure', '50 0D', { gives: { exposure: 'bright' } }],
  ['whiteBalance', '50 05', { gives: { whiteBalance: 'manual' } }],
  ['gain', '50 00 00 00 0F', { gives: { gain: 15 } }],
  ['tally', '50 02', { gives: { tally: true } }],
  ['home', '41', { is: 'accepted' }],
  ['home', '51', { is: 'accepted' }],
  ['recall', '61 41', { is: 'refused', code: '41' }],
];
const sent: readonly (readonly [command: string, params: object, bytes: string])[] = [
  ['power', { on: true }, '01 04 00 02'],
  ['move', { direction: 'upLeft', panSpeed: 24, tiltSpeed: 20 }, '01 06 01 18 14 01 01'],
  ['stopMoving', {}, '01 06 01 01 01 03 03'],
  ['home', {}, '01 06 04'],
  ['zoomTo', { zoom: 100 }, '01 04 47 04 00 00 00'],
  ['recall', { preset: 15 }, '01 04 3F 02 0F'],
];
const packed = (bytes: string, type: string): string => {
  const length = bytes.split(' ').length.toString(16).padStart(2, '0');
  return type === '' ? bytes : `${type} 00 ${length} 00 00 00 01 ${bytes}`;
};
/** Behind the header of VISCA over IP: the type (command 01 00, reply 01 11), the length, a number. */
const samplesOf = (hasHeader: boolean) => [
  ...heard.map(([to, bytes, means]) => ({
    heard: { hex: packed(`90 ${bytes} FF`, hasHeader ? '01 11' : '') },
    to,
    ...means,
  })),
  ...sent.map(([command, params, bytes]) => ({
    command,
    params,
    sends: { hex: packed(`81 ${bytes} FF`, hasHeader ? '01 00' : '') },
  })),
];

const keepAlive = { send: { ask: 'version' }, everyMs: 1000, silentAfterMs: 2500, giveUpAfterMs: 6000 };
const shared = { occupiedCodes: ['05'], unknownCodes: ['02'], window: 4, answerWithinMs: 500, keepAlive };

/** With a header each camera has an IP address of its own, and is number 1 behind it. */
export const viscaOverIp = {
  ...camera,
  id: 'ptz-camera',
  title: 'PTZ camera, VISCA over IP',
  help: {
    ...camera.help,
    switchOn: 'Choose “VISCA over IP” in the camera’s menu. It listens on port 52381 unless its menu says otherwise.',
  },
  link: { kind: 'udp', port: 52_381, ...shared },
  framing: { kind: 'visca', header: true },
  answers: 'matched',
  samples: samplesOf(true),
  // Starts the sequence numbers again.
  greeting: [{ send: { hex: '01' } }, { expect: '^01$', withinMs: 1000 }],
};

const address = {
  title: 'Camera address',
  help: 'From 1 to 7. On a serial line each camera has its own; over a network it is usually 1.',
  value: { type: 'whole', min: 1, max: 7, offset: -0x80 },
  default: 1,
};

/** The messages to the camera with the address of the device. It answers as 90, A0 … F0; on one line only one is spoken to at a time. */
const addressed = {
  ...(JSON.parse(
    JSON.stringify(camera).replaceAll('"81 ', '"{option.address:u8} ').replaceAll('"^90', '"^(?P<from>.)0'),
  ) as typeof camera),
  answers: 'matched',
  framing: { kind: 'visca', header: false },
  samples: samplesOf(false),
  greeting: [],
};

const bare = { ...addressed, options: { address, ...camera.options } };

export const viscaOverTcp = {
  ...bare,
  id: 'ptz-camera-bare',
  title: 'PTZ camera, VISCA over TCP',
  help: {
    ...camera.help,
    switchOn:
      'Choose “VISCA over TCP” in the camera’s menu. This driver also serves a serial line behind a network adapter.',
  },
  link: { kind: 'tcp', port: 5678, ...shared },
};

const overUdp = {
  ...bare,
  id: 'ptz-camera-udp',
  title: 'PTZ camera, VISCA over UDP without a header',
  help: {
    ...camera.help,
    switchOn: 'Turn on VISCA over UDP in the camera’s menu. The menu or the manual gives the port.',
  },
  link: { kind: 'udp', port: 1259, ...shared },
};

/** A line is slow: an inquiry and its answer take some 15 ms at 9600 bits a second, and a camera takes one message at a time. */
const overSerial = {
  ...bare,
  id: 'ptz-camera-serial',
  title: 'PTZ camera, VISCA over a serial line',
  help: {
    address: 'The port of this computer, or of its USB adapter, that the camera’s control line is connected to.',
    switchOn:
      'RS-232 or RS-422. Set the speed of the camera: usually 9600, sometimes 38400. The cameras on the line are numbered from 1 on each connect.',
  },
  link: {
    kind: 'serial',
    serial: { baudRate: { option: 'baudRate' }, format: '8N1', flow: 'none' },
    ...shared,
    window: 1,
    answerWithinMs: 1000,
    keepAlive: { ...keepAlive, everyMs: 2000, silentAfterMs: 5000, giveUpAfterMs: 12_000 },
  },
  options: {
    baudRate: {
      title: 'Speed',
      value: { type: 'whole', min: 1200, max: 115_200, unit: 'bit/s' },
      default: 9600,
    },
    ...bare.options,
  },
  readings: {
    camerasOnLine: {
      title: 'Cameras on the line',
      value: { type: 'whole', min: 0, max: 7, reads: 'hex', offset: -1 },
    },
    ...addressed.readings,
  },
  replies: [{ match: '^88300(?P<n>[1-8])FF$', set: { camerasOnLine: '{n}' } }, ...addressed.replies],
  // Address set, to all: each camera takes the number and hands the next one on; the last answer comes back with the number after the last.
  greeting: [{ send: { hex: '88 30 01 FF' } }],
};

export const viscaDrivers: readonly unknown[] = [viscaOverIp, viscaOverTcp, overUdp, overSerial];
