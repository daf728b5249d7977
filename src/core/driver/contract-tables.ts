/**
 * What a parameter or a reading of a contract is.
 *
 * - `number`: counted or measured in the unit that the contract says; the same number everywhere.
 * - `share`: only its place between the least and the greatest value is the same, for example of a speed in steps of the protocol.
 * - a list: a choice of these values. A driver may have more of its own and may lack some.
 */
export type ContractKind = 'number' | 'share' | 'onOff' | 'text' | 'time' | readonly string[];

/**
 * The commands, readings and drives that all drivers of a role call the same, so that a page made for one device drives another of its
 * role. All of it is optional: a driver offers what its devices have.
 */
export interface RoleContract {
  readonly commands: Readonly<Record<string, Readonly<Record<string, ContractKind>>>>;
  readonly readings: Readonly<Record<string, ContractKind>>;
  readonly drives?: readonly string[];
  readonly stills?: readonly string[];
}

/** All roles that a device can have, in the order in which they are offered. */
export const deviceRoles = [
  'switcher',
  'camera',
  'encoder',
  'playout',
  'titles',
  'composer',
  'audio',
  'clock',
  'slides',
  'screen',
  'viewer',
  'lights',
  'relays',
  'gateway',
  'tally',
] as const;

type Role = (typeof deviceRoles)[number] | 'any';

const none: RoleContract = { commands: {}, readings: {} };

const directions = ['left', 'right', 'up', 'down', 'upLeft', 'upRight', 'downLeft', 'downRight'];
const exposures = ['auto', 'manual', 'shutter', 'iris', 'bright'];
const screenInputs = [
  'rgb1',
  'rgb2',
  'video1',
  'video2',
  'digital1',
  'digital2',
  'digital3',
  'digital4',
  'network1',
  'storage1',
];
const whites = ['auto', 'indoor', 'outdoor', 'onePush', 'manual'];

