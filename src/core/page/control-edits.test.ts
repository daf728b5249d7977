import { describe, expect, it } from 'vitest';
import { compiled } from '../../../test/support/records';
import replayDeck from '../../drivers/replay-deck.json';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { startOf, type ControlRecord } from '../show';
import {
  addSend,
  moveSend,
  paramNow,
  removeSend,
  replaceSend,
  sendsOf,
  setHeld,
  setParam,
  setWait,
} from './control-edits';
import { setWhen, shownCondition } from './rule-edits';

const switcher = compiled(visionSwitcher).document;
const deck = compiled(replayDeck).document;

type Data = ControlRecord['data'];
const place = { page: 'p', type: 'button', col: 0, row: 0, cols: 1, rows: 1 } as const;
const take: Data = { ...place, ...startOf(switcher, 'sw', 'take') };
const rule = (data: Data, index = 0) => {
  const found = data.lamps[index];
  return found && shownCondition(found.when, data);
};

describe('a control from a command', () => {
  it('starts complete: label from the device’s list, response, lamp with its meaning', () => {
    expect(take).toMatchObject({
      label: [{ reading: { device: 'sw', key: 'input[$input].name' } }],
      values: { input: 1 },
      responses: { tap: [{ command: 'take', params: { input: { value: 'input' } } }] },
      lamps: [{ show: 'onAir', when: { op: 'equals', reading: { key: 'program' }, to: { value: 'input' } } }],
    });
  });

  it('changes parameter, label and lamp together', () => {
    const changed = setParam(take, 'tap', 0, 'input', 5, switcher);
    expect(changed.values).toEqual({ input: 5 });
    expect(changed.label).toEqual(take.label);
    expect(rule(changed)).toEqual({ op: 'equals', reading: { device: 'sw', key: 'program' }, to: 5 });
  });

  it('with a number that stands for itself, ties it to its lamp when it is changed', () => {
    const literal: Data = {
      ...take,
      values: {},
      responses: { tap: [{ device: 'sw', command: 'take', params: { input: 3 } }] },
      lamps: [{ when: { op: 'equals', reading: { device: 'sw', key: 'program' }, to: 3 }, show: 'onAir' }],
    };
    const changed = setParam(literal, 'tap', 0, 'input', 4, switcher);
    expect(changed.values).toEqual({ input: 4 });
    expect(rule(changed)).toMatchObject({ to: 4 });
  });

  it('can give the lamp a value of its own, and take it back to the control’s', () => {
    const own = setWhen(take, 0, { op: 'equals', reading: { device: 'sw', key: 'program' }, to: 9 });
    expect(setParam(own, 'tap', 0, 'input', 2, switcher).lamps[0]?.when).toMatchObject({ to: 9 });
    const back = setWhen(own, 0, { op: 'equals', reading: { device: 'sw', key: 'program' }, to: 1 });
    expect(back.lamps[0]?.when).toMatchObject({ to: { value: 'input' } });
  });
});

describe('a response', () => {
  const two = addSend(take, 'tap', deck, 'r1', 'play');

  it('holds several commands to several devices', () => {
    expect(sendsOf(two, 'tap').map(({ device, command }) => `${device} ${command}`)).toEqual(['sw take', 'r1 play']);
    expect(sendsOf(two, 'held')).toEqual([]);
  });

  it('waits between them', () => {
    const waits = setWait(two, 'tap', 1, 480.4);
    expect(sendsOf(waits, 'tap')[1]?.waitMs).toBe(480);
    expect(sendsOf(setWait(waits, 'tap', 1, 0), 'tap')[1]).not.toHaveProperty('waitMs');
    expect(sendsOf(setWait(two, 'tap', 1, 1e9), 'tap')[1]?.waitMs).toBe(60_000);
  });

  it('changes their order, and loses none at the ends', () => {
    expect(sendsOf(moveSend(two, 'tap', 1, -1), 'tap').map(({ command }) => command)).toEqual(['play', 'take']);
    expect(moveSend(two, 'tap', 1, 1)).toBe(two);
    expect(sendsOf(removeSend(two, 'tap', 0), 'tap').map(({ command }) => command)).toEqual(['play']);
  });

  it('keeps the wait and what both commands know when one is replaced', () => {
    const waits = setWait(two, 'tap', 1, 200);
    const replaced = replaceSend(waits, 'tap', 1, switcher, 'sw', 'cut');
    expect(sendsOf(replaced, 'tap')[1]).toEqual({ device: 'sw', command: 'cut', params: {}, waitMs: 200 });
    const other = replaceSend(take, 'tap', 0, switcher, 'sw2', 'take');
    expect(sendsOf(other, 'tap')[0]).toMatchObject({ device: 'sw2', params: { input: { value: 'input' } } });
  });

  it('sets parameters of the second command without touching the first', () => {
    const param = Object.keys(sendsOf(two, 'tap')[1]?.params ?? {})[0] ?? 'speed';
    const changed = setParam(two, 'tap', 1, param, 50, deck);
    const send = sendsOf(changed, 'tap')[1];
    expect(send && paramNow(changed, send, param)).toBe(50);
    expect(changed.values).toEqual(two.values);
    expect(sendsOf(setParam(changed, 'tap', 1, param, undefined, deck), 'tap')[1]?.params).not.toHaveProperty(param);
  });

  it('is tapped or held, and never both by that', () => {
    const held = setHeld(two, true);
    expect([sendsOf(held, 'tap').length, sendsOf(held, 'held').length]).toEqual([0, 2]);
    expect(setHeld(held, false)).toEqual(two);
    expect(setHeld(two, false)).toBe(two);
    expect(removeSend(removeSend(held, 'held', 0), 'held', 0).responses).toEqual({ tap: [] });
  });
});
