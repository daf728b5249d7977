import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { deviceRecord } from '../../test/support/records';
import type { RecordChange } from '../core/show';
import { shippedDrivers } from '../drivers';
import { childVariables } from '../server/child-messages';
import { principalHeader, signPrincipal } from '../server/principal-header';
import * as actions from './actions';
import * as store from './server/show-store';

/** Who asks, as the front door signed it. */
const asked = vi.hoisted(() => ({ headers: new Headers() }));
vi.mock('server-only', () => ({}));
vi.mock('next/headers', () => ({ headers: () => Promise.resolve(asked.headers) }));

const window = 'window01';
const token = 'token-of-this-start';
let dir: string;

const comeAs = (kind: string, signedWith = token) => {
  asked.headers = new Headers({ [principalHeader]: signPrincipal(kind, signedWith) });
};
const edit = (...changes: RecordChange[]) => ({ title: 'An edit', changes });
const add = (tag: string) => edit({ op: 'add', record: deviceRecord(tag) });
const tags = () =>
  store.showNews(window, undefined).puts.flatMap((each) => (each.kind === 'device' ? each.data.tag : []));

beforeEach(() => {
  dir = mkdtempSync(join(tmpdir(), 'sorrelfinch-actions-'));
  vi.stubEnv('DATA_DIR', dir);
  vi.stubEnv(childVariables.token, token);
  // No engine runs: it hears of nothing, and nothing waits for it.
  vi.stubEnv(childVariables.controlPort, '1');
  comeAs('desk');
  store.showDb();
});
afterEach(() => {
  const kept = globalThis as { sorrelfinchShow?: { close(): void } };
  kept.sorrelfinchShow?.close();
  delete kept.sorrelfinchShow;
  rmSync(dir, { recursive: true, force: true });
  vi.unstubAllEnvs();
});

describe('who may edit', () => {
  test.each([
    ['a panel', () => comeAs('panel')],
    ['automation', () => comeAs('automation')],
    ['somebody whose mark was signed at another start', () => comeAs('desk', 'token-of-yesterday')],
    ['somebody without a mark', () => void (asked.headers = new Headers())],
    ['somebody with half a mark', () => void (asked.headers = new Headers({ [principalHeader]: 'desk' }))],
  ])('%s is refused by every action, and nothing is changed', async (_who, come) => {
    await actions.applyEditAction(add('C1'), window);
    come();
    const refused = { ok: false, message: 'Only the desk can edit the show.' };
    expect(await actions.applyEditAction(add('C2'), window)).toEqual(refused);
    expect(await actions.undoAction(window)).toEqual(refused);
    expect(await actions.redoAction(window)).toEqual(refused);
    expect(await actions.putInServiceAction('')).toEqual(refused);
    expect(await actions.stepBackAction()).toEqual(refused);
    expect(await actions.leaveServiceAction()).toEqual(refused);
    expect(await actions.installDriverAction('{}')).toEqual(refused);
    expect(await actions.removeDriverAction('mine')).toEqual(refused);
    expect(await actions.setPasswordAction('dev-C1', 'secret')).toEqual(refused);
    const { service, withPassword } = store.showNews(window, undefined);
    expect({ tags: tags(), running: service.running, withPassword }).toEqual({
      tags: ['C1'],
      running: null,
      withPassword: [],
    });
  });
});

