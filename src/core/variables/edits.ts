import type { Edit, ShowRecord, VariableData, VariableRecord, VariableValue } from '../show';
import { fitting } from './change';

type NewId = (kind: 'var') => string;

/** The variables of a show in their order. */
export const variablesOf = (records: readonly ShowRecord[]): VariableRecord[] =>
  records
    .filter((record): record is VariableRecord => record.kind === 'variable')
    .sort((a, b) => a.data.order - b.data.order || a.data.key.localeCompare(b.data.key));

/** A key made of a name: `Lap number` becomes `lapNumber`; with a number after it where another variable has it. */
function freeKey(records: readonly ShowRecord[], name: string): string {
  const words = name
    .normalize('NFD')
    .replace(/[^A-Za-z0-9 ]/g, '')
    .split(' ')
    .filter((word) => word !== '');
  const joined = words
    .map((word, n) => (n === 0 ? word.toLowerCase() : word.slice(0, 1).toUpperCase() + word.slice(1).toLowerCase()))
    .join('')
    .replace(/^[^a-z]+/, '')
    .slice(0, 26);
  const base = joined === '' ? 'value' : joined;
  const taken = new Set(variablesOf(records).map(({ data }) => data.key.toLowerCase()));
  for (let n = 1; ; n += 1) {
    const key = n === 1 ? base : `${base}${n}`;
    if (!taken.has(key.toLowerCase())) return key;
  }
}

/** What a new variable of a kind looks like. */
export function usualValue(type: VariableValue['type']): VariableValue {
  switch (type) {
    case 'text':
      return { type, initial: '' };
    case 'onOff':
      return { type, initial: false };
    case 'number':
      return { type, min: 0, max: 100, step: 1, decimals: 0, unit: '', initial: 0 };
    case 'choice':
      return { type, choices: ['one', 'two'], initial: 'one' };
  }
}

export function newVariableEdit(
  records: readonly ShowRecord[],
  newId: NewId,
  { name, value }: Pick<VariableData, 'name' | 'value'>,
): Edit {
  const order = Math.max(0, ...variablesOf(records).map(({ data }) => data.order)) + 1;
  const data: VariableData = { name, key: freeKey(records, name), order, note: '', value };
  const record: VariableRecord = { kind: 'variable', id: newId('var'), version: 1, data };
  return { title: `Add variable ${name}`, changes: [{ op: 'add', record }] };
}

export const changeVariableEdit = (from: VariableRecord, data: VariableData, what: string): Edit => ({
  title: `${what} of variable ${from.data.name}`,
  changes: [{ op: 'update', from, to: { ...from, data: { ...data, value: withInitial(data.value) } } }],
});

export const removeVariableEdit = (record: VariableRecord): Edit => ({
  title: `Remove variable ${record.data.name}`,
  changes: [{ op: 'remove', record }],
});

/** With an initial value that it can hold: the nearest one. */
function withInitial(value: VariableValue): VariableValue {
  if (fitting(value, value.initial).ok) return value;
  if (value.type === 'number') return { ...value, initial: Math.min(value.max, Math.max(value.min, value.initial)) };
  return value.type === 'choice' ? { ...value, initial: value.choices[0] ?? '' } : value;
}
