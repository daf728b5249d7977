import { describe, expect, it } from 'vitest';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { compileDriver } from '../driver';
import type { Arrived } from '../wire';
import type { SessionState } from './machine';
import { readFrame } from './read-frame';

const compiled = compileDriver(visionSwitcher);
if (!compiled.ok) throw new Error('The driver does not compile.');
const driver = compiled.value;

const poll = { name: undefined, purpose: 'poll' };
const line = (text: string, more: Partial<Arrived> = {}): Arrived => ({
  raw: new TextEncoder().encode(text),
  says: [{ kind: 'text', text }],
  ...more,
});

const read = (
  frame: Arrived,
  at: SessionState['at'] = 'up',
  more: { hasOverdue?: boolean; oldest?: typeof poll } = {},
) =>
  readFrame(
    {
      driver,
      at,
      hasOverdue: more.hasOverdue ?? false,
      request: () => undefined,
      oldest: more.oldest,
      answered: () => more.oldest,
    },
    frame,
  );

describe('what a frame means', () => {
  it('is what the replies of the driver say, while the link is up', () => {
    expect(read(line('NOW program 3'))).toMatchObject({
      is: 'read',
      isUnderstood: true,
      heard: ['NOW program 3'],
      replies: [{ readings: [{ key: 'program', value: 3 }] }],
    });
  });

  it('is nothing when no reply fits, and the wire says so', () => {
    expect(read(line('what is this'))).toMatchObject({
      isUnderstood: false,
      note: 'no reply of the driver fits',
      heard: [],
    });
  });

  it('counts while a connection comes about, whatever it is', () => {
    expect(read(line('HAIL switcher 1 12'), 'signing in')).toMatchObject({
      heard: ['HAIL switcher 1 12'],
      note: undefined,
    });
    expect(read(line('what is this'), 'syncing')).toMatchObject({ heard: ['what is this'], note: undefined });
    expect(read({ raw: new Uint8Array([1]), says: [], fault: 'too short' }, 'signing in')).toMatchObject({
      heard: [undefined],
      note: 'too short',
    });
  });

  it('is known as an answer by the link itself, also without a text', () => {
    const frame: Arrived = { raw: new Uint8Array([1]), says: [], answer: { ref: 7, how: 'done' } };
    expect(read(frame)).toMatchObject({ isUnderstood: true, heard: [''] });
    expect(read(frame, 'syncing')).toMatchObject({ heard: [''] });
    const answered = () => undefined;
    const asked = readFrame(
      { driver, at: 'up', hasOverdue: false, request: () => poll, oldest: undefined, answered },
      frame,
    );
    expect(asked).toMatchObject({ answers: poll, note: 'poll' });
  });

  it('ends the conversation when the two ends are out of step', () => {
    expect(read(line('x', { broken: 'The lengths do not fit.' }))).toEqual({
      is: 'out of step',
      note: 'The lengths do not fit.',
    });
    expect(read(line('NOW program 3'), 'silent', { hasOverdue: true })).toMatchObject({ is: 'out of step' });
    // Nothing is missing: a device that was silent is heard again.
    expect(read(line('NOW program 3'), 'silent')).toMatchObject({ is: 'read' });
  });
});
