/** MIDI over a port of the engine's computer, and over a serial line at the speed of MIDI. The messages are the same. */

const seven = { type: 'whole', min: 0, max: 127 };
const note = { title: 'Note', value: seven };
const exclusive = (bytes: string) => `exclusive ${bytes}`;

/** MIDI Machine Control 1.0 (RP-013), commands without data. */
const machine = [
  ['stop', 'stop', '01'],
  ['play', 'play', '02'],
  ['deferredPlay', 'play when ready', '03'],
  ['fastForward', 'fast forward', '04'],
  ['rewind', 'rewind', '05'],
  ['record', 'start recording', '06'],
  ['endRecord', 'end recording', '07'],
  ['pause', 'pause', '09'],
  ['eject', 'eject', '0A'],
] as const;

/** MIDI Show Control 1.1 (RP-002), commands that take a cue or nothing. */
const show = [
  ['go', 'go', '01'],
  ['stop', 'stop', '02'],
  ['resume', 'resume', '03'],
  ['load', 'load', '05'],
] as const;
const showAll = [
  ['allOff', 'all off', '08'],
  ['restore', 'restore', '09'],
  ['reset', 'reset', '0A'],
] as const;

/** What a show control message is for (RP-002, section 4.2), the general category of each kind. */
const formats = [
  ['lighting', 'lighting', '01'],
  ['movingLights', 'moving lights', '02'],
  ['sound', 'sound', '10'],
  ['music', 'music', '11'],
  ['machinery', 'machinery', '20'],
  ['video', 'video', '30'],
  ['projection', 'projection', '40'],
  ['process', 'process control', '50'],
  ['pyro', 'pyrotechnics', '60'],
  ['all', 'everything', '7F'],
] as const;

const choices = (rows: readonly (readonly [value: string, title: string, wire: string])[]) => ({
  type: 'choice',
  choices: rows.map(([value, title, wire]) => ({ value, title, wire })),
});

const cue = { type: 'text', maxLength: 20 };
const locate = (title: string, max: number) => ({ title, value: { type: 'whole', min: 0, max }, default: 0 });

