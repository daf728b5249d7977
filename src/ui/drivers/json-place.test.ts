import { json } from '@codemirror/lang-json';
import { ensureSyntaxTree } from '@codemirror/language';
import { EditorState } from '@codemirror/state';
import { describe, expect, it } from 'vitest';
import visionSwitcher from '../../drivers/vision-switcher.json';
import { pathAt, placeOf } from './json-place';

const stateOf = (doc: string): EditorState => EditorState.create({ doc, extensions: [json()] });
const text = '{ "id": "x", "readings": { "input[].name": { "title": "Name" } }, "poll": [1, { "ask": "all" }] }';

describe('places in a JSON document', () => {
  it.each([
    ['id', '"x"'],
    ['readings.input[].name.title', '"Name"'],
    ['poll.1.ask', '"all"'],
    ['poll.0', '1'],
    // What is missing is marked where it would have to be.
    ['readings.input[].name.value', '{ "title": "Name" }'],
    ['poll.7', '[1, { "ask": "all" }]'],
  ])('finds %s', (path, value) => {
    const { from, to } = placeOf(stateOf(text), path);
    expect(text.slice(from, to)).toBe(value);
  });

  it('says by which keys and indices a position is reached', () => {
    const state = stateOf(text);
    const at = (part: string) => pathAt(state, text.indexOf(part) + 1);
    expect(at('"x"')).toEqual(['id']);
    expect(at('"Name"')).toEqual(['readings', 'input[].name', 'title']);
    expect(at('"all"')).toEqual(['poll', 1, 'ask']);
    // A key belongs to the object that it is in.
    expect(at('"title"')).toEqual(['readings', 'input[].name']);
  });

  it('finds every value of a driver that ships at its own path', () => {
    const whole = JSON.stringify(visionSwitcher, null, 2);
    const state = stateOf(whole);
    // On a busy computer the first time takes longer than typing may wait for.
    ensureSyntaxTree(state, whole.length, 10_000);
    for (const command of Object.keys(visionSwitcher.commands)) {
      const { from } = placeOf(state, `commands.${command}.title`);
      expect(pathAt(state, from + 1)).toEqual(['commands', command, 'title']);
    }
  });
});
