import { answered, choice, is, lamp, listed, named, onOff, reported, seconds, text, whole } from './parts';

/**
 * A list of timers, of which one runs at a time: a clock machine that is reached over TCP, and the timers of this program itself. The messages are
 * the same (`docs/protocols/clock-machine.md`).
 */

const states = ['empty', 'ready', 'running', 'warning', 'over', 'paused'] as const;
const most = 200;

const order = (verb: string, more: Readonly<Record<string, string>> = {}) => ({
  json: { n: '{ref}', do: verb, ...more },
});
const withinMs = 1000;
const member = { title: 'Timer', from: 1, to: most };

/** While it runs it is lit; what else it says has words of its own. */
const lamps = [
  lamp('state', 'over', 'fault', 'OVER'),
  lamp('state', 'warning', 'warning', 'WARNING'),
  lamp('state', 'running', 'active', 'RUNNING'),
  lamp('state', 'ready', 'next', 'READY'),
];
const starter = (title: string, command: string, params: object = {}) => ({
  purpose: 'Timers',
  title,
  command,
  params,
});

const base = {
  format: 1,
  version: 1,
  role: 'clock',
  searchWords: ['timer', 'countdown', 'speaker', 'race', 'overrun'],
  framing: { kind: 'json-lines', maxFrameBytes: 65_536 },
  answers: 'matched',
  identity: { model: 'model', firmware: 'firmware' },
  greeting: [
    {
      expect: '"is"\\s*:\\s*"clocks"',
      withinMs: 2000,
      occupied: '"is"\\s*:\\s*"taken"(.*"by"\\s*:\\s*"(?P<by>[^"]*)")?',
    },
  ],
  questions: { state: { send: order('state') }, timers: { send: order('list') } },
  sync: { send: [{ ask: 'timers' }, { ask: 'state' }], answered: true, withinMs: 4000 },
  commands: {
    startNext: {
      title: 'Start the next timer',
      says: 'Start the next timer',
      send: order('startNext'),
      class: 'urgent',
      confirm: reported(withinMs, is('place', { before: 'nextPlace' }), is('runs', true)),
    },
    start: {
      title: 'Start a timer',
      says: 'Start {timer}',
      params: { timer: listed('Timer', 'timer[].name', most) },
      send: order('startPlace', { place: '{timer}' }),
      class: 'urgent',
      confirm: reported(withinMs, is('place', { param: 'timer' }), is('runs', true)),
    },
    startId: {
      title: 'Start a timer by its id',
      says: 'Start the timer {id}',
      help: 'Finds it wherever it is in the list.',
      params: { id: named('Id', 'timer[].id', 32) },
      send: order('start', { id: '{id}' }),
      class: 'urgent',
      confirm: reported(withinMs, is('id', { param: 'id' }), is('runs', true)),
    },
    next: {
      title: 'Set the next timer',
      says: 'Make {timer} next',
      params: { timer: listed('Timer', 'timer[].name', most) },
      send: order('next', { place: '{timer}' }),
      confirm: reported(withinMs, is('nextPlace', { param: 'timer' })),
    },
    nextNamed: {
      title: 'Set the next timer by name',
      says: 'Make “{name}” next',
      help: 'The first of that name, upper and lower case alike.',
      params: { name: named('Name', 'timer[].name', 80) },
      send: order('nextName', { name: '{name}' }),
      confirm: answered(withinMs),
    },
    move: {
      title: 'Move up or down the list',
      says: 'Move the next timer by {by}',
      help: 'Negative goes up. It ends at the ends of the list.',
      params: { by: { title: 'By', value: whole(-200, 200), default: 1 } },
      send: order('move', { by: '{by}' }),
      confirm: answered(withinMs),
    },
    pause: {
      title: 'Pause',
      says: 'Pause the timer',
      send: order('pause'),
      class: 'urgent',
      confirm: reported(withinMs, is('state', 'paused')),
    },
    resume: {
      title: 'Resume',
      says: 'Resume the timer',
      send: order('resume'),
      class: 'urgent',
      confirm: reported(withinMs, is('runs', true)),
    },
    restart: {
      title: 'Restart',
      says: 'Restart the timer from its full length',
      send: order('restart'),
      class: 'urgent',
      confirm: reported(withinMs, is('runs', true)),
    },
    stop: {
      title: 'End the timer',
      says: 'End the timer',
      help: 'The next one waits.',
      send: order('stop'),
      class: 'urgent',
      confirm: reported(withinMs, is('place', 0)),
    },
    add: {
      title: 'Add or remove time',
      says: 'Add {seconds} to the timer',
      help: 'Negative takes time away.',
      params: {
        seconds: { title: 'Seconds', value: whole(-3600, 3600, 's'), default: 60 },
      },
      send: order('add', { seconds: '{seconds}' }),
      class: 'urgent',
      confirm: answered(withinMs),
    },
    message: {
      title: 'Message under the clock',
      says: 'Show the message “{text}” under the clock',
      params: { text: { title: 'Text', value: text(120) } },
      send: order('message', { text: '{text}' }),
      confirm: reported(withinMs, is('message', { param: 'text' })),
    },
    clearMessage: {
      title: 'Clear message',
      says: 'Clear the message under the clock',
      send: order('message', { text: '' }),
      confirm: reported(withinMs, is('message', '')),
    },
    readList: {
      title: 'Read the list of timers',
      says: 'Read the list of timers',
      send: order('list'),
      harmless: true,
      confirm: answered(withinMs),
    },
  },
  readings: {
    state: {
      title: 'State',
      means: 'active',
      value: choice(...states),
      told: { over: 'is over its time' },
    },
    runs: { title: 'Runs', means: 'active', value: onOff },
    place: { title: 'Timer', means: 'active', value: whole(0, most) },
    id: { title: 'Id of the timer', value: text(32) },
    name: { title: 'Name of the timer', value: text(80) },
    speaker: { title: 'Speaker', value: text(80) },
    length: { title: 'Length', value: seconds },
    left: { title: 'Time left', value: seconds, runs: { while: 'runs', equals: true, rate: -1, past: true } },
    colour: { title: 'Colour of the timer', value: { type: 'colour' } },
    nextPlace: { title: 'Next timer', means: 'next', value: whole(0, most) },
    nextName: { title: 'Name of the next timer', value: text(80) },
    nextSpeaker: { title: 'Next speaker', value: text(80) },
    message: { title: 'Message', value: text(120) },
    timeOfDay: { title: 'Time of day', value: seconds },
    'timer[].name': { title: 'Name', value: text(80), index: member },
    'timer[].id': { title: 'Id', value: text(32), index: member },
    'timer[].speaker': { title: 'Speaker', value: text(80), index: member },
    'timer[].length': { title: 'Length', value: seconds, index: member },
    model: { title: 'Model', value: { type: 'text' } },
    firmware: { title: 'Firmware', value: { type: 'text' } },
  },
  replies: [
    {
      when: { '/run/state': '.' },
      quiet: true,
      take: {
        state: '/run/state',
        runs: '/run/runs',
        place: '/run/place',
        id: '/run/id',
        name: '/run/name',
        speaker: '/run/speaker',
        length: '/run/length',
        left: '/run/left',
      },
      set: {
        state: '{state}',
        runs: '{runs}',
        place: '{place}',
        id: '{id}',
        name: '{name}',
        speaker: '{speaker}',
        length: '{length}',
        left: '{left}',
      },
    },
    { when: { '/run/colour': '^#' }, take: { colour: '/run/colour' }, set: { colour: '{colour}' } },
    {
      when: { '/next/place': '.' },
      take: { place: '/next/place', name: '/next/name', speaker: '/next/speaker' },
      set: { nextPlace: '{place}', nextName: '{name}', nextSpeaker: '{speaker}' },
    },
    { when: { '/message': '^.*$' }, take: { text: '/message' }, set: { message: '{text}' } },
    { when: { '/time': '^[0-9]+$' }, quiet: true, take: { time: '/time' }, set: { timeOfDay: '{time}' } },
    {
      each: '/timers',
      clears: ['timer[].name', 'timer[].id', 'timer[].speaker', 'timer[].length'],
      take: { id: '/id', name: '/name', speaker: '/speaker', length: '/length' },
      set: {
        'timer[{number}].name': '{name}',
        'timer[{number}].id': '{id}',
        'timer[{number}].speaker': '{speaker}',
        'timer[{number}].length': '{length}',
      },
    },
    {
      when: { '/is': '^clocks$' },
      take: { model: '/model', v: '/firmware' },
      set: { model: '{model}', firmware: '{v}' },
    },
    { when: { '/ok': '^[0-9]+$' }, take: { ref: '/ok' }, accepts: true },
    {
      when: { '/no': '^[0-9]+$' },
      take: { ref: '/no', code: '/code', why: '/text' },
      refuses: { code: '{code}', reason: 'The clock says: {why}.' },
    },
  ],
  errors: {
    '1': 'The clock does not know this command.',
    '2': 'There is no such timer.',
    '3': 'No timer has begun.',
    '4': 'There is no next timer.',
    '5': 'The timer is running already.',
    '6': 'The timer is not running.',
  },
  starters: [
    { purpose: 'Timers', title: 'Time left', label: [{ reading: 'name' }, ' ', { reading: 'left' }], lamps },
    { purpose: 'Timers', title: 'Next', label: ['Next ', { reading: 'nextName' }] },
    { purpose: 'Timers', title: 'Start next', label: ['Start ', { reading: 'nextName' }], command: 'startNext', lamps },
    { ...starter('Pause', 'pause'), lamp: lamp('state', 'paused', 'warning', 'PAUSED') },
    starter('Resume', 'resume'),
    starter('Restart', 'restart'),
    starter('End', 'stop'),
    starter('Add 1 min', 'add', { seconds: 60 }),
    starter('Remove 1 min', 'add', { seconds: -60 }),
    starter('Next one up', 'move', { by: -1 }),
    starter('Next one down', 'move', { by: 1 }),
    {
      purpose: 'Each timer',
      title: 'Start a timer',
      each: 'timer[].name',
      command: 'start',
      params: { timer: { item: 'index' } },
      lamp: lamp('place', { item: 'index' }, 'active', 'RUNNING'),
    },
  ],
  lists: {
    timers: {
      title: 'Timers',
      items: 'timer[].name',
      texts: ['timer[].speaker', 'timer[].length'],
      current: { reading: 'place' },
      next: { reading: 'nextPlace' },
      acts: [
        { title: 'Start', command: 'start', params: { timer: { item: 'index' } } },
        { title: 'Set as next', command: 'next', params: { timer: { item: 'index' } } },
        { title: 'Pause', command: 'pause' },
        { title: 'Resume', command: 'resume' },
      ],
    },
  },
  samples: [
    {
      heard: '{"is":"clocks","model":"Gnomon","firmware":"1.2"}\\n',
      gives: { model: 'Gnomon', firmware: '1.2' },
    },
    {
      title: 'Over its time',
      heard:
        '{"run":{"state":"over","runs":true,"place":2,"id":"briefing","name":"Briefing","speaker":"Race officer","length":300,"left":-12.5,"colour":"#8A6F4D"}}\\n',
      gives: { state: 'over', runs: true, place: 2, id: 'briefing', name: 'Briefing', left: -12.5, colour: '#8A6F4D' },
    },
    {
      heard: '{"next":{"place":3,"name":"Heat 1","speaker":""}}\\n',
      gives: { nextPlace: 3, nextName: 'Heat 1', nextSpeaker: '' },
    },
    { heard: '{"message":"Please come to an end"}\\n', gives: { message: 'Please come to an end' } },
    { title: 'No message', heard: '{"message":""}\\n', gives: { message: '' } },
    { heard: '{"time":52327}\\n', gives: { timeOfDay: 52_327 } },
    {
      heard:
        '{"timers":[{"id":"water","name":"Crews to the water","speaker":"","length":600,"warn":60,"grace":0,"colour":""}]}\\n',
      gives: { 'timer[1].name': 'Crews to the water', 'timer[1].id': 'water', 'timer[1].length': 600 },
    },
    { heard: '{"ok":7}\\n', is: 'accepted' },
    { heard: '{"no":8,"code":4,"text":"there is no next timer"}\\n', is: 'refused', code: '4' },
    { command: 'startNext', sends: '{"n":1,"do":"startNext"}\\n' },
    { command: 'start', params: { timer: 2 }, sends: '{"n":1,"do":"startPlace","place":2}\\n' },
    { command: 'add', params: { seconds: -30 }, sends: '{"n":1,"do":"add","seconds":-30}\\n' },
    {
      command: 'message',
      params: { text: 'Two "more"' },
      sends: '{"n":1,"do":"message","text":"Two \\\\"more\\\\""}\\n',
    },
  ],
};

const keepAlive = { send: order('ping'), everyMs: 2000, silentAfterMs: 4000, giveUpAfterMs: 10_000 };

export const clockMachine = {
  ...base,
  id: 'clock-machine',
  title: 'Clocks (stand-in)',
  standIn: true,
  help: {
    address: 'At the top of the clock’s own page. The port follows STANDIN_PORT_BASE.',
    switchOn: 'Remote control is always on.',
  },
  link: { kind: 'tcp', port: 4417, answerWithinMs: 2000, keepAlive },
  identity: { ...base.identity, models: ['Gnomon'], firmwares: ['1.x'] },
  // The show decides what a key does, by a watch that waits for it.
  replies: [...base.replies, { when: { '/key': '^[1-4]$' }, take: { key: '/key' }, requests: { line: 'key {key}' } }],
};

export const ownTimers = {
  ...base,
  id: 'own-timers',
  title: 'Timers of this program',
  help: {
    switchOn:
      'Nothing: the timers run here. Enter them in the tab “Timers”. They go on when the program is started anew.',
  },
  link: { kind: 'internal', service: 'timers', answerWithinMs: 2000, keepAlive },
};
