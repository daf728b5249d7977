import { describe, expect, it } from 'vitest';
import type { ComputerFinding, Network, ProtocolFinding } from './findings';
import {
  judgeAddress,
  judgeComputer,
  judgeIdentity,
  judgePort,
  judgeProtocol,
  judgeReports,
  judgeRoundTrip,
  judgeRoute,
  judgeSignIn,
  troubleOf,
} from './judge';
import { judgeHttpAnswer } from './http-answer';
import { besideText } from './beside';
import { looksLike } from './looks-like';
import { reportText, summaryOf, summaryText } from './summary';

const eth0 = { name: 'eth0', address: '10.0.5.20', prefix: 24, mac: '02:00:00:00:00:01', internal: false };
const lo = { name: 'lo', address: '127.0.0.1', prefix: 8, mac: '00:00:00:00:00:00', internal: true };
const network: Network = { interfaces: [lo, eth0], gateways: [{ address: '10.0.5.1', interface: 'eth0' }] };
const bytes = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));

describe('an address', () => {
  const judge = (host: string, more: object = {}) =>
    judgeAddress({ host, addresses: [host], error: undefined, network, sharedWith: [], ...more });
  it.each([
    ['10.0.5.7', undefined],
    ['10.0.5.0', 'network-address'],
    ['10.0.5.255', 'broadcast-address'],
    ['239.1.2.3', 'bad-address'],
    ['0.0.0.0', 'bad-address'],
    ['', 'no-address'],
  ])('%s is judged %s', (host, trouble) => {
    expect(judge(host).trouble).toBe(trouble);
  });
  it('that is another device’s too, or a name that nobody knows, is told', () => {
    expect(judge('10.0.5.7', { sharedWith: ['C2'] })).toMatchObject({ trouble: 'used-twice', seen: 'C2 has it too.' });
    expect(judge('cam.invalid', { addresses: [], error: 'not-found' }).trouble).toBe('name-unknown');
    expect(judge('cam.invalid', { addresses: [], error: 'timed-out' }).seen).toContain('No name server');
  });
});

describe('a route', () => {
  const judge = (address: string, from: string | undefined, gateways = network.gateways) =>
    judgeRoute({ address, from, network: { ...network, gateways }, router: 'not-asked' });
  it('on the own subnet names the interface, over a gateway the gateway', () => {
    expect(judge('10.0.5.7', '10.0.5.20')).toMatchObject({ is: 'passed' });
    expect(judge('10.0.5.7', '10.0.5.20').seen).toContain('eth0');
    expect(judge('192.168.1.7', '10.0.5.20').seen).toContain('10.0.5.1');
  });
  it.each([
    ['10.0.6.7', [], 'neighbour-subnet'],
    ['192.168.1.7', [], 'no-route'],
    ['169.254.3.4', [], 'no-route'],
    ['192.168.1.7', [{ address: '10.9.9.1', interface: 'eth0' }], 'gateway-outside'],
  ])('to %s over %j is %s', (address, gateways, trouble) => {
    expect(judge(address, undefined, gateways).trouble).toBe(trouble);
  });
  it('over a router says whether that answers', () => {
    const over = { address: '192.168.1.7', from: '10.0.5.20', network };
    expect(judgeRoute({ ...over, router: 'answered' }).seen).toContain('10.0.5.1, which answers');
    expect(judgeRoute({ ...over, router: 'silent' }).trouble).toBe('router-silent');
  });
  it('needs a network at all', () => {
    const alone = { interfaces: [lo], gateways: [] };
    expect(judgeRoute({ address: '10.0.5.7', from: undefined, network: alone, router: 'not-asked' }).trouble).toBe(
      'no-network',
    );
  });
});

