import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiled, controlRecord, macroRecord } from '../../../test/support/records';
import audioMixer from '../../drivers/audio-mixer.json';
import titleMachine from '../../drivers/title-machine.json';
import visionSwitcher from '../../drivers/vision-switcher.json';
import type { Scalar } from '../result';
import { controlDataSchema, ownDocument, ownId, startOfStarter, type ControlRecord } from '../show';
import { startersOf } from '../driver';
import { askOffers } from './askables';
import { answered, askFor, changeAsked, checkAnswers, mostAsked, questionsOf, type AnswerTakers } from './questions';

const documents = {
  sw: compiled(visionSwitcher).document,
  mixer: compiled(audioMixer).document,
  titles: compiled(titleMachine).document,
};
const macro = macroRecord('mac', [{}], {
  params: [
    { name: 'lane', title: 'Lane', value: 3 },
    { name: 'loud', title: 'Loud', value: true },
  ],
});
const takers: AnswerTakers = {
  documentOf: (device) => documents[device as keyof typeof documents],
  readingsOf: () => ({ 'input[1].name': { value: 'Start tower' }, 'input[2].name': { value: 'Launch' } }),
  macroOf: (id) => (id === 'mac' ? macro : undefined),
};
const sources = { documentOf: takers.documentOf, tagOf: (id: string) => id.toUpperCase(), macroOf: takers.macroOf };
type Data = ControlRecord['data'];
const dataOf = (device: string, command: string, params: Record<string, Scalar>): Data =>
  controlRecord('c', { responses: { tap: [{ device, command, params }] } }).data;
/** Asks for what the offer with this title is about. */
const asking = (data: Data, title: string): Data => {
  const offer = askOffers(data, sources).find((each) => each.title === title);
  if (!offer) throw new Error(`Nothing to ask that is called ${title}.`);
  return askFor(data, offer.about, offer.title, offer.now);
};

