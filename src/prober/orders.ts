import { setMaxListeners } from 'node:events';
import type { Announced, Hit, ProbeAnswers, ProbeOrder } from '../core/diagnosis';
import { lookUp } from './lookup';
import { listMidiPorts } from './midi-ports';
import { readNetwork, sourceFor } from './network';
import { fetchPicture } from './picture';
import { inTurn, tryTcp, tryUdp, type PortTry } from './ports';
import { allNeighbours, neighbourOf, ping } from './reach';
import { listenForDevices } from './search';
import { listSerialPorts } from './serial-ports';

type Answer = ProbeAnswers[ProbeOrder['do']];

/** The most tries of a search that are under way at a time: gentle to switches and the devices on them. */
const maxTriesInFlight = 64;
/** How long an open port is listened to: many devices greet at once. */
const greetingMs = 150;
const webRequest = new TextEncoder().encode('GET / HTTP/1.0\r\n\r\n');

/** Carries an order out, telling each answer as it comes. Ends early when the signal says so; never rejects for what the network does. */
export async function carryOut(order: ProbeOrder, tell: (answer: Answer) => void, signal: AbortSignal): Promise<void> {
  // Every try under way listens to it.
  setMaxListeners(0, signal);
  switch (order.do) {
    case 'network':
      return tell(await readNetwork());
    case 'address':
      return tell(await lookUp(order.host));
    case 'route':
      return tell({ from: await sourceFor(order.address) });
    case 'reach':
      return tell(await reach(order, signal));
    case 'ports': {
      const open: number[] = [];
      await inTurn(
        order.ports,
        16,
        async (port) => {
          const { answer } = await tryTcp(order.address, port, { timeoutMs: order.timeoutMs, signal });
          if (answer === 'open') open.push(port);
        },
        signal,
      );
      return tell({ open: open.sort((a, b) => a - b) });
    }
    case 'listen': {
      // Many services speak only when they are spoken to, and most answer a web request with an error of their own.
      const { timeoutMs } = order;
      const options = { timeoutMs, listenMs: timeoutMs, say: webRequest, signal };
      const { answer, heard } = await tryTcp(order.address, order.port, options);
      return tell({ answer, heard: hexOf(heard) });
    }
    case 'search':
      return search(order, tell, signal);
    case 'picture':
      return tell(await fetchPicture(order, signal));
    case 'neighbours':
      return tell({ known: await allNeighbours() });
    case 'serialPorts':
      return tell({ ports: await listSerialPorts() });
    case 'midiPorts':
      return tell({ ports: await listMidiPorts() });
    case 'announced':
      return listenForDevices(order.forMs, (found: Announced) => tell(found), signal);
  }
}

async function reach(
  { address, port, kind, timeoutMs }: Extract<ProbeOrder, { do: 'reach' }>,
  signal: AbortSignal,
): Promise<ProbeAnswers['reach']> {
  const tried: Promise<PortTry> =
    port === undefined
      ? Promise.resolve({ answer: 'open', heard: new Uint8Array() })
      : kind === 'udp'
        ? tryUdp(address, port, { timeoutMs: Math.min(timeoutMs, 400), signal })
        : tryTcp(address, port, { timeoutMs, listenMs: greetingMs, signal });
  const [pinged, { answer }] = await Promise.all([ping(address, timeoutMs), tried]);
  // After the tries: they made the system ask for the network card.
  const { neighbour, mac } = await neighbourOf(address);
  return { ping: pinged, neighbour, mac, port: answer };
}

async function search(
  { addresses, probes, timeoutMs }: Extract<ProbeOrder, { do: 'search' }>,
  tell: (answer: ProbeAnswers['search']) => void,
  signal: AbortSignal,
): Promise<void> {
  // Port by port over all addresses, so that no single device gets many tries at once.
  const tries = probes.flatMap((probe) => addresses.map((address) => ({ ...probe, address })));
  let tried = 0;
  let saidAt = 0;
  await inTurn(
    tries,
    maxTriesInFlight,
    async ({ address, kind, port, say }) => {
      const { answer, heard } =
        kind === 'udp'
          ? await tryUdp(address, port, { timeoutMs, say: Buffer.from(say, 'hex'), signal })
          : await tryTcp(address, port, { timeoutMs, listenMs: greetingMs, signal });
      tried += 1;
      const open = answer === 'open' || answer === 'closed-at-once';
      const { mac } = open ? await neighbourOf(address) : { mac: undefined };
      const known = mac === undefined ? {} : { mac: mac.toLowerCase() };
      const hit: Hit = { address, kind, port, heard: hexOf(heard), ...known };
      if (open) tell({ tried, of: tries.length, hit });
      else if (performance.now() - saidAt > 200) {
        saidAt = performance.now();
        tell({ tried, of: tries.length });
      }
    },
    signal,
  );
  tell({ tried, of: tries.length });
}

const hexOf = (bytes: Uint8Array): string => Buffer.from(bytes).toString('hex');
