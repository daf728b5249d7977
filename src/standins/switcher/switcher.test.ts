import { connect, type Socket } from 'node:net';
import { describe, expect, it, onTestFinished, vi } from 'vitest';
import { startSwitcher } from '../../../test/support/rig';
import { SwitcherModel } from './model';
import { reportsOf } from './protocol';

/** A controller without any of our code: a bare socket and lines by hand. */
async function controller(port: number): Promise<{
  socket: Socket;
  lines: string[];
  line: (fits: RegExp) => Promise<string>;
  say: (text: string | Uint8Array) => void;
}> {
  const socket = connect(port, '127.0.0.1');
  onTestFinished(() => void socket.destroy());
  const lines: string[] = [];
  const waiting = new Set<() => void>();
  let held = '';
  socket.setEncoding('utf8').on('data', (text: string) => {
    const parts = (held + text).split('\r\n');
    held = parts.pop() ?? '';
    lines.push(...parts);
    for (const check of [...waiting]) check();
  });
  let read = 0;
  const line = (fits: RegExp) =>
    new Promise<string>((resolve, reject) => {
      const deadline = setTimeout(() => reject(new Error(`No ${fits} among ${JSON.stringify(lines)}`)), 5000);
      const check = () => {
        const at = lines.findIndex((each, n) => n >= read && fits.test(each));
        if (at === -1) return;
        read = at + 1;
        waiting.delete(check);
        clearTimeout(deadline);
        resolve(lines[at] ?? '');
      };
      waiting.add(check);
      check();
    });
  await new Promise((resolve) => socket.once('connect', resolve));
  return { socket, lines, line, say: (text) => void socket.write(text) };
}

describe('the switcher on the wire', () => {
  it('hails, reports everything when asked, and says that it is done', async () => {
    const { line, say, lines } = await controller((await startSwitcher()).port);
    expect(await line(/^HAIL/)).toBe('HAIL switcher 1 12');
    say('ASK all\r\n');
    await line(/^DONE$/);
    expect(lines.filter((each) => each.startsWith('NOW name '))).toHaveLength(12);
    expect(lines).toEqual(
      expect.arrayContaining(['NOW program 1', 'NOW preview 2', 'NOW rate 25', 'NOW mix idle', 'NOW name 3 Finish']),
    );
  });

  it('tells every controller of a change, whoever made it', async () => {
    const { port } = await startSwitcher();
    const one = await controller(port);
    const other = await controller(port);
    await Promise.all([one.line(/^HAIL/), other.line(/^HAIL/)]);
    one.say('TAKE 5\r\n');
    expect(await Promise.all([one.line(/^NOW program/), other.line(/^NOW program/)])).toEqual([
      'NOW program 5',
      'NOW program 5',
    ]);
    expect(one.lines).toContain('DONE');
    expect(other.lines).not.toContain('DONE');
  });

  it('accepts LF alone, and lines that come in pieces', async () => {
    const { lines, say } = await controller((await startSwitcher()).port);
    say('TA');
    say('KE 4\nREADY 6\n');
    // The two may fall into one frame or into two.
    await vi.waitFor(() => expect(lines).toEqual(expect.arrayContaining(['NOW program 4', 'NOW preview 6'])), 5000);
  });

  it.each([
    ['LEAP 3', 11],
    ['', 11],
    ['take 3', 11],
    ['TAKE', 12],
    ['TAKE x', 12],
    ['TAKE 3 4', 12],
    ['CUT now', 12],
    ['NAME 3', 12],
    ['TAKE 0', 21],
    ['TAKE 13', 21],
    ['RATE 0', 22],
    ['RATE 251', 22],
    [`NAME 1 ${'x'.repeat(21)}`, 22],
    [`TAKE ${'1'.repeat(600)}`, 41],
  ])('refuses %j with number %d', async (request, code) => {
    const { line, say } = await controller((await startSwitcher()).port);
    say(`${request}\r\n`);
    expect(await line(/^(FAIL|DONE)/)).toMatch(new RegExp(`^FAIL ${code} `));
  });

  it('refuses what is not UTF-8', async () => {
    const { line, say } = await controller((await startSwitcher()).port);
    say(Uint8Array.of(0x54, 0xff, 0x0a));
    expect(await line(/^FAIL/)).toMatch(/^FAIL 11 /);
  });

  it('takes as many frames for a mix as it is set to, and refuses another meanwhile', async () => {
    const { line, say } = await controller((await startSwitcher()).port);
    say('RATE 10\r\nMIX\r\n');
    expect(await line(/^NOW mix/)).toBe('NOW mix running 10');
    const startedAt = performance.now();
    say('MIX\r\n');
    expect(await line(/^FAIL/)).toMatch(/^FAIL 31 /);
    expect(await line(/^NOW preview/)).toBe('NOW preview 1');
    expect(await line(/^NOW program/)).toBe('NOW program 2');
    // Ten frames of 40 ms; the first tells of the start, and word of it may come a frame late on a busy machine.
    expect(performance.now() - startedAt).toBeGreaterThan(300);
  });

  it('closes its port when it is switched off, and keeps its settings', async () => {
    const switcher = await startSwitcher();
    const { socket, line, say } = await controller(switcher.port);
    say('TAKE 7\r\n');
    await line(/^NOW program 7/);
    const closed = new Promise((resolve) => socket.once('close', resolve));
    await switcher.setPower(false);
    await closed;
    const refused = await new Promise<string | undefined>((resolve) =>
      connect(switcher.port, '127.0.0.1').once('error', (error: NodeJS.ErrnoException) => resolve(error.code)),
    );
    expect(refused).toBe('ECONNREFUSED');
    await switcher.setPower(true);
    expect(switcher.view.program).toBe(7);
  });
});

describe('the switcher itself', () => {
  it('acts on commands at the next frame, in their order', () => {
    const told: string[][] = [];
    const model = new SwitcherModel((before, now) => {
      const known = reportsOf(before);
      told.push(reportsOf(now).filter((line) => !known.includes(line)));
    });
    model.request({ verb: 'take', input: 4 });
    model.request({ verb: 'cut' });
    expect(model.state.program).toBe(1);
    model.frame();
    expect(model.state).toMatchObject({ program: 2, preview: 4 });
    expect(told).toEqual([['NOW preview 4', 'NOW program 2']]);
  });

  it('reports nothing when nothing has changed', () => {
    const told: string[] = [];
    const model = new SwitcherModel((before, now) => {
      told.push(...reportsOf(now).filter((line) => !reportsOf(before).includes(line)));
    });
    model.request({ verb: 'take', input: 1 });
    model.frame();
    expect(told).toEqual([]);
  });

  it('ends a mix when an input is taken by hand', () => {
    const model = new SwitcherModel(() => undefined);
    model.request({ verb: 'mix' });
    model.frame();
    model.request({ verb: 'take', input: 9 });
    model.frame();
    expect(model.state).toMatchObject({ program: 9, mixed: null });
  });

  it.each([
    ['longer', 60],
    ['shorter', 10],
  ])('keeps the picture black when a %s rate is set meanwhile, and brings it back when told to', (_, frames) => {
    const model = new SwitcherModel(() => undefined);
    const run = (count: number) =>
      Array.from({ length: count }, () => (model.frame(), model.state.black >= model.state.rate));
    model.request({ verb: 'black', on: true });
    expect(run(26).at(-1)).toBe(true);
    model.request({ verb: 'rate', frames });
    expect(run(frames + 2)).not.toContain(false);
    model.request({ verb: 'black', on: false });
    run(frames + 2);
    expect(model.state).toMatchObject({ black: 0, rate: frames });
  });
});
