import { listenForDevices } from '../../src/prober';

/** Listens for announced services from wherever it is started, and prints them: run inside a network of its own. */
const found: unknown[] = [];
await listenForDevices(2500, (each) => found.push(each), new AbortController().signal);
console.log(JSON.stringify(found));
process.exit(0);
