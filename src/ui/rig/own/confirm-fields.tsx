import type { DriverDocument } from '../../../core/driver';
import type { Scalar } from '../../../core/result';
import type { OwnConfirm, OwnValue } from '../../../core/show';
import { ParamField } from '../../fields';
import { NumberField, Select } from '../../kit';

interface Props {
  readonly document: DriverDocument;
  /** The device's readings, with those that the show adds. */
  readonly readings: DriverDocument['readings'];
  readonly values: readonly OwnValue[];
  readonly confirm: OwnConfirm;
  readonly onChange: (confirm: OwnConfirm) => void;
}

/** What counts as done: the device's answer, or a reading that takes a value. */
export function ConfirmFields({ document, readings, values, confirm, onChange }: Props) {
  const single = Object.entries(readings).filter(([, { index }]) => !index);
  const [value] = values;
  // Most likely the reading that the value steps from, or one of its type.
  const first =
    single.find(([key]) => key === value?.step?.reading) ??
    single.find(([, reading]) => reading.value.type === value?.value.type) ??
    single[0];
  const choose = (by: OwnConfirm['by']) => {
    if (by === 'device' || !first) return onChange({ by: 'device' });
    onChange({
      by: 'reading',
      reading: first[0],
      equals: value ? { name: value.name } : { fixed: initial(first[1].value) },
      withinMs: 2000,
    });
  };
  return (
    <>
      <Select
        label="Confirmed when"
        value={confirm.by}
        options={[
          {
            value: 'device',
            title: document.answers === 'none' ? 'never: it ends as sent' : 'the device answers',
          },
          { value: 'reading', title: 'a reading has a value', disabled: single.length === 0 },
        ]}
        onChoose={choose}
      />
      {confirm.by === 'reading' && (
        <ReadingEquals readings={Object.fromEntries(single)} values={values} confirm={confirm} onChange={onChange} />
      )}
    </>
  );
}

type ByReading = Extract<OwnConfirm, { by: 'reading' }>;

function ReadingEquals({
  readings,
  values,
  confirm,
  onChange,
}: Pick<Props, 'readings' | 'values' | 'onChange'> & { readonly confirm: ByReading }) {
  const shape = readings[confirm.reading]?.value;
  const fixed = '\u0000';
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(140px,1fr))] items-end gap-2.5">
      <Select
        label="Reading"
        value={confirm.reading}
        options={Object.entries(readings).map(([value, { title }]) => ({ value, title }))}
        onChoose={(reading) => {
          const to = readings[reading]?.value;
          onChange({
            ...confirm,
            reading,
            ...('fixed' in confirm.equals && to ? { equals: { fixed: initial(to) } } : {}),
          });
        }}
      />
      <Select
        label="Has"
        value={'name' in confirm.equals ? confirm.equals.name : fixed}
        options={[
          ...values.map(({ name, title }) => ({ value: name, title: `the value ${title}` })),
          { value: fixed, title: 'always the same value' },
        ]}
        onChoose={(name) =>
          onChange({ ...confirm, equals: name === fixed ? { fixed: shape ? initial(shape) : '' } : { name } })
        }
      />
      {'fixed' in confirm.equals && shape && (
        <ParamField
          param={{ title: 'Value', value: shape, sends: 'index', optional: false }}
          value={confirm.equals.fixed}
          onChange={(value) => onChange({ ...confirm, equals: { fixed: value ?? initial(shape) } })}
        />
      )}
      <NumberField
        label="Within"
        unit="ms"
        min={50}
        max={600_000}
        value={confirm.withinMs}
        onCommit={(withinMs) => onChange({ ...confirm, withinMs })}
      />
    </div>
  );
}

function initial(shape: DriverDocument['readings'][string]['value']): Scalar {
  switch (shape.type) {
    case 'onOff':
      return true;
    case 'choice':
      return shape.choices[0]?.value ?? '';
    case 'text':
    case 'payload':
      return '';
    case 'colour':
      return '#000000';
    default:
      return 0;
  }
}