export const roleContracts: Readonly<Record<Role, RoleContract>> = {
  camera: {
    commands: {
      power: { on: 'onOff' },
      // Pan and tilt in degrees, zoom and focus in per cent of their way.
      move: { direction: directions, panSpeed: 'share', tiltSpeed: 'share' },
      stopMoving: {},
      moveTo: { pan: 'number', tilt: 'number', panSpeed: 'share', tiltSpeed: 'share' },
      moveBy: { pan: 'number', tilt: 'number', panSpeed: 'share', tiltSpeed: 'share' },
      home: {},
      zoomIn: { speed: 'share' },
      zoomOut: { speed: 'share' },
      stopZoom: {},
      zoomTo: { zoom: 'number' },
      focusNear: { speed: 'share' },
      focusFar: { speed: 'share' },
      stopFocus: {},
      focusTo: { focus: 'number' },
      autoFocus: { on: 'onOff' },
      focusOnce: {},
      exposure: { mode: exposures },
      iris: { step: 'share' },
      shutter: { step: 'share' },
      gain: { step: 'share' },
      bright: { step: 'share' },
      exposureCompensation: { on: 'onOff' },
      exposureCompensationTo: { step: 'share' },
      backlight: { on: 'onOff' },
      whiteBalance: { mode: whites },
      whiteBalanceOnce: {},
      redGain: { step: 'share' },
      blueGain: { step: 'share' },
      sharpness: { step: 'share' },
      noiseReduction: { step: 'share' },
      flip: { on: 'onOff' },
      mirror: { on: 'onOff' },
      freeze: { on: 'onOff' },
      blackAndWhite: { on: 'onOff' },
      recall: { preset: 'number' },
      store: { preset: 'number' },
      forget: { preset: 'number' },
      tally: { on: 'onOff' },
      menu: { on: 'onOff' },
    },
    readings: {
      power: 'onOff',
      pan: 'number',
      tilt: 'number',
      zoom: 'number',
      focus: 'number',
      autoFocus: 'onOff',
      exposure: exposures,
      iris: 'share',
      shutter: 'share',
      gain: 'share',
      bright: 'share',
      exposureCompensation: 'onOff',
      exposureCompensationStep: 'share',
      backlight: 'onOff',
      whiteBalance: whites,
      redGain: 'share',
      blueGain: 'share',
      sharpness: 'share',
      noiseReduction: 'share',
      flip: 'onOff',
      mirror: 'onOff',
      freeze: 'onOff',
      blackAndWhite: 'onOff',
      tally: 'onOff',
      menu: 'onOff',
    },
    drives: ['head'],
    stills: ['view'],
  },
  switcher: {
    commands: {
      take: { input: 'number' },
      ready: { input: 'number' },
      cut: {},
      auto: {},
      rate: { frames: 'number' },
      black: { to: ['on', 'off'] },
      key: { key: 'number', on: 'onOff' },
      keySource: { key: 'number', input: 'number' },
      aux: { aux: 'number', input: 'number' },
      still: { store: 'number', picture: 'number' },
      macro: { macro: 'number' },
      box: { box: 'number', on: 'onOff' },
      boxSource: { box: 'number', input: 'number' },
      name: { input: 'number', text: 'text' },
    },
    readings: {
      program: 'number',
      preview: 'number',
      mixing: 'onOff',
      rate: 'number',
      black: ['off', 'fading', 'on'],
      'input[].name': 'text',
      'key[].on': 'onOff',
      'key[].source': 'number',
      'aux[].source': 'number',
      'box[].on': 'onOff',
      'box[].source': 'number',
    },
  },
  encoder: {
    commands: {
      startStream: {},
      stopStream: {},
      startRecord: {},
      stopRecord: {},
      bitrate: { kbps: 'number' },
      destination: { url: 'text' },
      preset: { name: 'text' },
    },
    readings: {
      stream: ['idle', 'connecting', 'live', 'failed'],
      recording: 'onOff',
      kbps: 'number',
      dropped: 'number',
      streamTime: 'time',
      recordTime: 'time',
      destination: 'text',
      preset: 'text',
      freeGb: 'number',
    },
  },
  playout: {
    commands: {
      load: { clip: 'number' },
      // In per cent of the usual speed.
      play: { speed: 'number' },
      pause: {},
      stop: {},
      jump: { to: 'time' },
      step: { frames: 'number' },
      loop: { on: 'onOff' },
    },
    readings: {
      transport: ['empty', 'cued', 'playing', 'paused', 'ended'],
      loaded: 'number',
      loadedName: 'text',
      speed: 'number',
      loop: 'onOff',
      time: 'time',
      left: 'time',
      'clip[].name': 'text',
      'clip[].length': 'time',
    },
  },
  audio: {
    commands: {
      // Levels in dB.
      level: { strip: 'number', level: 'number' },
      mute: { strip: 'number', on: 'onOff' },
      name: { strip: 'number', text: 'text' },
      mainLevel: { level: 'number' },
      mainMute: { on: 'onOff' },
      recall: { scene: 'number' },
    },
    readings: {
      'strip[].name': 'text',
      'strip[].level': 'number',
      'strip[].muted': 'onOff',
      'strip[].meter': 'number',
      mainLevel: 'number',
      mainMuted: 'onOff',
      mainMeter: 'number',
      'scene[].name': 'text',
    },
  },
  titles: {
    commands: {
      load: { layer: 'number', template: 'number' },
      queue: { layer: 'number', template: 'number' },
      row: { layer: 'number', row: 'number' },
      field: { layer: 'number', field: 'number', text: 'text' },
      take: { layer: 'number' },
      out: { layer: 'number' },
      next: { layer: 'number' },
      run: { function: 'number' },
    },
    readings: {
      'layer[].state': ['empty', 'ready', 'coming', 'on', 'going'],
      'layer[].template': 'number',
      'template[].name': 'text',
      'function[].name': 'text',
    },
  },
  screen: {
    commands: {
      power: { on: 'onOff' },
      input: { input: screenInputs },
      show: { on: 'onOff' },
      freeze: { on: 'onOff' },
      mute: { on: 'onOff' },
      brightness: { level: 'share' },
    },
    readings: {
      // True from the moment it begins to warm up.
      powered: 'onOff',
      input: screenInputs,
      shown: 'onOff',
      frozen: 'onOff',
      muted: 'onOff',
      brightness: 'share',
    },
  },
  relays: { commands: { relay: { relay: 'number', on: 'onOff' } }, readings: { 'relay[].on': 'onOff' } },
  tally: {
    commands: { show: { display: 'number', name: 'text', lamp: ['off', 'red', 'green', 'amber'] } },
    readings: {},
  },
  composer: none,
  clock: none,
  slides: none,
  viewer: none,
  lights: none,
  gateway: none,
  any: none,
};
