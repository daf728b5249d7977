import { describe, expect, it } from 'vitest';
import { Gate, type GateRequest } from './gate';
import { WrongKeyBook } from './wrong-keys';

const local = new Gate({ port: 4300, host: '127.0.0.1', accessKey: undefined, allowedHosts: [] }, 'secret');
const open = new Gate(
  { port: 4300, host: '0.0.0.0', accessKey: 'a-long-access-key', allowedHosts: ['desk.example'] },
  'secret',
);
const shared = { port: 4300, host: '0.0.0.0', accessKey: 'a-long-access-key', allowedHosts: [] };
const request = (
  over: Partial<GateRequest['headers']> = {},
  remoteAddress = '127.0.0.1',
  url = '/rig',
): GateRequest => ({
  remoteAddress,
  headers: { host: 'localhost:4300', ...over },
  url,
});
const codeOf = (gate: Gate, from: GateRequest) => {
  const admitted = gate.admit(from);
  return admitted.ok ? admitted.value.kind : admitted.error.code;
};
const basic = (password: string) => `Basic ${Buffer.from(`x:${password}`).toString('base64')}`;
const away = '192.0.2.7';

describe('the gate', () => {
  it.each([
    ['loopback is the desk', local, request(), 'desk'],
    ['a panel’s connection has the rights of a panel', local, request({}, '127.0.0.1', '/live?as=panel'), 'panel'],
    ['the list of panels is the desk’s', local, request({}, '127.0.0.1', '/panels'), 'desk'],
    ['IPv6 loopback is the desk', local, request({ host: '[::1]:4300' }, '::1'), 'desk'],
    ['IPv4 inside IPv6 is loopback too', local, request({}, '::ffff:127.0.0.1'), 'desk'],
    ['a foreign host name is turned away', local, request({ host: 'rebound.example:4300' }), 'bad-host'],
    ['a missing host name is turned away', local, request({ host: undefined }), 'bad-host'],
    ['a name that only begins like ours is turned away', local, request({ host: 'localhost.example' }), 'bad-host'],
    ['a foreign origin is turned away', local, request({ origin: 'https://elsewhere.example' }), 'foreign-origin'],
    ['another port is another origin', local, request({ origin: 'http://localhost:9999' }), 'foreign-origin'],
    ['an origin that is none is turned away', local, request({ origin: 'null' }), 'foreign-origin'],
    ['our own origin is welcome', local, request({ origin: 'http://localhost:4300' }), 'desk'],
    ['from another computer a key is needed', open, request({}, away), 'key-needed'],
    ['a wrong key does not do', open, request({ authorization: 'Bearer a-long-access-keY' }, away), 'key-needed'],
    [
      'the key as a bearer token makes automation',
      open,
      request({ authorization: 'Bearer a-long-access-key' }, away),
      'automation',
    ],
    [
      'the key as a password makes the desk',
      open,
      request({ authorization: basic('a-long-access-key') }, away),
      'desk',
    ],
    [
      'the cookie of a browser that has shown it does too',
      open,
      request({ cookie: `a=b; sorrelfinch-session=${open.cookie}` }, away),
      'desk',
    ],
    ['another cookie does not', open, request({ cookie: 'sorrelfinch-session=guess' }, away), 'key-needed'],
    [
      'a host name that was allowed is known',
      open,
      request({ host: 'desk.example', authorization: basic('a-long-access-key') }, away),
      'desk',
    ],
    [
      'another is not',
      open,
      request({ host: 'other.example', authorization: basic('a-long-access-key') }, away),
      'bad-host',
    ],
    [
      'without a key set nobody comes in from elsewhere',
      local,
      request({ authorization: 'Bearer ' }, away),
      'key-needed',
    ],
    [
      'where this computer has to show the key, too, it is asked',
      new Gate({ ...shared, keyOnLoopback: true }, 'secret'),
      request(),
      'key-needed',
    ],
    [
      'and comes in with it',
      new Gate({ ...shared, keyOnLoopback: true }, 'secret'),
      request({ authorization: basic('a-long-access-key') }),
      'desk',
    ],
    ...[
      '/panel/../desk/edit',
      '/panel/..',
      '/panel/%2e%2e/desk/edit',
      '//desk/edit',
      '/panel\\..\\desk',
      '/panel/%2F..',
      '/panel/%5c',
    ].map((url) => [`the path ${url} means two things`, local, request({}, '127.0.0.1', url), 'bad-path'] as const),
    ['a query may hold anything', local, request({}, '127.0.0.1', '/desk/as-run?text=%2F..%2F'), 'desk'],
  ] as const)('%s', (_name, gate, from, kind) => {
    expect(codeOf(gate, from)).toBe(kind);
  });
});

describe('wrong access keys', () => {
  it('make an address wait longer and longer, while the right key from elsewhere still works', () => {
    let now = 0;
    const told: string[] = [];
    const book = new WrongKeyBook(() => now);
    book.onWait((sentence) => told.push(sentence));
    const gate = new Gate(shared, 'secret', undefined, book);
    const wrong = request({ authorization: basic('guess') }, away);
    const right = (address: string) => request({ authorization: basic('a-long-access-key') }, address);
    for (let n = 0; n < 3; n += 1) expect(codeOf(gate, wrong)).toBe('key-needed');
    expect(codeOf(gate, right(away))).toBe('desk');
    for (let n = 0; n < 4; n += 1) expect(codeOf(gate, wrong)).toBe('key-needed');
    // Not even the right one is looked at, or guessing would go on.
    expect(codeOf(gate, right(away))).toBe('too-many-keys');
    expect(codeOf(gate, right('192.0.2.8'))).toBe('desk');
    expect(codeOf(gate, request({ cookie: `sorrelfinch-session=${gate.cookie}` }, away))).toBe('desk');
    now += 1001;
    expect(codeOf(gate, wrong)).toBe('key-needed');
    now += 1001;
    expect(codeOf(gate, wrong)).toBe('too-many-keys');
    now += 1001;
    expect(codeOf(gate, right(away))).toBe('desk');
    expect(book.list).toEqual([]);
    expect(told).toHaveLength(2);
  });

  it('let a guesser try a hundred keys a day and no more than that', () => {
    let now = 0;
    const book = new WrongKeyBook(() => now);
    let tries = 0;
    for (; now < 24 * 3_600_000; now += 1000)
      if (book.waitMs(away) === 0) {
        book.wrong(away);
        tries += 1;
      }
    expect(tries).toBeLessThanOrEqual(110);
  });
});
