import type WebSocket from 'ws';
import type { Scale } from './compare';
import { openSocket, ownPanel, page } from './paths';
import { pause, startBoth } from './processes';
import { median, summarise, type Summary } from './stats';

const panels = 64;

/**
 * One change of a device until the last of 64 panels has it, through Sorrelfinch and through the bare relay, which is made to send as
 * many bytes.
 */
export async function measureFanOut({ events, runs }: Scale): Promise<void> {
  const { port, relayPort, bareDevice, ownDevice, close } = await startBoth();
  const own = await Promise.all(Array.from({ length: panels }, () => ownPanel(`ws://127.0.0.1:${port}`, page)));
  const bare = await Promise.all(Array.from({ length: panels }, () => openSocket(`ws://127.0.0.1:${relayPort}`)));
  const isChange = (text: string) => text.includes('"t":"diff"');
  const change = (n: number) => `NOW program ${(n % 6) + 1}`;
  const ofOwn = (n: number) => untilAll(own, isChange, () => ownDevice.report(change(n)));
  await ofOwn(1);
  const bytes = await lengthOf(own, isChange, () => ownDevice.report(change(2)));
  // The relay puts some 30 bytes around what the device says.
  const line = (n: number) => `NOW program ${(n % 6) + 1} ${'x'.repeat(Math.max(0, bytes - 50))}`;
  const ofBare = (n: number) =>
    untilAll(
      bare,
      () => true,
      () => bareDevice.report(line(n)),
    );

  const results = { bare: [] as Summary[], own: [] as Summary[] };
  // Each event is as many messages as there are panels.
  const each = Math.max(100, Math.round(events / 5));
  for (let run = 0; run < runs; run += 1) {
    for (const [name, once] of Object.entries({ bare: ofBare, own: ofOwn })) {
      const samples: number[] = [];
      for (let n = 0; n < each; n += 1) {
        samples.push(await once(n + 3));
        await pause(2);
      }
      results[name as 'bare' | 'own'].push(summarise(samples));
    }
  }
  console.log(`\nOne change to ${panels} panels, until the last has it (${bytes} bytes each, ${each} changes a run)`);
  for (const key of ['p50', 'p99'] as const) {
    const [base, ours] = [results.bare, results.own].map((all) => median(all.map((one) => one[key]))) as [
      number,
      number,
    ];
    const ratio = ours / base;
    const verdict = key === 'p99' ? (ratio <= 2 ? '  within 2x' : '  OVER 2x') : '';
    console.log(
      `  ${key}  bare relay ${base.toFixed(3)}   Sorrelfinch ${ours.toFixed(3)}   ratio ${ratio.toFixed(2)}x${verdict}`,
    );
  }
  for (const socket of [...own, ...bare]) socket.close();
  await close();
}

/** The time from what is done until every socket has a message that fits. */
function untilAll(sockets: readonly WebSocket[], fits: (text: string) => boolean, act: () => void): Promise<number> {
  return new Promise((resolve) => {
    let waiting = sockets.length;
    const startedAt = performance.now();
    for (const socket of sockets) {
      const onMessage = (data: WebSocket.RawData) => {
        if (!fits(String(data))) return;
        socket.off('message', onMessage);
        waiting -= 1;
        if (waiting === 0) resolve(performance.now() - startedAt);
      };
      socket.on('message', onMessage);
    }
    act();
  });
}

async function lengthOf(
  sockets: readonly WebSocket[],
  fits: (text: string) => boolean,
  act: () => void,
): Promise<number> {
  let bytes = 0;
  const note = (data: WebSocket.RawData) => {
    if (fits(String(data))) bytes = String(data).length;
  };
  sockets[0]?.on('message', note);
  await untilAll(sockets, fits, act);
  sockets[0]?.off('message', note);
  return bytes;
}