describe('a computer', () => {
  const silent: ComputerFinding = {
    address: '10.0.5.7',
    kind: 'tcp',
    network,
    ping: 'silent',
    neighbour: 'missing',
    mac: undefined,
    port: 'silent',
  };
  it('is there when anything of it is seen', () => {
    for (const sign of [{ ping: 'answered' }, { port: 'refused' }, { port: 'open' }, { neighbour: 'known' }] as const) {
      expect(judgeComputer({ ...silent, ...sign }).is).toBe('passed');
    }
  });
  it('that is not there is another thing near by than behind a gateway', () => {
    expect(judgeComputer(silent).trouble).toBe('nobody-there');
    expect(judgeComputer({ ...silent, address: '192.168.1.7' }).trouble).toBe('computer-silent');
  });
  it('that is only spoken to by datagrams is left to its protocol', () => {
    expect(judgeComputer({ ...silent, kind: 'udp', neighbour: 'not-told' }).is).toBe('not-possible');
  });
});

describe('a port', () => {
  const base = { kind: 'tcp', port: 4401, answersAt: [], openPorts: [], otherDrivers: [] } as const;
  it('that is refused offers where the device answered instead', () => {
    expect(judgePort({ ...base, answer: 'refused', answersAt: [4402], openPorts: [4402, 80] })).toMatchObject({
      trouble: 'port-refused',
      mends: [{ do: 'port', port: 4402 }],
    });
    const otherDrivers = [{ id: 'x', title: 'X' }];
    expect(judgePort({ ...base, answer: 'refused', otherDrivers }).trouble).toBe('other-setting');
  });
  it('that says nothing is filtered by TCP and unknown by UDP', () => {
    expect(judgePort({ ...base, answer: 'silent' }).trouble).toBe('port-silent');
    expect(judgePort({ ...base, kind: 'udp', answer: 'silent' }).is).toBe('not-possible');
    expect(judgePort({ ...base, answer: 'unreachable' }).trouble).toBe('port-silent');
  });
});

const down: ProtocolFinding = {
  link: { word: 'down', cause: 'no-greeting' },
  cause: 'no-greeting',
  understood: false,
  heard: new Uint8Array(),
  greeting: 'HAIL switcher 1 ',
  otherDrivers: [],
  upForMs: undefined,
  through: false,
  computerSeen: true,
  serial: undefined,
  unfit: undefined,
};
const serial = { path: '/dev/ttyUSB0', settings: '9600 8N1' };

describe('a protocol', () => {
  it.each([
    ['nothing', {}, 'mute'],
    ['nothing behind a gateway', { through: true }, 'behind-gateway'],
    ['an end', { cause: 'closed' }, 'hangs-up'],
    ['a web page', { heard: bytes('HTTP/1.1 400 Bad Request\r\n') }, 'other-protocol'],
    ['the family’s word', { heard: bytes('HAIL matrix 1 12\r\n') }, 'wrong-model'],
    ['a whole message that no reply fits', { heard: bytes('STATE 7\r\n'), unfit: 'STATE 7' }, 'no-reply-fits'],
    ['silence on a serial line', { serial, cause: 'serial-silent' }, 'serial-silent'],
    ['rubbish on a serial line', { serial, cause: 'no-greeting', heard: Uint8Array.of(0x7f, 0xff) }, 'garbage'],
    ['rubbish', { heard: Uint8Array.of(0x7f, 0x15, 0x0b, 0xff) }, 'garbage'],
    ['another driver’s answer', { otherDrivers: [{ id: 'x', title: 'X' }] }, 'other-setting'],
    ['no sign of the computer', { computerSeen: false }, 'computer-silent'],
    ['a port of ours that is taken', { cause: 'port-taken' }, 'local-port-taken'],
    ['the gateway’s failure', { cause: 'gateway' }, 'gateway-fails'],
  ])('%s is %s', (_name, more, trouble) => {
    expect(judgeProtocol({ ...down, ...more } as ProtocolFinding).trouble).toBe(trouble);
  });
  it('that is understood, or asks for a sign-in, is right', () => {
    expect(judgeProtocol({ ...down, understood: true }).is).toBe('passed');
    expect(judgeProtocol({ ...down, link: { word: 'locked out' } }).is).toBe('passed');
    expect(judgeProtocol({ ...down, link: { word: 'one-way' } }).is).toBe('not-possible');
  });
});

