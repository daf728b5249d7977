import type { SocketLike } from './live-socket';

interface Early {
  readonly socket: WebSocket;
  readonly asked: readonly string[];
  readonly heard: unknown[];
}

declare global {
  interface Window {
    sorrelfinchEarly?: Early | undefined;
  }
}

/**
 * Runs in a panel's page before its program is there: it connects to the engine and asks for the state of the show and for the page
 * that the address names, so that both are there when the program is. What comes meanwhile is kept.
 */
export const earlySocketScript = `(() => {
  try {
    const page = location.pathname.split('/').slice(2).pop() || '';
    const asked = ['status'].concat(/^[\\w-]{1,64}$/.test(page) ? ['page:' + page] : []);
    const socket = new WebSocket((location.protocol === 'https:' ? 'wss://' : 'ws://') + location.host + '/live?as=panel');
    const heard = [];
    socket.onopen = () => socket.send(JSON.stringify({ t: 'sub', topics: asked }));
    socket.onmessage = (event) => heard.push(event.data);
    window.sorrelfinchEarly = { socket, asked, heard };
  } catch {}
})();`;

/** That connection, once, if it is still good: its messages so far are delivered again to the part that takes it over. */
export function takeEarlySocket(): SocketLike | undefined {
  const early = window.sorrelfinchEarly;
  window.sorrelfinchEarly = undefined;
  if (!early || early.socket.readyState > WebSocket.OPEN) return undefined;
  const { socket, asked, heard } = early;
  const taken: SocketLike = {
    get readyState() {
      return socket.readyState;
    },
    asked,
    send: (text) => socket.send(text),
    close: () => socket.close(),
    onopen: null,
    onmessage: null,
    onclose: null,
    onerror: null,
  };
  const begin = () => {
    taken.onopen?.();
    for (const data of heard) taken.onmessage?.({ data });
    socket.onmessage = (event) => taken.onmessage?.(event);
  };
  socket.onclose = () => taken.onclose?.();
  socket.onerror = () => taken.onerror?.();
  if (socket.readyState === WebSocket.OPEN) {
    socket.onmessage = (event) => void heard.push(event.data);
    queueMicrotask(begin);
  } else {
    socket.onopen = () => {
      socket.send(JSON.stringify({ t: 'sub', topics: asked }));
      begin();
    };
  }
  return taken;
}
