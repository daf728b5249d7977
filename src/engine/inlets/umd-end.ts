import { umdShown, type UmdShown } from '../../core/inlet';
import { mostDisplays, type InletData } from '../../core/show';
import type { InletEnd, Listener } from './inlet-listener';
import { RateLimit } from './rate-limit';
import { listenUdp } from './sockets';

/** Names and tally of another system (UMD, versions 3.1 and 5.0) over UDP, as readings. A left lamp that changes is a message for watches and learning. */
export function listenUmd(data: InletData, listener: Listener): InletEnd {
  const { first = 0 } = data;
  const limit = new RateLimit();
  const shown = new Map<number, UmdShown>();
  const end = listenUdp(data, listener, (bytes, from) => {
    if (!limit.takes()) return listener.onRefused(from, 'too many packets per second');
    const read = umdShown(bytes);
    if (!read.ok) return listener.onRefused(from, 'not UMD tally');
    const news: { key: string; value: string }[] = [];
    for (const now of read.value) {
      const number = first + now.display;
      if (number >= mostDisplays) {
        listener.onRefused(from, `a display above ${mostDisplays - 1}`);
        continue;
      }
      const before = shown.get(number);
      shown.set(number, now);
      for (const what of ['text', 'left', 'right'] as const)
        if (before?.[what] !== now[what]) news.push({ key: `display[${number}].${what}`, value: now[what] });
      if (before && before.left !== now.left)
        listener.onHeard({
          text: `umd ${number} ${now.left}`,
          request: () => undefined,
          from,
          answer: () => undefined,
        });
    }
    if (news.length > 0) listener.onReadings(news, []);
  });
  return {
    close: () => {
      const keys = [...shown.keys()].flatMap((n) => ['text', 'left', 'right'].map((what) => `display[${n}].${what}`));
      if (keys.length > 0) listener.onReadings([], keys);
      end.close();
    },
  };
}
