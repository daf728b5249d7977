import type { DriverDocument } from '../../driver';
import type { DeviceRecord, ShowRecord, SnapshotRecord, VariableRecord, WatchRecord } from '../records';
import { mostSnapshots } from '../snapshot';
import { mostWatches } from '../watch';
import { ofInlets } from './inlets';
import { ofMacros } from './macros';
import { ownSnapshots } from './snapshots';
import { ownVariables } from './variables';
import { ownWatches } from './watches';

/** What the program itself knows and can do, as readings and commands of a device that is in no rig: it has no address and no link. */
export const ownDevice: DeviceRecord = {
  kind: 'device',
  id: 'own',
  version: 1,
  data: {
    tag: 'SHOW',
    name: 'The show itself',
    role: 'clock',
    driver: 'own',
    host: '',
    port: 1,
    enabled: true,
    site: '',
    user: '',
    options: {},
  },
};

export const ownId = ownDevice.id;

const clock = { type: 'time', writes: 'seconds', fps: 25 } as const;
const running = { while: 'running', equals: true, rate: 1 } as const;

const base: DriverDocument = {
  format: 1,
  id: 'own',
  version: 1,
  title: 'The show itself',
  standIn: false,
  role: 'clock',
  help: {},
  helpers: [],
  announced: [],
  searchWords: [],
  link: {
    kind: 'tcp',
    port: 1,
    secure: false,
    auth: 'none',
    securityToken: false,
    controllers: 'many',
    direction: 'both',
    notifications: 0,
    delivery: 'one',
    localAddress: '',
    connectTimeoutMs: 3000,
    answerWithinMs: 2000,
    window: 1,
    gapMs: 0,
    perMessage: false,
    tcpKeepAlive: true,
    headers: {},
    headerText: '',
    checkCertificate: false,
    topics: '',
    mqttVersion: '5.0',
    clientId: '',
    lockedOutCodes: [],
    occupiedCodes: [],
    lockedOutBy: 'any',
    unknownCodes: [],
  },
  framing: { kind: 'unframed', encoding: 'utf-8', maxFrameBytes: 64 },
  answers: 'none',
  identity: {},
  options: {},
  variants: [],
  greeting: [],
  questions: {},
  sync: { send: [], answered: false, withinMs: 3000 },
  polls: [],
  commands: {},
  readings: {
    timeOfDay: { title: 'Time of day', value: clock, runs: running },
    showTime: { title: 'Show time', value: clock, runs: running },
    devicesDown: { title: 'Devices down', value: { type: 'whole' } },
    devicesUp: { title: 'Devices up', value: { type: 'whole' } },
    running: { title: 'The clocks run', value: { type: 'onOff', on: '1', off: '0' } },
  },
  replies: [],
  errors: {},
  starters: [],
  lists: {},
  drives: {},
  stills: {},
  layouts: {},
  keeps: {},
  ports: {},
  samples: [],
};

/** What of a show the program itself speaks of. */
interface OwnParts {
  readonly snapshots: Iterable<SnapshotRecord>;
  readonly variables: Iterable<VariableRecord>;
  readonly watches: Iterable<WatchRecord>;
}

function made(snapshots: number, watches: number, variables: Iterable<VariableRecord>): DriverDocument {
  const [ofSnapshots, ofWatches, ofVariables] = [ownSnapshots(snapshots), ownWatches(watches), ownVariables(variables)];
  return {
    ...base,
    commands: { ...ofSnapshots.commands, ...ofMacros.commands, ...ofWatches.commands, ...ofVariables.commands },
    readings: {
      ...base.readings,
      ...ofSnapshots.readings,
      ...ofWatches.readings,
      ...ofInlets,
      ...ofMacros.readings,
      ...ofVariables.readings,
    },
    starters: [...ofSnapshots.starters, ...ofWatches.starters, ...ofVariables.starters],
    lists: ofSnapshots.lists,
  };
}

/** What every show can read and tell besides its devices, whatever snapshots and watches it has; without its variables. */
export const ownDocument: DriverDocument = made(mostSnapshots, mostWatches, []);

/** By what it is made of: as long as that stays, the document stays the same object. */
const known = new Map<string, DriverDocument>();
/** More are of no use: a show is edited step by step. */
const knownMost = 8;

/** The same for one show: what is listed for each of its snapshots and watches ends with the last one. */
export function ownDocumentFor({ snapshots, variables, watches }: OwnParts): DriverDocument {
  const most = (records: Iterable<SnapshotRecord | WatchRecord>) =>
    Math.max(1, ...[...records].map(({ data }) => data.number));
  const sorted = [...variables].sort((a, b) => a.data.order - b.data.order || a.data.key.localeCompare(b.data.key));
  const [ofSnapshots, ofWatches] = [most(snapshots), most(watches)];
  const key = JSON.stringify([
    ofSnapshots,
    ofWatches,
    sorted.map(({ data: { key, name, value } }) => [key, name, value]),
  ]);
  const document = known.get(key) ?? made(ofSnapshots, ofWatches, sorted);
  if (!known.has(key) && known.size >= knownMost) known.delete(known.keys().next().value ?? '');
  known.set(key, document);
  return document;
}

/** The same from all records of a show. */
export const ownDocumentOf = (records: Iterable<ShowRecord>): DriverDocument => ownDocumentFor(ownPartsOf(records));

function ownPartsOf(records: Iterable<ShowRecord>): OwnParts {
  const snapshots: SnapshotRecord[] = [];
  const variables: VariableRecord[] = [];
  const watches: WatchRecord[] = [];
  for (const record of records) {
    if (record.kind === 'snapshot') snapshots.push(record);
    else if (record.kind === 'variable') variables.push(record);
    else if (record.kind === 'watch') watches.push(record);
  }
  return { snapshots, variables, watches };
}
