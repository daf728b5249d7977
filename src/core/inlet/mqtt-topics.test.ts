import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inletRecord } from '../../../test/support/inlet-end';
import { controlRecord, pageRecord } from '../../../test/support/records';
import { recordSchema, type ShowRecord } from '../show';
import { addressesOf, answerTopic, fitsFilter, isOwnTopic, publishedTopic, requestOfTopic } from '.';

const place = { base: 'club/regatta' };

describe('a message of MQTT', () => {
  it.each([
    ['press/Race/Cut', '', { do: 'press', control: 'Race/Cut' }],
    ['press/Race/Cut', 'ON', { do: 'press', control: 'Race/Cut' }],
    ['press', 'Race/Cut', { do: 'press', control: 'Race/Cut' }],
    ['PRESS/ctl-cut', '1', { do: 'press', control: 'ctl-cut' }],
    ['run/Start of race', '1', { do: 'run', macro: 'Start of race', params: {} }],
    [
      'run/Start of race',
      'lane=3 crew=Alder',
      { do: 'run', macro: 'Start of race', params: { lane: '3', crew: 'Alder' } },
    ],
    ['run', 'Start of race lane=3', { do: 'run', macro: 'Start of race', params: { lane: '3' } }],
    ['set/lap', '7', { do: 'set', variable: 'lap', value: '7' }],
    ['set/lap/7', 'ON', { do: 'set', variable: 'lap', value: '7' }],
    ['step/lap', '-2', { do: 'step', variable: 'lap', by: -2 }],
    ['call/3', '1', { do: 'call', snapshot: 3 }],
    ['call', '3', { do: 'call', snapshot: 3 }],
    ['read/SW1/program', '', { do: 'read', subject: { tag: 'SW1', key: 'program' } }],
    ['', 'press Race/Cut', { do: 'press', control: 'Race/Cut' }],
  ])('%s with “%s”', (topic, payload, request) => {
    const whole = topic === '' ? 'club/regatta/do' : `club/regatta/do/${topic}`;
    expect(requestOfTopic(place, whole, payload)).toEqual({ ok: true, value: request });
  });

  it('elsewhere is nothing that is asked for, and says what is missing where it is', () => {
    expect(requestOfTopic(place, 'club/horn', 'go')).toBeUndefined();
    expect(requestOfTopic(place, 'club/regatta/doing', 'press ctl-cut')).toBeUndefined();
    expect(requestOfTopic(place, 'club/regatta/do/set/lap', '')).toMatchObject({ error: { code: 'incomplete' } });
    expect(requestOfTopic(place, 'club/regatta/do/dance', '1')).toMatchObject({ error: { code: 'unknown-request' } });
  });

  it('whatever it says never throws', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (topic, payload) => {
        requestOfTopic(place, `club/regatta/do/${topic}`, payload);
      }),
    );
  });
});

describe('topics', () => {
  it('of the program itself are nobody else’s', () => {
    expect(isOwnTopic(place, 'club/regatta/is/SW1/program')).toBe(true);
    expect(isOwnTopic(place, 'club/regatta/answer')).toBe(true);
    expect(isOwnTopic(place, 'club/regatta')).toBe(true);
    expect(isOwnTopic(place, 'club/regatta/do/press/ctl-cut')).toBe(false);
    expect(isOwnTopic(place, 'club/regattas/is')).toBe(false);
  });

  it('have no wildcards and no levels from names', () => {
    expect(publishedTopic(place, '/lamp/Race/Up+down')).toBe('club/regatta/is/lamp/Race/Up_down');
    expect(answerTopic(place, 'box/#1')).toBe('club/regatta/answer/box_1');
    expect(answerTopic({})).toBe('sorrelfinch/answer');
  });

  it('of a control to copy find the control', () => {
    const records: ShowRecord[] = [
      pageRecord('page', 'Race'),
      controlRecord('ctl-up', { label: [{ text: 'Up + down #2' }] }),
      inletRecord('mqtt', 4830, { speaks: 'mqtt' }),
    ];
    const [address] = addressesOf(records, records[1] as never, 'here');
    expect(address?.text).toBe('sorrelfinch/do/press/Race/Up _ down _2');
    expect(requestOfTopic({}, address?.text ?? '', '1')).toMatchObject({
      value: { do: 'press', control: 'Race/Up _ down _2' },
    });
  });
});

describe('a topic filter (MQTT 5.0, 4.7.1)', () => {
  it.each([
    ['sport/tennis/player1/#', 'sport/tennis/player1', true],
    ['sport/tennis/player1/#', 'sport/tennis/player1/ranking', true],
    ['sport/tennis/player1/#', 'sport/tennis/player1/score/wimbledon', true],
    ['sport/#', 'sport', true],
    ['#', 'sport/tennis', true],
    ['sport/tennis/+', 'sport/tennis/player1', true],
    ['sport/tennis/+', 'sport/tennis/player1/ranking', false],
    ['sport/+', 'sport', false],
    ['sport/+', 'sport/', true],
    ['+/+', '/finance', true],
    ['/+', '/finance', true],
    ['+', '/finance', false],
    ['#', '$SYS/monitor', false],
    ['+/monitor/Clients', '$SYS/monitor/Clients', false],
    ['$SYS/#', '$SYS/monitor', true],
    ['sport', 'Sport', false],
  ])('%s and %s', (filter, topic, fits) => {
    expect(fitsFilter(filter, topic)).toBe(fits);
  });

  it.each([
    ['sport/#', true],
    ['+/tennis/#', true],
    ['+', true],
    ['#', true],
    ['sport/tennis#', false],
    ['sport/#/ranking', false],
    ['sport+', false],
  ])('%s may be kept: %s', (filter, isAllowed) => {
    const record = inletRecord('mqtt', 4830, { speaks: 'mqtt', publishes: [filter] });
    expect(recordSchema.safeParse(record).success).toBe(isAllowed);
  });
});
