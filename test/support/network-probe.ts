import { DriverShelf } from '../../src/core/driver';
import { shippedDrivers } from '../../src/drivers';
import { testConnection, type StageReport } from '../../src/engine/network/connection-test';
import { directProber } from './direct-prober';

/**
 * Tests one connection from wherever it is started, and prints what each stage found: run inside a network of its own.
 *   node network-probe.js <driver> <host> <port>
 */
const [, , driverId = '', host = '', port = '0'] = process.argv;
const shelf = new DriverShelf();
shelf.put(shippedDrivers);
const stages: StageReport[] = [];
await testConnection(
  {
    driver: shelf.for({ driver: driverId }),
    host,
    port: Number(port),
    user: '',
    password: '',
    through: undefined,
    enabled: true,
    options: {},
    helpers: [],
    sharedWith: [],
    otherPorts: [],
    liveAt: undefined,
    otherDrivers: [],
    own: undefined,
    live: 'no',
    interrupt: false,
    suspend: () => () => undefined,
  },
  directProber,
  (report) => stages.push(report),
  new AbortController().signal,
);
console.log(JSON.stringify(stages));
process.exit(0);