describe('a web server that the driver has no question for', () => {
  it.each([
    ['HTTP/1.1 404 Not Found\r\n', true, undefined],
    ['HTTP/1.1 401 Unauthorized\r\n', true, undefined],
    ['HTTP/1.1 401 Unauthorized\r\n', false, 'no-password'],
    ['SSH-2.0-x\r\n', false, 'other-protocol'],
    ['\x01\x02', false, 'other-protocol'],
    ['', false, 'mute'],
  ])('that answers %j, with a password: %s, is %s', (said, hasPassword, trouble) => {
    expect(judgeHttpAnswer(bytes(said), hasPassword).trouble).toBe(trouble);
  });
  it('with a certificate that does not fit is told why', () => {
    const link = { word: 'down', cause: 'certificate', detail: 'CERT_HAS_EXPIRED' } as const;
    const verdict = judgeProtocol({ ...down, link, cause: 'certificate' });
    expect(verdict).toMatchObject({ trouble: 'certificate', seen: 'Its certificate has expired.' });
  });
});

describe('what comes after', () => {
  it('tells a wrong password from none and from an occupied device', () => {
    const base = { link: { word: 'locked out' }, signsIn: true, hasPassword: true, unfit: undefined } as const;
    expect(judgeSignIn(base).trouble).toBe('wrong-password');
    expect(judgeSignIn({ ...base, hasPassword: false }).trouble).toBe('no-password');
    expect(judgeSignIn({ ...base, link: { word: 'occupied' } }).trouble).toBe('occupied');
    expect(judgeSignIn({ ...base, link: { word: 'down' } }).trouble).toBe('no-state');
    const unfit = judgeSignIn({ ...base, link: { word: 'down' }, unfit: 'STATE 7' });
    expect(unfit).toMatchObject({ trouble: 'no-reply-fits', seen: expect.stringContaining('“STATE 7”') as string });
  });

  const known = {
    model: 'A',
    firmware: '1.0',
    knownModels: ['A'],
    knownFirmwares: ['1.x'],
    modelKnown: true,
    firmwareKnown: true,
    driversForModel: [],
    options: [],
    helpersMissing: [],
    clockAhead: undefined,
  };
  it('tells another model, another firmware, another option and a missing helper', () => {
    expect(judgeIdentity(known).is).toBe('passed');
    expect(judgeIdentity({ ...known, modelKnown: false }).trouble).toBe('wrong-model');
    expect(judgeIdentity({ ...known, firmwareKnown: false }).trouble).toBe('firmware-unknown');
    expect(judgeIdentity({ ...known, helpersMissing: ['Relay'] }).trouble).toBe('helper-missing');
    const options = [{ name: 'inputs', title: 'Inputs', says: 8 }];
    expect(judgeIdentity({ ...known, options }).mends).toEqual([
      { do: 'option', name: 'inputs', title: 'Inputs', value: 8 },
    ]);
  });

  it('counts what is slow, lost and unreadable', () => {
    const times = Array.from({ length: 20 }, () => 4);
    const base = { times, lost: 0, unreadable: 0, refusal: undefined, possible: true, through: false };
    expect(judgeRoundTrip({ ...base, refusal: 'HTTP 404' }).trouble).toBe('question-refused');
    expect(judgeRoundTrip(base).is).toBe('passed');
    expect(judgeRoundTrip({ ...base, times: base.times.map(() => 400) }).trouble).toBe('slow');
    expect(judgeRoundTrip({ ...base, lost: 2 }).trouble).toBe('lossy');
    expect(judgeRoundTrip({ ...base, unreadable: 3 }).trouble).toBe('garbage');
    expect(judgeRoundTrip({ ...base, times: [], lost: 3 }).trouble).toBe('mute');
    expect(judgeRoundTrip({ ...base, times: [], lost: 3, through: true }).trouble).toBe('behind-gateway');
    expect(judgeRoundTrip({ ...base, possible: false }).is).toBe('not-possible');
  });

  it('says whether reports come unasked', () => {
    const odd = { unfitting: 0, unfit: undefined, unmatched: 0 };
    const base = { unasked: 0, answers: 0, listenedMs: 1500, polls: false, oneWay: false, ...odd };
    expect(judgeReports({ ...base, unasked: 3 }).seen).toContain('unasked');
    expect(judgeReports({ ...base, answers: 3, polls: true }).seen).toContain('polled');
    expect(judgeReports(base).is).toBe('not-possible');
    expect(judgeReports({ ...base, answers: 1, unfitting: 2, unfit: 'TEMP 40', unmatched: 1 }).seen).toBe(
      'State came when asked; nothing changed by itself in 1.5 s. 2 frames fit no reply of the driver, such as “TEMP 40”. ' +
        '1 answer came that nothing had asked for.',
    );
  });

  it('is named by its first failure, else by its first doubt', () => {
    const doubt = { is: 'doubtful', trouble: 'slow', seen: '' } as const;
    const failure = { is: 'failed', trouble: 'mute', seen: '' } as const;
    expect(troubleOf([{ is: 'passed', seen: '' }, doubt, failure])).toBe('mute');
    expect(troubleOf([doubt])).toBe('slow');
    expect(troubleOf([])).toBeUndefined();
  });
});

