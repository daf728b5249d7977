import { describe, expect, it } from 'vitest';
import { shippedDrivers } from '../../drivers';
import { asDriver, ownDriverId } from './as-driver';
import { checkNewDriver } from './check-new';
import { compileDriver } from './compile';
import { encodeCommand } from './encode';

const generic = shippedDrivers.find((each) => (each as { id: string }).id === 'generic-text-tcp');
const additions = {
  commands: {
    own1: {
      title: 'Take {two}',
      params: {},
      send: { bytes: 'TAKE 2{option.ends}' },
      risky: true,
      harmless: false,
      class: 'ordinary' as const,
    },
  },
  readings: { own1: { title: 'Program', value: { type: 'text' as const } } },
  replies: [{ match: '^OK (?P<value>[0-9]+)', set: { own1: '{value}' } }],
};
const options = { ends: 'cr', answersEnd: 'cr', answered: 'each', errors: 'ERR', answerWithinMs: 300 };

describe('a device that is saved as a driver', () => {
  const used = compileDriver(generic, { options, additions });
  const made = used.ok ? asDriver(used.value.document, { id: 'own-mx1', title: 'Matrix' }) : undefined;

  it('passes as a new document, through JSON, and asks only for the options whose values are sent', () => {
    const checked = checkNewDriver(JSON.parse(JSON.stringify(made)));
    expect(checked.ok ? [] : checked.error).toEqual([]);
    expect(made).toMatchObject({ id: 'own-mx1', title: 'Matrix', version: 1, variants: [], answers: 'in-order' });
    expect(Object.keys(made?.options ?? {})).toEqual(['ends']);
    expect(made?.commands.own1).toMatchObject({ says: 'Take two', risky: true });
  });

  it('sends the same bytes and reads the same answers as the device did', () => {
    const again = compileDriver(JSON.parse(JSON.stringify(made)));
    if (!again.ok || !used.ok) throw new Error('A document has a mistake.');
    for (const command of ['own1', 'line']) {
      const params: Record<string, string> = command === 'line' ? { text: 'HI' } : {};
      const before = encodeCommand(used.value, command, params);
      expect(encodeCommand(again.value, command, params)).toEqual(before);
      expect(before.ok && before.value.out).toMatchObject({
        bytes: new TextEncoder().encode(command === 'line' ? 'HI\r' : 'TAKE 2\r'),
      });
    }
    expect(again.value.document.framing).toEqual(used.value.document.framing);
    expect(again.value.replies.map(({ pattern }) => String(pattern))).toEqual(
      used.value.replies.map(({ pattern }) => String(pattern)),
    );
  });

  it('has an id that no driver has', () => {
    expect(ownDriverId('MX_1', [])).toBe('own-mx-1');
    expect(ownDriverId('MX_1', ['own-mx-1', 'own-mx-1-2'])).toBe('own-mx-1-3');
  });
});