describe('what is asked', () => {
  it.each<[string, Data, string, object]>([
    [
      'an input, from what the switcher lists',
      dataOf('sw', 'take', { input: 1 }),
      'Input',
      {
        shape: { type: 'whole' },
        now: 1,
        options: [
          { value: 1, title: '1 Start tower' },
          { value: 2, title: '2 Launch' },
        ],
      },
    ],
    [
      'a level, within its range',
      dataOf('mixer', 'level', { strip: 1, level: -3 }),
      'Level',
      { shape: { type: 'decimal' }, now: -3 },
    ],
    [
      'on or off',
      dataOf('mixer', 'mute', { strip: 1, on: true }),
      'Muted',
      { options: [{ value: true }, { value: false }] },
    ],
    [
      'a text, as long as it may be',
      dataOf('titles', 'field', { layer: 1, field: 1, text: 'x' }),
      'Text',
      { shape: { type: 'text', maxLength: 80 } },
    ],
  ])('is what the command takes: %s', (_, data, title, wanted) => {
    const asks = asking(data, title);
    expect(controlDataSchema.safeParse(asks).success).toBe(true);
    expect(questionsOf(asks, takers)).toMatchObject([{ title, ...wanted }]);
  });

  it('is what a macro takes', () => {
    const data = controlRecord('c', { responses: { tap: [], runs: { macro: 'mac', params: {} } } }).data;
    const asks = asking(asking(data, 'Lane'), 'Loud');
    expect(questionsOf(asks, takers)).toMatchObject([
      { shape: { type: 'decimal' }, now: 3 },
      { shape: { type: 'onOff' }, now: true },
    ]);
  });

  it('is only what was written down, where that was', () => {
    const data = asking(dataOf('titles', 'field', { layer: 1, field: 1, text: 'x' }), 'Text');
    const [item] = data.responses.asks?.items ?? [];
    if (!item) throw new Error('Nothing is asked.');
    const narrowed = changeAsked(data, item.value, { ...item, options: ['Bow', 'Stern'] });
    const questions = questionsOf(narrowed, takers);
    expect(checkAnswers(questions, { [item.value]: 'Bow' }).ok).toBe(true);
    expect(checkAnswers(questions, { [item.value]: 'Keel' }).ok).toBe(false);
  });

  it('is several members of a list, any text, or nothing, where the command takes that', () => {
    const groups = { 'group[1].name': { value: 'SW1 Boxes' }, 'group[2].name': { value: 'A1 Levels' } };
    const starter = startersOf(ownDocument, {}).find(({ command }) => command === 'takeGroups');
    if (!starter) throw new Error('No starter takes a snapshot.');
    const { data: taking } = controlRecord('c', startOfStarter(ownId, starter, ownDocument));
    const questions = questionsOf(taking, {
      ...takers,
      documentOf: () => ownDocument,
      readingsOf: () => ({ ...groups, 'folder[1].name': { value: 'Morning' } }),
    });
    const judged = (given: Record<string, Scalar>) => {
      const checked = checkAnswers(questions, { groups: 'A1 Levels', tint: 'none', ...given });
      return checked.ok ? checked.value : checked.error.path;
    };
    expect(judged({})).toEqual({ groups: 'A1 Levels', name: '', folder: '', tint: 'none', note: '' });
    expect(judged({ groups: 'SW1 Boxes; A1 Levels', folder: 'Evening', name: 'Dusk' })).toMatchObject({
      groups: 'SW1 Boxes; A1 Levels',
      folder: 'Evening',
    });
    const wrong: Record<string, Scalar>[] = [
      { groups: '' },
      { groups: 'SW1 Boxes; A9 Levels' },
      { tint: 'red' },
      { name: 'x'.repeat(61) },
    ];
    expect(wrong.map(judged)).toEqual(['groups', 'groups', 'tint', 'name']);
  });

  it('is asked once, at most six things, and what is taken out keeps its value', () => {
    const crop = { device: 'sw', command: 'boxCrop', params: { box: 1, left: 1, top: 2, right: 3, bottom: 4 } };
    const level = { device: 'mixer', command: 'level', params: { strip: 1, level: -3 } };
    let { data } = controlRecord('c', { responses: { tap: [crop, level] } });
    for (;;) {
      const [offer] = askOffers(data, sources);
      if (!offer || (data.responses.asks?.items.length ?? 0) >= mostAsked) break;
      data = askFor(data, offer.about, offer.title, offer.now);
    }
    expect(data.responses.asks?.items).toHaveLength(mostAsked);
    const names = data.responses.asks?.items.map(({ value }) => value) ?? [];
    expect(new Set(names).size).toBe(mostAsked);
    const without = names.reduce((left, name) => changeAsked(left, name, undefined), data);
    expect(without.responses.asks).toBeUndefined();
    expect(without.values).toEqual(data.values);
  });
});

describe('an answer', () => {
  const data = asking(dataOf('mixer', 'level', { strip: 1, level: -3 }), 'Level');
  const questions = questionsOf(data, takers);
  const [name = ''] = questions.map(({ value }) => value);

  it.each<[string, Record<string, Scalar>, string | undefined]>([
    ['that fits', { [name]: -12.5 }, undefined],
    ['that is missing', {}, 'not answered yet'],
    ['that is empty', { [name]: '' }, 'not answered yet'],
    ['out of range', { [name]: 99 }, '99'],
    ['of another type', { [name]: 'loud' }, 'expects a number'],
  ])('is judged: one %s', (_, given, said) => {
    const checked = checkAnswers(questions, given);
    expect(checked.ok).toBe(said === undefined);
    if (!checked.ok)
      expect(checked.error).toMatchObject({ path: name, message: expect.stringContaining(said ?? '') as string });
  });

  it('takes the place of the value and of nothing else, whatever else is given', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -60, max: 10, noNaN: true }),
        fc.dictionary(fc.string(), fc.string()),
        (level, more) => {
          const checked = checkAnswers(questions, { ...more, [name]: level });
          if (!checked.ok) return;
          const record = { kind: 'control', id: 'c', version: 1, data } as const;
          expect(answered(record, checked.value).data.values).toEqual({ ...data.values, [name]: checked.value[name] });
        },
      ),
    );
  });
});
