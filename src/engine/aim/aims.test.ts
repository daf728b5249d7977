import { describe, expect, it } from 'vitest';
import type { Aim } from '../../core/live';
import { Aims } from './aims';
import type { RehearsalPlaces } from './rehearsal';

/** Changing the aim: what is asked first, in which order things happen, and what is undone when it cannot be. */

const stage: RehearsalPlaces = { places: {}, pagePort: 4000 };

function made(
  more: { readonly arrange?: () => Promise<RehearsalPlaces>; readonly goesOn?: () => string | undefined } = {},
) {
  const did: string[] = [];
  const aims = new Aims({
    rehearsals: {
      arrange: more.arrange ?? (() => Promise.resolve(stage)),
      end: () => Promise.resolve(void did.push('end')),
    },
    devices: () => [],
    goesOn: more.goesOn ?? (() => undefined),
    onLeave: () => did.push('leave'),
    onRaise: () => did.push('raise'),
    onCurtain: () => did.push('curtain'),
    reopen: () => did.push('reopen'),
    onAim: (aim: Aim) => did.push(`aim ${aim}`),
    record: (entry) => did.push(entry.kind),
    publish: () => undefined,
    standinPages: () => null,
  });
  return { aims, did };
}

describe('the aim', () => {
  it('is another at once where no rehearsal is concerned', () => {
    const { aims, did } = made();
    void aims.set('dry', 'desk');
    expect(aims.aim).toBe('dry');
    expect(did).toEqual(['aim dry', 'aim']);
  });

  it('turns to a rehearsal once the stand-ins are there, and back in the order that leaves nothing behind', async () => {
    const { aims, did } = made();
    expect(await aims.set('rehearse', 'desk')).toBeUndefined();
    expect(aims.standinPages).toBe('http://127.0.0.1:4000');
    expect(await aims.set('live', 'desk')).toBeUndefined();
    expect(aims.standinPages).toBeNull();
    expect(did).toEqual([
      ...['leave', 'raise', 'aim rehearse', 'aim', 'reopen'],
      ...['curtain', 'aim live', 'aim', 'reopen', 'end'],
    ]);
  });

  it('stays when somebody begins something while the stand-ins are being started', async () => {
    let asked = 0;
    const { aims, did } = made({ goesOn: () => ((asked += 1) > 1 ? 'something is held.' : undefined) });
    expect(await aims.set('rehearse', 'desk')).toContain('something is held');
    expect(aims.aim).toBe('live');
    // The lamps that were put out are lit again, and the stand-ins are gone.
    expect(did).toEqual(['leave', 'aim live', 'end']);
  });

  it('stays when the stand-ins cannot be started, and is changed by one at a time', async () => {
    let fail: (error: Error) => void = () => undefined;
    const { aims, did } = made({ arrange: () => new Promise((_, reject) => (fail = reject)) });
    const first = aims.set('rehearse', 'desk');
    expect(await aims.set('rehearse', 'other desk')).toBe('The aim is just being changed.');
    fail(new Error('no process'));
    expect(await first).toContain('could not be started');
    expect([aims.aim, did]).toEqual(['live', []]);
  });

  it('is dry after a rehearsal that the end of the program has ended', () => {
    const { aims, did } = made();
    aims.recall('rehearse');
    expect([aims.aim, did]).toEqual(['dry', ['note']]);
  });
});
