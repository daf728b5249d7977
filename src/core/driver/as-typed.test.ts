import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { viscaOverIp as ptz, viscaOverTcp as ptzBare } from '../../drivers/visca';
import titles from '../../drivers/title-machine.json';
import { compileDriver } from './compile';
import { meets } from './confirm';
import { encodeCommand } from './encode';
import { actOf } from './list-act';
import { asRequestTarget } from './request-target';
import { typedValue } from './typed-value';

/** What is typed is what is sent, and a driver asks for nothing that its link or its protocol does not have. */

const compiled = (document: unknown) => {
  const made = compileDriver(document);
  if (!made.ok) throw new Error(made.error.map(({ path, message }) => `${path}: ${message}`).join('\n'));
  return made.value;
};

describe('a path that was typed', () => {
  it.each([
    ['/api/scene?name=Wide', '/api/scene?name=Wide'],
    ['/a/b;c=1?x=1&y=a,b', '/a/b;c=1?x=1&y=a,b'],
    ['/scene?name=Wide%20shot', '/scene?name=Wide%20shot'],
    ['/scene?name=Wide shot', '/scene?name=Wide%20shot'],
    ['/100%', '/100%25'],
    ['/Überblick', '/%C3%9Cberblick'],
    ['/a#b', '/a%23b'],
    ['/a"b<c>', '/a%22b%3Cc%3E'],
  ])('%s leaves as %s', (typed, target) => {
    expect(asRequestTarget(typed)).toBe(target);
  });

  it('is a request target whatever was typed, and stays what it is when it was one', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (typed) => {
        const target = asRequestTarget(typed);
        expect(target).toMatch(/^[\x21-\x7e]*$/);
        expect(asRequestTarget(target)).toBe(target);
      }),
    );
  });
});

describe('what is typed into a list', () => {
  it.each([
    [{ type: 'text' }, '2026', '2026'],
    [{ type: 'text' }, '10:30', '10:30'],
    [{ type: 'whole' }, '2026', 2026],
    [{ type: 'decimal' }, '-3.5', -3.5],
    [{ type: 'time', writes: 'seconds', fps: 25 }, '10:30', 630],
    [{ type: 'time', writes: 'seconds', fps: 25 }, '1:02:03.5', 3723.5],
    [{ type: 'whole' }, 'ten', 'ten'],
  ] as const)('for %o, %s is %s', (shape, typed, value) => {
    expect(typedValue(shape as never, typed)).toBe(value);
  });

  it('is taken as a title, also where it looks like a number or a time', () => {
    const { document } = compiled(titles);
    const [list = '', definition] = Object.entries(document.lists).find(([, { acts }]) =>
      acts.some(({ ask }) => ask !== undefined),
    ) ?? ['', undefined];
    const act = definition?.acts.findIndex(({ ask }) => ask !== undefined) ?? 0;
    for (const typed of ['2026', '10:30']) {
      const made = actOf(document, list, act, { index: 1, value: 'x' }, typed);
      expect(made.ok && Object.values(made.value.params)).toContain(typed);
    }
  });
});

describe('a camera', () => {
  it.each([ptz, ptzBare])('has no tilt speeds that the protocol has not', (document) => {
    const driver = compiled(document);
    for (const [id, { command }] of driver.commands)
      for (const [name, { value }] of Object.entries(command.params))
        if (/tilt.*speed/i.test(name) && value.type === 'whole') expect([id, name, value.max]).toEqual([id, name, 20]);
    const moved = encodeCommand(driver, 'moveTo', { pan: 0, tilt: 0, speed: 24 });
    const out = moved.ok && moved.value.out.kind === 'visca' ? moved.value.out.payload : new Uint8Array();
    // 81 01 06 02 VV WW …: pan speeds 01 to 18, tilt speeds 01 to 14.
    expect([...out.slice(0, 6)]).toEqual([0x81, 0x01, 0x06, 0x02, 24, 18]);
    expect(encodeCommand(driver, 'moveTo', { pan: 0, tilt: 0, tiltSpeed: 21 }).ok).toBe(false);
  });
});

it('a layer that was empty already confirms that it is out', () => {
  const command = compiled(titles).commands.get('out')?.command;
  const condition = command?.confirm?.by === 'readings' ? command.confirm.all[0] : undefined;
  const expectation = { key: 'layer[1].state', oneOf: condition?.oneOf ?? [] };
  expect(['ready', 'empty', 'on', 'going'].map((state) => meets(expectation, state))).toEqual([
    true,
    true,
    false,
    false,
  ]);
});

describe('a driver that asks for what its link cannot do is refused', () => {
  const base = {
    format: 1,
    id: 'asks',
    version: 1,
    title: 'Asks',
    role: 'gateway',
    framing: { kind: 'lines', ending: 'lf', encoding: 'utf-8', maxFrameBytes: 100 },
    commands: { go: { title: 'Go', send: 'go' } },
    readings: {},
  };
  it.each([
    ['a password over bare TCP', { kind: 'tcp', port: 1, auth: 'basic' }, 'link.auth'],
    ['Digest over datagrams', { kind: 'udp', port: 1, auth: 'digest' }, 'link.auth'],
    ['Digest over a WebSocket', { kind: 'websocket', port: 1, auth: 'digest' }, 'link.auth'],
    ['events over TCP', { kind: 'tcp', port: 1, events: '/events' }, 'link.events'],
    ['a subprotocol over TCP', { kind: 'tcp', port: 1, subprotocol: 'x' }, 'link.subprotocol'],
    ['TLS over datagrams', { kind: 'udp', port: 1, secure: true }, 'link.secure'],
  ])('%s', (_name, link, path) => {
    const made = compileDriver({ ...base, link });
    expect(made.ok ? [] : made.error.map((each) => each.path)).toContain(path);
  });

  it('and not when it asks for what it can', () => {
    expect(compileDriver({ ...base, link: { kind: 'tcp', port: 1, secure: true } }).ok).toBe(true);
    expect(compileDriver({ ...base, link: { kind: 'websocket', port: 1, auth: 'basic', path: '/x' } }).ok).toBe(true);
  });
});
