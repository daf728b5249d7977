import { DriverShelf } from '../src/core/driver';
import { shippedDrivers } from '../src/drivers';
import { testConnection } from '../src/engine/network/connection-test';
import { testsAtOnce } from '../src/engine/network/network-tools';
import { addressesIn } from '../src/core/net';
import { carryOut } from '../src/prober';
import { inTurn } from '../src/prober/ports';
import { directProber } from '../test/support/direct-prober';

/** Runs inside the bench's own network: see `network.ts`. */
const shelf = new DriverShelf();
shelf.put(shippedDrivers);
const driver = shelf.for({ driver: 'vision-switcher' });
const signal = new AbortController().signal;

const hosts = [
  ...Array.from({ length: 40 }, (_, n) => `10.71.1.${n + 1}`),
  ...Array.from({ length: 10 }, (_, n) => `10.71.2.${n + 1}`),
];
const ended = { well: 0, failed: 0 };
let startedAt = performance.now();
await inTurn(hosts, testsAtOnce, async (host) => {
  let failed = false;
  const target = {
    driver,
    host,
    port: 4401,
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
    live: 'no' as const,
    interrupt: false,
    suspend: () => () => undefined,
  };
  await testConnection(target, directProber, ({ verdict }) => (failed ||= verdict.is === 'failed'), signal);
  ended[failed ? 'failed' : 'well'] += 1;
});
const seconds = () => ((performance.now() - startedAt) / 1000).toFixed(1);
console.log(
  `\nTest of ${hosts.length} devices: ${seconds()} s (aim 6 s); ${ended.well} well, ${ended.failed} do not answer`,
);

const silent = addressesIn('10.71.3.0/24');
if (!silent.ok) throw new Error(silent.error);
const probes = Array.from({ length: 12 }, (_, n) => ({ kind: 'tcp' as const, port: 4401 + n, say: '' }));
startedAt = performance.now();
let tried = 0;
const order = { do: 'search' as const, addresses: [...silent.value], probes, timeoutMs: 500 };
await carryOut(order, (answer) => 'tried' in answer && (tried = answer.tried), signal);
console.log(
  `Search of a /24 over ${probes.length} ports where nothing answers: ${seconds()} s (aim 30 s), ${tried} tries`,
);
process.exit(0);
