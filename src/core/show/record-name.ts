import type { ControlRecord, ShowRecord } from './records';
import { resolveReading } from './values';

/** What people call a record in a list: its tag, its name, or what its label says. */
export function nameOfRecord(record: ShowRecord): string {
  switch (record.kind) {
    case 'device':
      return record.data.tag;
    case 'control':
      return nameOfControl(record);
    case 'tie':
      return `input ${record.data.input}`;
    case 'binding':
      return `${record.data.input} of ${record.data.gear}`;
    case 'preset':
      return record.data.name === '' ? `preset ${record.data.number}` : record.data.name;
    case 'show':
    case 'page':
    case 'macro':
    case 'snapshot':
    case 'variable':
    case 'watch':
    case 'inlet':
    case 'panel':
      return record.data.name;
  }
}

/** The label of a control as it is stored: values as they are, readings by their keys. Without a label, its type and place. */
function nameOfControl({ data: { label, values, type, col, row } }: ControlRecord): string {
  const text = label
    .map((part) => {
      if ('text' in part) return part.text;
      if ('value' in part) return String(values[part.value] ?? '');
      return resolveReading(part.reading, values).key;
    })
    .join('')
    .trim();
  return text === '' ? `${type} in column ${col + 1}, row ${row + 1}` : text;
}

/** True for a control that is called the same whatever the devices report: its label is not blank and has no reading in it. */
export const hasFixedName = ({ data: { label } }: ControlRecord): boolean =>
  label.every((part) => !('reading' in part)) &&
  label.some((part) => 'value' in part || ('text' in part && part.text.trim() !== ''));
