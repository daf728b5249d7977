import { describe, expect, it } from 'vitest';
import type { Aim } from '../../core/live';
import { noLog } from '../../log';
import { Aims } from './aims';
import type { RehearsalPlaces } from './rehearsal';

/** Changing the aim: what is asked first, in which order things happen, and what is undone when it cannot be. */

const standIns: RehearsalPlaces = { places: {}, pagePort: 4000 };

interface Circumstances {
  readonly arrange?: () => Promise<RehearsalPlaces>;
  readonly goesOn?: () => string | undefined;
  /** The aim that the record has kept. */
  readonly kept?: Aim;
}

function made({ arrange = () => Promise.resolve(standIns), goesOn = () => undefined, kept }: Circumstances = {}) {
  const did: string[] = [];
  const pages: (string | null)[] = [];
  const aims = new Aims({
    rehearsals: { arrange, end: () => Promise.resolve(void did.push('end')) },
    show: { devices: new Map() },
    asRun: {
      opened: Promise.resolve(kept),
      record: (entry) => did.push(entry.kind),
      keepAim: () => undefined,
    },
    log: noLog,
    status: { set: ({ standinPages }) => standinPages !== undefined && pages.push(standinPages) },
  });
  aims.listen({
    goesOn,
    onLeaving: () => did.push('leave'),
    onRaise: () => did.push('raise'),
    onCurtain: () => did.push('curtain'),
    onReopen: () => did.push('reopen'),
    onAim: (aim) => did.push(`aim ${aim}`),
  });
  return { aims, did, pages };
}

describe('the aim', () => {
  it('is another at once where no rehearsal is concerned', () => {
    const { aims, did } = made();
    void aims.set('dry', 'desk');
    expect(aims.aim).toBe('dry');
    expect(did).toEqual(['aim dry', 'aim']);
  });

  it('turns to a rehearsal once the stand-ins are there, and back in the order that leaves nothing behind', async () => {
    const { aims, did, pages } = made();
    expect(await aims.set('rehearse', 'desk')).toBeUndefined();
    expect(await aims.set('live', 'desk')).toBeUndefined();
    expect(pages).toEqual(['http://127.0.0.1:4000', null]);
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

  it('is dry after a rehearsal that the end of the program has ended', async () => {
    const { aims, did } = made({ kept: 'rehearse' });
    await aims.start();
    expect([aims.aim, did]).toEqual(['dry', ['note']]);
  });
});
