import { choice, is, lamp, listed, named, onOff, reported, text, whole } from './parts';

/** A viewer on a wall of monitors: key and value pairs over HTTP (`docs/protocols/wall-viewer.md`). */

const monitors = 16;
const sources = 100;
const withinMs = 2000;

const set = (pairs: string) => `/set?${pairs}`;
const asked = (...all: readonly object[]) => ({ ...reported(withinMs, ...all), ask: ['state'], askEveryMs: 150 });
const monitor = listed('Monitor', 'monitor[].name', monitors);
const source = named('Source', 'source[].name', 120);
const family = (title: string, to: number) => ({ title, from: 1, to });
const modes = choice(['full', 'full screen'], ['window', 'in a window'], ['off', 'nothing']);
const volume = whole(0, 100, '%');

export const viewer = {
  format: 1,
  id: 'wall-viewer',
  version: 1,
  title: 'Wall viewer (stand-in)',
  standIn: true,
  role: 'viewer',
  searchWords: ['decoder', 'monitor wall', 'video wall'],
  help: {
    address: 'At the top of the viewer’s own page. The port follows STANDIN_PORT_BASE.',
    signIn: 'Only where the viewer’s set-up has it switched on.',
    switchOn: 'Web control must be on in the viewer’s set-up.',
  },
  link: {
    kind: 'http',
    port: 4420,
    answerWithinMs: 2000,
    window: 2,
    lockedOutCodes: ['401'],
    occupiedCodes: ['423'],
    keepAlive: { send: { ask: 'state' }, everyMs: 1000, silentAfterMs: 3500, giveUpAfterMs: 10_000 },
  },
  framing: { kind: 'http', body: 'pairs', maxFrameBytes: 65_536 },
  answers: 'matched',
  options: {
    signIn: {
      title: 'Sign-in',
      value: choice(['off', 'off'], ['on', 'with name and password']),
      default: 'off',
    },
  },
  variants: [{ when: { signIn: ['on'] }, link: { auth: 'basic' } }],
  identity: { model: 'model', models: ['Gable'], firmware: 'firmware', firmwares: ['2.x'] },
  questions: { about: { send: '/about' }, list: { send: '/list' }, state: { send: '/state' } },
  sync: { send: [{ ask: 'about' }, { ask: 'list' }, { ask: 'state' }], answered: true, withinMs: 4000 },
  commands: {
    show: {
      title: 'Show a source',
      says: 'Show {source} on {monitor}',
      help: 'A monitor that shows nothing shows it in a window.',
      params: { monitor, source },
      send: set('at={monitor}&source={source}'),
      confirm: asked(is('monitor[].source', { param: 'source' }, 'monitor')),
    },
    mode: {
      title: 'Full screen, window or nothing',
      says: '{monitor} {mode}',
      params: { monitor, mode: { title: 'How', value: modes } },
      send: set('at={monitor}&mode={mode}'),
      confirm: asked(is('monitor[].mode', { param: 'mode' }, 'monitor')),
    },
    volume: {
      title: 'Volume',
      says: 'Volume of {monitor} to {volume}',
      params: { monitor, volume: { title: 'Volume', value: volume, default: 50 } },
      send: set('at={monitor}&volume={volume}'),
      class: 'continuous',
      confirm: asked(is('monitor[].volume', { param: 'volume' }, 'monitor')),
    },
    showAll: {
      title: 'Show a source on all monitors',
      says: 'Show {source} on all monitors',
      params: { source },
      send: set('at=all&source={source}'),
      confirm: asked(is('allSource', { param: 'source' })),
    },
    allOff: {
      title: 'Nothing on all monitors',
      says: 'Nothing on all monitors',
      send: set('at=all&mode=off'),
      confirm: asked(is('allOff', true)),
    },
    join: {
      title: 'In the group or not',
      says: '{monitor} in the group {on}',
      help: 'Monitors in the group go with its source.',
      params: { monitor, on: { title: 'In the group', value: { type: 'onOff', on: '1', off: '0' }, default: true } },
      send: set('at={monitor}&join={on}'),
      confirm: asked(is('monitor[].inGroup', { param: 'on' }, 'monitor')),
    },
    groupShow: {
      title: 'Show a source on the group',
      says: 'Show {source} on the group',
      params: { source },
      send: set('at=group&source={source}'),
      confirm: asked(is('groupSource', { param: 'source' })),
    },
    readState: {
      title: 'Read the state',
      says: 'Read the state',
      send: { ask: 'state' },
      harmless: true,
      confirm: { by: 'answer', withinMs },
    },
  },
  readings: {
    'monitor[].name': { title: 'Monitor', value: text(80), index: family('Monitor', monitors) },
    'monitor[].source': { title: 'Source', means: 'active', value: text(120), index: family('Monitor', monitors) },
    'monitor[].mode': { title: 'Shown', means: 'active', value: modes, index: family('Monitor', monitors) },
    'monitor[].volume': {
      title: 'Volume',
      value: volume,
      level: { from: 0, to: 100 },
      index: family('Monitor', monitors),
    },
    'monitor[].inGroup': {
      title: 'In the group',
      means: 'active',
      value: { ...onOff, on: '1', off: '0' },
      index: family('Monitor', monitors),
    },
    'source[].name': { title: 'Source', value: text(120), index: family('Source', sources) },
    allSource: { title: 'Source of all monitors', means: 'active', value: text(120) },
    allOff: { title: 'Nothing on all monitors', means: 'active', value: { ...onOff, on: '1', off: '0' } },
    groupSource: { title: 'Source of the group', means: 'active', value: text(120) },
    name: { title: 'Name', value: text(80) },
    model: { title: 'Model', value: { type: 'text' } },
    firmware: { title: 'Version', value: { type: 'text' } },
  },
  replies: [
    { to: ['about'], match: '^model=(?P<v>.*)$', set: { model: '{v}' } },
    { to: ['about'], match: '^version=(?P<v>.*)$', set: { firmware: '{v}' } },
    { to: ['about'], match: '^name=(?P<v>.*)$', set: { name: '{v}' } },
    { match: '^monitor\\.(?P<n>[0-9]+)\\.name=(?P<v>.*)$', set: { 'monitor[{n}].name': '{v}' } },
    { match: '^monitor\\.(?P<n>[0-9]+)\\.source=(?P<v>.*)$', set: { 'monitor[{n}].source': '{v}' } },
    { match: '^monitor\\.(?P<n>[0-9]+)\\.mode=(?P<v>.*)$', set: { 'monitor[{n}].mode': '{v}' } },
    { match: '^monitor\\.(?P<n>[0-9]+)\\.volume=(?P<v>.*)$', set: { 'monitor[{n}].volume': '{v}' } },
    { match: '^monitor\\.(?P<n>[0-9]+)\\.group=(?P<v>.*)$', set: { 'monitor[{n}].inGroup': '{v}' } },
    { match: '^source\\.(?P<n>[0-9]+)=(?P<v>.*)$', set: { 'source[{n}].name': '{v}' } },
    { match: '^group=(?P<v>.*)$', set: { groupSource: '{v}' } },
    { match: '^all\\.source=(?P<v>.*)$', set: { allSource: '{v}' } },
    { match: '^all\\.off=(?P<v>.*)$', set: { allOff: '{v}' } },
    { match: '^error=(?P<why>.*)$', refuses: { reason: 'The viewer says: {why}.' } },
  ],
  starters: [
    { purpose: 'Monitors', title: 'Nothing on all', command: 'allOff', lamp: lamp('allOff', true, 'active', 'DARK') },
    {
      purpose: 'Group',
      title: 'Show on the group',
      each: 'source[].name',
      command: 'groupShow',
      params: { source: { item: 'value' } },
      lamp: lamp('groupSource', { item: 'value' }, 'active', 'ON'),
    },
    {
      purpose: 'All monitors',
      title: 'Show on all monitors',
      each: 'source[].name',
      command: 'showAll',
      params: { source: { item: 'value' } },
      lamp: lamp('allSource', { item: 'value' }, 'active', 'ON'),
    },
    {
      purpose: 'Monitors',
      title: 'Full screen',
      each: 'monitor[].name',
      command: 'mode',
      params: { monitor: { item: 'index' }, mode: 'full' },
      lamp: lamp('monitor[].mode', 'full', 'active', 'FULL'),
    },
  ],
  lists: {
    sources: {
      title: 'Sources',
      items: 'source[].name',
      current: { reading: 'monitor[1].source', by: 'value' },
      acts: [
        {
          title: 'Show on the first monitor',
          command: 'show',
          params: { monitor: 1, source: { item: 'value' } },
        },
        { title: 'Show on the group', command: 'groupShow', params: { source: { item: 'value' } } },
        { title: 'Show on all', command: 'showAll', params: { source: { item: 'value' } } },
      ],
    },
  },
  samples: [
    { heard: 'model=Gable\\nversion=2.4\\nname=Foyer', to: 'about', gives: { model: 'Gable', name: 'Foyer' } },
    {
      heard: 'monitor.1.source=Control boat/Program\\nmonitor.1.mode=full\\nmonitor.1.volume=40\\ngroup=',
      to: 'state',
      gives: {
        'monitor[1].source': 'Control boat/Program',
        'monitor[1].mode': 'full',
        'monitor[1].volume': 40,
        groupSource: '',
      },
    },
    { heard: 'error=there is no source Boat/Program', to: 'show', is: 'refused' },
    {
      command: 'show',
      params: { monitor: 2, source: 'Start/Tower' },
      sends: 'GET /set?at=2&source=Start%2FTower',
    },
  ],
};