it.each([
  ['SSH-2.0-x\r\n', 'SSH'],
  ['RFB 003.008\n', 'RFB'],
  ['HTTP/1.0 400 no\r\n', 'HTTP'],
  ['\x15\x03\x01\x00\x02', 'TLS'],
  ['220 mail ready\r\n', 'mail'],
  ['{"hello":1}', 'JSON'],
  ['Welcome to the thing\r\n', 'Welcome to the thing'],
])('%j looks like %s', (said, name) => {
  expect(looksLike(bytes(said))).toContain(name);
});

it('does not guess at what it cannot read', () => {
  expect(looksLike(Uint8Array.of(0x7f, 0x15, 0x0b, 0x7f))).toBeUndefined();
});

describe('a bad one beside a good one', () => {
  const pass = (stage: 'address' | 'route' | 'computer' | 'port', seen = 'well') => ({
    stage,
    verdict: { is: 'passed', seen } as const,
  });
  const good = {
    tag: 'C1',
    found: [pass('address'), pass('route'), pass('computer'), pass('port', 'Port 4402 is open.')],
  };
  const bad = [
    pass('address'),
    pass('route'),
    pass('computer'),
    { stage: 'port', verdict: { is: 'failed', trouble: 'port-refused', seen: '' } } as const,
  ];
  it('says up to where they are alike, and what differs', () => {
    const said = besideText(bad, good);
    expect(said).toBe(
      'Address, route and computer are as with C1, which is well; what differs is port. There it says: Port 4402 is open.',
    );
  });
  it('says nothing when neither fails, or both at the same place', () => {
    expect(besideText(good.found, good)).toBeUndefined();
    expect(besideText(bad, { tag: 'C2', found: bad })).toBeUndefined();
  });
});

describe('the tests of a rig at a glance', () => {
  const well = { is: 'passed', seen: '' } as const;
  const refused = { is: 'failed', trouble: 'port-refused', seen: 'Port 4402 is closed.' } as const;
  const slow = { is: 'doubtful', trouble: 'slow', seen: 'Half within 180 ms.' } as const;
  const tests = [
    { tag: 'SW1', name: 'Switcher', verdicts: [well, slow], done: true },
    { tag: 'C1', name: 'Tower', verdicts: [well, refused], done: true },
    { tag: 'C2', name: 'Finish', verdicts: [well, refused], done: true },
    { tag: 'R1', name: 'Replays', verdicts: [well, well], done: true },
    { tag: 'A1', name: 'Sound', verdicts: [well], done: false },
  ];

  it('counts how they ended, and puts the devices that share a trouble together, what failed first', () => {
    const summary = summaryOf(tests);
    expect(summaryText(summary)).toBe('1 of 5 passed, 1 worth a look, 2 failed, 1 still to come');
    expect(summary.troubles).toEqual([
      { trouble: 'port-refused', is: 'failed', tags: ['C1', 'C2'] },
      { trouble: 'slow', is: 'doubtful', tags: ['SW1'] },
    ]);
  });

  it('is a report to hand on, a device a line', () => {
    const lines = reportText(tests).split('\n');
    expect(lines[1]).toContain('C1\tTower\tNothing listens on this port\tPort 4402 is closed.\t');
    expect(lines[3]).toBe('R1\tReplays\tpassed');
  });
});