describe('an edit', () => {
  test('is stored, undone and done again, each with its title', async () => {
    expect(await actions.applyEditAction(add('C1'), window)).toEqual({ ok: true, said: 'Saved: An edit' });
    expect(await actions.undoAction(window)).toEqual({ ok: true, said: 'Undone: An edit' });
    expect(tags()).toEqual([]);
    expect(await actions.redoAction(window)).toMatchObject({ ok: true });
    expect(tags()).toEqual(['C1']);
  });

  test('of another window is not undone here', async () => {
    await actions.applyEditAction(add('C1'), window);
    expect(await actions.undoAction('window02')).toMatchObject({ ok: false });
    expect(tags()).toEqual(['C1']);
  });

  test.each([
    ['no edit', 'nonsense'],
    ['nothing', undefined],
    [
      'a record of a kind that is unknown',
      edit({ op: 'add', record: { kind: 'spell', id: 'x', version: 1, data: {} } } as never),
    ],
    ['a device without a tag', edit({ op: 'add', record: deviceRecord('C1', { tag: '' }) })],
  ])('that is %s is refused with a place', async (_what, given) => {
    expect(await actions.applyEditAction(given, window)).toMatchObject({ ok: false, message: /^Not saved: / });
    expect(tags()).toEqual([]);
  });

  test('made on what has changed meanwhile is refused', async () => {
    await actions.applyEditAction(add('C1'), window);
    const from = deviceRecord('C1');
    const change = (host: string) => edit({ op: 'update', from, to: deviceRecord('C1', { host }) });
    expect(await actions.applyEditAction(change('10.0.0.6'), window)).toMatchObject({ ok: true });
    expect(await actions.applyEditAction(change('10.0.0.7'), 'window02')).toMatchObject({ ok: false });
  });

  test('from a window without a name is not understood', async () => {
    expect(await actions.applyEditAction(add('C1'), '../x')).toMatchObject({ ok: false });
    expect(tags()).toEqual([]);
  });

  test('and its passwords are kept together, or neither', async () => {
    const bad = await actions.applyEditAction(add('C1'), window, { 'dev-C1': 'two\nlines' });
    expect(bad).toEqual({ ok: false, message: 'Not saved: a password cannot contain a line break.' });
    expect(tags()).toEqual([]);
    await actions.applyEditAction(add('C1'), window);
    // The edit does not fit: C1 is there already.
    expect(await actions.applyEditAction(add('C1'), window, { 'dev-C1': 'secret' })).toMatchObject({ ok: false });
    expect(store.showNews(window, undefined).withPassword).toEqual([]);
    expect(await actions.applyEditAction(add('C2'), window, { 'dev-C2': 'secret' })).toMatchObject({ ok: true });
    expect(store.showNews(window, undefined).withPassword).toEqual(['dev-C2']);
  });
});

test('a password is kept, replaced and forgotten, and never comes back in an answer', async () => {
  await actions.applyEditAction(add('C1'), window);
  for (const password of ['first', 'second']) {
    const kept = await actions.setPasswordAction('dev-C1', password);
    expect(kept).toMatchObject({ ok: true });
    expect(JSON.stringify(kept) + JSON.stringify(store.showNews(window, undefined))).not.toContain(password);
  }
  expect(store.showNews(window, undefined).withPassword).toEqual(['dev-C1']);
  expect(await actions.setPasswordAction('dev-C1', '')).toMatchObject({ ok: true });
  expect(store.showNews(window, undefined).withPassword).toEqual([]);
});

test('a show goes into service, steps back and leaves service', async () => {
  await actions.applyEditAction(add('C1'), window);
  expect(await actions.stepBackAction()).toMatchObject({ ok: false });
  expect(await actions.putInServiceAction('first')).toEqual({ ok: true, said: 'Revision 1 is in service.' });
  await actions.applyEditAction(add('C2'), window);
  expect(store.showNews(window, undefined).service).toMatchObject({ running: 1, drafted: 1 });
  expect(await actions.putInServiceAction('second')).toMatchObject({ ok: true });
  expect(await actions.stepBackAction()).toEqual({ ok: true, said: 'Back to revision 1.' });
  expect(await actions.leaveServiceAction()).toMatchObject({ ok: true });
  expect(store.showNews(window, undefined).service.running).toBeNull();
});

describe('a driver document', () => {
  const shipped = shippedDrivers[0] as Readonly<Record<string, unknown>>;
  const own = (version: number) => JSON.stringify({ ...shipped, id: 'mine', version });

  test('is installed, used, and only taken out when nothing uses it', async () => {
    expect(await actions.installDriverAction(own(2))).toMatchObject({ ok: true });
    expect(store.driversView().installed).toEqual(['mine']);
    await actions.applyEditAction(edit({ op: 'add', record: deviceRecord('X1', { driver: 'mine' }) }), window);
    const refused = await actions.removeDriverAction('mine');
    expect(refused).toMatchObject({ ok: false, message: expect.stringContaining('X1') as string });
    await actions.undoAction(window);
    expect(await actions.removeDriverAction('mine')).toMatchObject({ ok: true });
    expect(store.driversView().installed).toEqual([]);
  });

  test('in an older version needs a second word', async () => {
    await actions.installDriverAction(own(2));
    expect(await actions.installDriverAction(own(1))).toMatchObject({ ok: false, code: 'older-driver' });
    expect(await actions.installDriverAction(own(1), true)).toMatchObject({ ok: true });
  });

  test.each([
    ['no JSON', '{"id":', /is not JSON/],
    ['JSON that is no driver', '{"id":"mine"}', /has \d+ mistakes?/],
    ['one that ships', JSON.stringify(shipped), /driver that ships/],
    ['too long', 'x'.repeat(2_000_001), /not understood/],
    ['not a text', { id: 'mine' }, /not understood/],
  ])('that is %s is refused whole', async (_what, text, why) => {
    expect(await actions.installDriverAction(text)).toMatchObject({ ok: false, message: why });
    expect(store.driversView().installed).toEqual([]);
  });
});
