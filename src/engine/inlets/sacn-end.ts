import { createSocket } from 'node:dgram';
import { DmxSources, sourceLostMs } from '../../core/inlet';
import type { InletData } from '../../core/show';
import { decodeSacn, groupOfUniverse } from '../../core/wire';
import type { InletEnd, Listener } from './inlet-listener';
import { RateLimit } from './rate-limit';

/** Levels are told so often at the most. */
const tellEveryMs = 40;
const half = 128;

/** Levels of one universe (ANSI E1.31), as readings. A channel that is faded up over the half, or down below it, is a message for watches and learning. */
export function listenSacn(data: InletData, listener: Listener): InletEnd {
  const { universe = 1, channels = 64, first = 1 } = data;
  const sources = new DmxSources(universe);
  const limit = new RateLimit();
  const told = new Map<number, number>();
  const isHigh = new Map<number, boolean>();
  let from = '';
  let timer: NodeJS.Timeout | undefined;
  const tell = () => {
    timer = undefined;
    const levels = sources.levels(performance.now());
    if (!levels) return lose();
    const news: { key: string; value: number }[] = [];
    for (let n = 0; n < Math.min(channels, levels.length); n += 1) {
      const level = levels[n] ?? 0;
      if (told.get(n) === level) continue;
      told.set(n, level);
      news.push({ key: `dmx[${first + n}].level`, value: level });
      const high = level >= half;
      // What is up already when the first packet comes was not moved just now.
      const before = isHigh.get(n);
      isHigh.set(n, high);
      if (before === undefined || before === high) continue;
      listener.onHeard({
        text: `dmx ${first + n} ${high ? 'on' : 'off'}`,
        request: () => undefined,
        from,
        answer: () => undefined,
      });
    }
    if (news.length > 0) listener.onReadings(news, []);
  };
  const lose = () => {
    if (told.size > 0)
      listener.onReadings(
        [],
        [...told.keys()].map((n) => `dmx[${first + n}].level`),
      );
    told.clear();
    isHigh.clear();
  };
  const socket = createSocket({ type: 'udp4', reuseAddr: true });
  socket.on('error', (error) => listener.onPortFailed(error));
  socket.on('message', (bytes, { address, port }) => {
    const at = `${address}:${port}`;
    if (!listener.mayComeFrom(address)) return listener.onRefused(at, 'sender not allowed');
    if (!limit.takes()) return listener.onRefused(at, 'too many packets per second');
    const packet = decodeSacn(bytes);
    if (!packet.ok) return listener.onRefused(at, 'no levels of sACN');
    if (!sources.take(packet.value, performance.now())) return;
    from = at;
    timer ??= setTimeout(tell, tellEveryMs);
  });
  const looking = setInterval(() => {
    if (!sources.levels(performance.now())) lose();
  }, sourceLostMs / 2);
  looking.unref();
  socket.bind(data.port, data.host === '127.0.0.1' ? data.host : '0.0.0.0', () => {
    try {
      socket.addMembership(groupOfUniverse(universe), data.host === '0.0.0.0' ? undefined : data.host);
    } catch {
      // Not every network card takes part in multicast; what is sent to this computer itself is heard all the same.
    }
    listener.onState('listening');
  });
  return {
    close: () => {
      clearTimeout(timer);
      clearInterval(looking);
      lose();
      socket.close();
    },
  };
}
