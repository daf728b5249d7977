import type { DriverDocument } from '../driver';
import { ownSnapshots } from './own-snapshots';
import type { DeviceRecord, SnapshotRecord } from './records';
import { mostSnapshots } from './snapshot';

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

const withSnapshots = (most: number): DriverDocument => {
  const snapshots = ownSnapshots(most);
  return { ...base, ...snapshots, readings: { ...base.readings, ...snapshots.readings } };
};

/** What every show can read and tell besides its devices, whatever snapshots it has. */
export const ownDocument: DriverDocument = withSnapshots(mostSnapshots);

/** By the highest number of a snapshot: as long as that stays, the document stays the same object. */
const known = new Map<number, DriverDocument>();

/** The same for a show with these snapshots: what is listed for each of them ends with the last one. */
export function ownDocumentFor(snapshots: Iterable<SnapshotRecord>): DriverDocument {
  const most = Math.max(1, ...[...snapshots].map(({ data }) => data.number));
  const document = known.get(most) ?? withSnapshots(most);
  known.set(most, document);
  return document;
}