const base = {
  format: 1,
  version: 1,
  role: 'any',
  searchWords: ['MMC', 'MSC', 'show control', 'machine control', 'note', 'program change'],
  framing: { kind: 'midi', channel: { option: 'heard' } },
  options: {
    channel: { title: 'Channel', value: { type: 'whole', min: 1, max: 16 }, default: 1 },
    heard: {
      title: 'Receive channel',
      help: '0 reads all channels.',
      value: { type: 'whole', min: 0, max: 16 },
      default: 0,
    },
    device: {
      title: 'Device number',
      help: 'Of machine control and show control; 127 speaks to all.',
      value: seven,
      default: 127,
    },
    showFormat: { title: 'Show control is for', value: choices(formats), default: 'lighting' },
  },
  commands: {
    noteOn: {
      title: 'Note on',
      says: 'Note {note} on',
      params: { note, velocity: { title: 'Velocity', value: { ...seven, min: 1 }, default: 100 } },
      send: 'noteOn {option.channel} {note} {velocity}',
      class: 'urgent',
      stop: { command: 'noteOff', longestMs: 60_000 },
    },
    noteOff: {
      title: 'Note off',
      says: 'Note {note} off',
      params: { note },
      send: 'noteOff {option.channel} {note} 0',
      class: 'stop',
    },
    tap: {
      title: 'Note on, without a note off',
      says: 'Trigger note {note}',
      help: 'For devices that use a note as a command.',
      params: { note, velocity: { title: 'Velocity', value: { ...seven, min: 1 }, default: 127 } },
      send: 'noteOn {option.channel} {note} {velocity}',
    },
    control: {
      title: 'Controller',
      says: 'Controller {controller} to {value}',
      params: { controller: { title: 'Controller', value: seven }, value: { title: 'Value', value: seven } },
      send: 'control {option.channel} {controller} {value}',
      class: 'continuous',
    },
    program: {
      title: 'Program change',
      says: 'Program {program}',
      help: 'Counted from 0, as on the wire. Many devices show it from 1.',
      params: { program: { title: 'Program', value: seven } },
      send: 'program {option.channel} {program}',
    },
    bend: {
      title: 'Pitch bend',
      says: 'Pitch bend to {value}',
      params: { value: { title: 'Value', value: { type: 'whole', min: 0, max: 16_383 }, default: 8192 } },
      send: 'bend {option.channel} {value}',
      class: 'continuous',
    },
    transport: {
      title: 'Sequence',
      says: 'Sequence: {what}',
      params: {
        what: {
          title: 'What it does',
          value: choices([
            ['start', 'start', 'start'],
            ['continue', 'continue', 'continue'],
            ['stop', 'stop', 'stop'],
          ]),
        },
      },
      send: '{what}',
    },
    machine: {
      title: 'Machine control',
      says: 'Machine: {command}',
      params: { command: { title: 'Command', value: choices(machine) } },
      send: exclusive('7F{option.device:hex2}06{command}'),
    },
    locate: {
      title: 'Machine control: locate',
      says: 'Machine: go to {hours}:{minutes}:{seconds}:{frames}',
      params: {
        rate: {
          title: 'Frames a second',
          value: choices([
            ['24', '24', '0'],
            ['25', '25', '32'],
            ['30drop', '30, drop frame', '64'],
            ['30', '30', '96'],
          ]),
          default: '25',
        },
        hours: locate('Hours', 23),
        minutes: locate('Minutes', 59),
        seconds: locate('Seconds', 59),
        frames: locate('Frames', 29),
        // RP-013, “Standard time code”: the rate is in the upper bits of the hours.
        first: {
          title: 'Hours with the rate',
          value: seven,
          computed: `hours + (rate == '24' ? 0 : rate == '25' ? 32 : rate == '30drop' ? 64 : 96)`,
        },
      },
      send: exclusive('7F{option.device:hex2}06440601{first:hex2}{minutes:hex2}{seconds:hex2}{frames:hex2}00'),
    },
    showControl: {
      title: 'Show control',
      says: 'Show: {command} cue {cue}',
      help: 'Without a cue the device takes its next one. A list and a path narrow where the cue is looked for.',
      params: {
        command: { title: 'Command', value: choices(show) },
        cue: { title: 'Cue', value: cue, optional: true },
        list: { title: 'List', value: cue, optional: true },
        path: { title: 'Path', value: cue, optional: true },
      },
      send: exclusive(
        '7F{option.device:hex2}02{option.showFormat}{command}{?cue|{cue:hexutf8}}{?list|00{list:hexutf8}}{?path|00{path:hexutf8}}',
      ),
    },
    showAll: {
      title: 'Show control: everything',
      says: 'Show: {command}',
      risky: true,
      params: { command: { title: 'Command', value: choices(showAll) } },
      send: exclusive('7F{option.device:hex2}02{option.showFormat}{command}'),
    },
    fire: {
      title: 'Show control: fire a macro',
      says: 'Show: fire macro {macro}',
      params: { macro: { title: 'Macro', value: seven } },
      send: exclusive('7F{option.device:hex2}02{option.showFormat}07{macro:hex2}'),
    },
    exclusive: {
      title: 'System exclusive message',
      says: 'Exclusive {bytes}',
      help: 'Its bytes in hexadecimal digits, without F0 and F7.',
      params: { bytes: { title: 'Bytes', value: { type: 'text', maxLength: 600 } } },
      send: exclusive('{bytes}'),
    },
  },
  readings: {
    'key[].velocity': {
      title: 'Key',
      value: { type: 'whole', min: 0, max: 127 },
      index: { title: 'Key', from: 0, to: 127 },
    },
    'controller[].value': {
      title: 'Controller',
      value: { type: 'whole', min: 0, max: 127 },
      index: { title: 'Controller', from: 0, to: 127 },
      level: { from: 0, to: 127 },
    },
    program: { title: 'Program', value: seven },
    bend: { title: 'Pitch bend', value: { type: 'whole', min: 0, max: 16_383 }, level: { from: 0, to: 16_383 } },
    sequence: {
      title: 'Sequence',
      value: choices([
        ['start', 'started', 'start'],
        ['continue', 'goes on', 'continue'],
        ['stop', 'stopped', 'stop'],
      ]),
    },
    exclusive: { title: 'Last system exclusive message', value: { type: 'text' } },
  },
  replies: [
    { match: '^noteOn \\d+ (?P<n>\\d+) (?P<v>\\d+)$', set: { 'key[{n}].velocity': '{v}' } },
    { match: '^noteOff \\d+ (?P<n>\\d+) \\d+$', set: { 'key[{n}].velocity': '0' } },
    { match: '^control \\d+ (?P<n>\\d+) (?P<v>\\d+)$', set: { 'controller[{n}].value': '{v}' } },
    { match: '^program \\d+ (?P<v>\\d+)$', set: { program: '{v}' } },
    { match: '^bend \\d+ (?P<v>\\d+)$', set: { bend: '{v}' } },
    { match: '^(?P<v>start|continue|stop)$', set: { sequence: '{v}' } },
    { match: '^exclusive (?P<v>.*)$', set: { exclusive: '{v}' } },
  ],
  samples: [
    { heard: { hex: '90 3C 64' }, gives: { 'key[60].velocity': 100 } },
    { heard: { hex: '81 3C 40' }, gives: { 'key[60].velocity': 0 } },
    // Running status: the second controller has no status byte.
    { heard: { hex: 'B0 07 7F 0A 40' }, gives: { 'controller[7].value': 127, 'controller[10].value': 64 } },
    { heard: { hex: 'C0 05' }, gives: { program: 5 } },
    { heard: { hex: 'E0 00 40' }, gives: { bend: 8192 } },
    { heard: { hex: 'FA' }, gives: { sequence: 'start' } },
    { heard: { hex: 'F0 7F 7F 06 02 F7' }, gives: { exclusive: '7F 7F 06 02' } },
    { heard: { hex: 'B1 07 7F' }, options: { heard: 1 }, is: 'nothing' },
    { command: 'noteOn', params: { note: 60 }, sends: { hex: '90 3C 64' } },
    { command: 'noteOff', params: { note: 60 }, options: { channel: 16 }, sends: { hex: '8F 3C 00' } },
    { command: 'control', params: { controller: 7, value: 127 }, sends: { hex: 'B0 07 7F' } },
    { command: 'program', params: { program: 5 }, sends: { hex: 'C0 05' } },
    { command: 'bend', params: { value: 8192 }, sends: { hex: 'E0 00 40' } },
    { command: 'transport', params: { what: 'continue' }, sends: { hex: 'FB' } },
    { command: 'machine', params: { command: 'play' }, sends: { hex: 'F0 7F 7F 06 02 F7' } },
    {
      command: 'locate',
      params: { hours: 10, minutes: 59, seconds: 30, frames: 12 },
      sends: { hex: 'F0 7F 7F 06 44 06 01 2A 3B 1E 0C 00 F7' },
    },
    {
      command: 'showControl',
      params: { command: 'go', cue: '12.5' },
      sends: { hex: 'F0 7F 7F 02 01 01 31 32 2E 35 F7' },
    },
    {
      command: 'showControl',
      params: { command: 'go', cue: '7', list: '2' },
      options: { device: 1, showFormat: 'sound' },
      sends: { hex: 'F0 7F 01 02 10 01 37 00 32 F7' },
    },
    { command: 'showAll', params: { command: 'allOff' }, sends: { hex: 'F0 7F 7F 02 01 08 F7' } },
    { command: 'fire', params: { macro: 9 }, sends: { hex: 'F0 7F 7F 02 01 07 09 F7' } },
    { command: 'exclusive', params: { bytes: '43 10 4C' }, sends: { hex: 'F0 43 10 4C F7' } },
  ],
};

export const midiDrivers = [
  {
    ...base,
    id: 'generic-midi',
    title: 'Any device: MIDI',
    help: {
      address: 'Choose a MIDI port of this computer from the list.',
      switchOn:
        'The device is plugged into the computer on which Sorrelfinch runs. What is plugged into a panel is hand gear.',
    },
    link: { kind: 'midi' },
  },
  {
    ...base,
    id: 'generic-midi-serial',
    title: 'Any device: MIDI over a serial port',
    help: {
      address: 'Choose the serial port of this computer from the list.',
      switchOn:
        'For MIDI interfaces that are serial ports. The speed of MIDI is 31,250 bits a second; some adapters want 38,400 or 115,200.',
    },
    link: { kind: 'serial', serial: { baudRate: { option: 'baudRate' }, format: '8N1' } },
    options: {
      ...base.options,
      baudRate: {
        title: 'Speed',
        value: { type: 'whole', min: 1200, max: 1_000_000, unit: 'bit/s' },
        default: 31_250,
      },
    },
  },
];
