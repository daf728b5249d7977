import { describe, expect, it } from 'vitest';
import { Gate, type GateRequest } from './gate';

const local = new Gate({ port: 4300, host: '127.0.0.1', accessKey: undefined, allowedHosts: [] }, 'secret');
const open = new Gate(
  { port: 4300, host: '0.0.0.0', accessKey: 'a-long-access-key', allowedHosts: ['desk.example'] },
  'secret',
);
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
  ] as const)('%s', (_name, gate, from, kind) => {
    expect(codeOf(gate, from)).toBe(kind);
  });
});
