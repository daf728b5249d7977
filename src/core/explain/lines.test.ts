import { describe, expect, it } from 'vitest';
import { allWhys } from '../press';
import type { Explanation, Moment } from './explanation';
import { explainLines, tryNextOf } from './lines';

const explanation = (moments: readonly Moment[], more: Partial<Explanation> = {}): Explanation => ({
  press: 'p',
  at: 0,
  who: 'Director’s tablet',
  page: 'Race',
  label: 'Drone',
  gesture: 'tap',
  aim: 'live',
  sends: [{ device: 'SW1', command: 'Take', says: 'Take Drone to program', text: 'TAKE 5' }],
  moments: [...moments],
  ...more,
});

describe('the account of a press in lines', () => {
  it('reads from the hand to the lamp', () => {
    const lines = explainLines(
      explanation([
        { is: 'cleared', ms: 0.1, isConfirmed: true, bars: 2 },
        { is: 'queued', ms: 0.2, send: 0, ahead: ['Cut', 'Auto'], waiting: 7, inFlight: 1 },
        { is: 'left', ms: 3, send: 0, bytes: '54414b4520350d0a' },
        // Faces are computed before the sends are looked at: the report still comes first.
        { is: 'lamp', ms: 35.1, show: 'on air', word: 'on air' },
        { is: 'reported', ms: 35.3, send: 0, readings: [{ key: 'program', value: 5, says: 'Program input 5' }] },
        { is: 'send ended', ms: 35.4, send: 0, outcome: 'confirmed', why: 'reported' },
        { is: 'ended', ms: 35.5, outcome: 'confirmed', why: 'reported' },
      ]),
    );
    expect(lines.map(({ title, detail }) => [title, detail])).toEqual([
      ['Received from Director’s tablet', 'Tapped: Race · Drone'],
      ['Allowed', 'Aim live · The press was confirmed · Not barred by its rules'],
      ['SW1: waiting in line', 'Behind Cut, Auto and 5 more'],
      ['SW1: sent 8 bytes', 'Take Drone to program'],
      ['SW1: reported the effect', 'Program input 5'],
      ['Lamp: on air', undefined],
      ['Confirmed', undefined],
    ]);
    expect(new Set(lines.map(({ key }) => key)).size).toBe(lines.length);
  });

  it('names the reason and what to try wherever a press stops', () => {
    const well = ['reported', 'accepted', 'already-so', 'superseded', 'one-way'];
    const byItself = ['released', 'nothing-to-send', 'overtaken', 'stopped'];
    for (const why of allWhys) {
      const ended = explanation([{ is: 'ended', ms: 1, outcome: 'lost', why, reason: 'Because.' }]);
      expect([why, tryNextOf(ended) !== undefined]).toEqual([why, ![...well, ...byItself].includes(why)]);
    }
  });

  it('says of a press under way only what has happened', () => {
    const open = explanation([{ is: 'asked', ms: 1 }]);
    expect(explainLines(open).map(({ title }) => title)).toEqual([
      'Received from Director’s tablet',
      'Question put on the panel',
    ]);
    expect(tryNextOf(open)).toBeUndefined();
  });
});
