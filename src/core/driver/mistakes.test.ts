import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { shippedDrivers } from '../../drivers';
import { checkNewDriver } from './check-new';

const base = {
  format: 1,
  id: 'a-lamp',
  version: 1,
  title: 'A lamp',
  role: 'lights',
  link: { kind: 'tcp', port: 4000 },
  framing: { kind: 'lines', ending: 'cr' },
  commands: {
    on: {
      title: 'On',
      says: 'Lamp {on}',
      params: { on: { title: 'On', value: { type: 'onOff' } } },
      send: 'LAMP {on}',
    },
  },
  readings: { on: { title: 'On', value: { type: 'onOff' } } },
  replies: [{ match: '^LAMP (?P<on>.)$', set: { on: '{on}' } }],
};

const problemsOf = (document: unknown) => {
  const checked = checkNewDriver(document);
  return checked.ok ? [] : checked.error.map(({ path, message }) => [path, message]);
};

const bytes = { kind: 'prefixed', start: 'A66A', header: 2, width: 1 };

describe('mistakes in a document', () => {
  it('are in none that ships, nor in the examples', () => {
    const examples = ['sluice', 'curtain', 'mast'].map(
      (name) => JSON.parse(readFileSync(`docs/worked-example/${name}-driver.json`, 'utf8')) as unknown,
    );
    for (const document of [...shippedDrivers, ...examples, base]) expect(problemsOf(document)).toEqual([]);
  });

  it.each<[string, object, string, RegExp]>([
    ['a reading that nothing sets', { replies: [{ match: '^OK$', accepts: true }] }, 'readings.on', /never known/],
    [
      'a parameter that is never sent',
      { commands: { on: { ...base.commands.on, send: 'LAMP' } } },
      'commands.on.params.on',
      /Write \{on\} in "send"/,
    ],
    [
      'a pattern with the ending of the line',
      { replies: [{ match: '^LAMP (?P<on>.)\\r$', set: { on: '{on}' } }] },
      'replies.0.match',
      /without its ending/,
    ],
    [
      'a pattern of text where bytes are read',
      { framing: bytes, replies: [{ match: '^LAMP (?P<on>.)$', set: { on: '{on}' } }] },
      'replies.0.match',
      /“LAMP ” is not one/,
    ],
    [
      'a pattern that begins otherwise than every frame',
      { framing: bytes, replies: [{ match: '^A56A(?P<on>..)', set: { on: '{on}' } }] },
      'replies.0.match',
      /begins with A66A/,
    ],
    [
      'an OSC address without a slash',
      {
        link: { kind: 'udp', port: 1 },
        framing: { kind: 'osc' },
        commands: {},
        replies: [{ match: '^lamp', set: { on: '{arg1}' } }],
      },
      'replies.0.match',
      /begins with a slash/,
    ],
    ['answers that never come', { answers: 'in-order' }, 'answers', /no reply has "accepts"/],
    [
      'answers matched by a number that is not sent',
      { answers: 'matched', replies: [...base.replies, { match: '^(?P<ref>[0-9]+) OK$', accepts: true }] },
      'commands.on.send',
      /write \{ref\}/,
    ],
    [
      'answers matched by a number that is not read',
      { answers: 'matched', replies: [...base.replies, { match: '^OK$', accepts: true }] },
      'answers',
      /no reply has a group "ref"/,
    ],
    [
      'a starter out of range',
      {
        commands: {
          on: { ...base.commands.on, params: { on: { title: 'Level', value: { type: 'whole', min: 0, max: 9 } } } },
        },
        starters: [{ purpose: 'Light', title: 'Full', command: 'on', params: { on: 10 } }],
      },
      'starters.0.params.on',
      /^Level 10 is above the largest, 9\.$/,
    ],
  ])('%s is told with its place', (_, change, path, message) => {
    expect(problemsOf({ ...base, ...change })).toContainEqual([path, expect.stringMatching(message)]);
  });
});
