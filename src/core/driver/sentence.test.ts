import { describe, expect, it } from 'vitest';
import { compiled } from '../../../test/support/records';
import { shippedDrivers } from '../../drivers';
import { ownDocument } from '../show';
import { compileDriver } from './compile';
import { commandSentence, commandText, sentenceText } from './sentence';

const documentOf = (id: string) => compiled(shippedDrivers.find((each) => (each as { id: string }).id === id)).document;
const [switcher, mixer, deck] = [documentOf('vision-switcher'), documentOf('audio-mixer'), documentOf('replay-deck')];
const named = {
  'input[3].name': { value: 'Finish' },
  'input[4].name': { value: '' },
  'strip[2].name': { value: 'Pontoon mic' },
};

describe('a command as a sentence', () => {
  it.each([
    [switcher, 'key', { key: 1, on: true }, 'Key 1 on'],
    [switcher, 'key', { key: 2, on: false }, 'Key 2 off'],
    [switcher, 'take', { input: 3 }, 'Take Finish to program'],
    // Without a name the number does.
    [switcher, 'take', { input: 4 }, 'Take 4 to program'],
    [switcher, 'take', {}, 'Take … to program'],
    [switcher, 'black', { to: 'on' }, 'Fade to black'],
    [switcher, 'rate', { frames: 25 }, 'Set the mix to 25 frames'],
    [mixer, 'level', { strip: 2, level: -20 }, 'Level of Pontoon mic to -20 dB'],
    [deck, 'jump', { to: 83 }, /^Jump to 1:23$|^Jump to 0:01:23:00$/],
    // An optional value goes with its words.
    [deck, 'play', {}, 'Play'],
    [deck, 'play', { speed: 50 }, /^Play, at speed 50/],
    [ownDocument, 'takeGroups', { groups: 'A1 Main level', name: '' }, 'Take a snapshot of A1 Main level'],
    [ownDocument, 'takeGroups', { groups: 'A1 Main level', name: 'Dusk' }, /Main level, named Dusk$/],
    [switcher, 'gone', {}, 'gone'],
  ] as const)('%#', (document, command, values, expected) => {
    const text = commandText(document, command, values, named);
    if (typeof expected === 'string') expect(text).toBe(expected);
    else expect(text).toMatch(expected);
  });

  it('shows what the caller knows better, such as a parameter of a macro', () => {
    const shown = (name: string) => (name === 'input' ? '{source}' : undefined);
    expect(commandText(switcher, 'take', {}, named, shown)).toBe('Take {source} to program');
  });

  it('marks the values, and is its title and values where the document has no sentence', () => {
    const { says: _, ...bare } = switcher.commands.key!;
    expect(commandSentence(bare, { key: 1, on: true })).toEqual([
      { text: 'Key on or off' },
      { text: ' ' },
      { param: 'key', text: '1' },
      { text: ' ' },
      { param: 'on', text: 'on' },
    ]);
    expect(sentenceText(commandSentence(bare, {}))).toBe('Key on or off');
  });
});

it('every command that ships has a sentence that fits a button', () => {
  for (const source of shippedDrivers) {
    const { id, commands } = compiled(source).document;
    for (const [name, { says }] of Object.entries(commands)) {
      expect(says, `${id} ${name}`).toMatch(/^[A-Z{]/);
      expect(says!.length, `${id} ${name}`).toBeLessThan(60);
    }
  }
});

it('a sentence that names a parameter which is not there is a mistake of the document, with its place', () => {
  const source = structuredClone(shippedDrivers[0]) as { commands: Record<string, { says?: string }> };
  source.commands.cut!.says = 'Cut to {nowhere}';
  const done = compileDriver(source);
  expect(done.ok ? [] : done.error).toEqual([
    { path: 'commands.cut.says', message: 'There is no parameter “nowhere”.' },
  ]);
});
