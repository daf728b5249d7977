import type { DriverDocument } from '../../../core/driver';
import type { OwnValue } from '../../../core/show';
import { Checkbox, NumberField, Select } from '../../kit';
import { ExpressionField } from './expression-field';

type Type = OwnValue['value']['type'];

const isNumber = (type: Type): boolean => type === 'whole' || type === 'decimal';

/** Types of values that go up and down. */
export const stepTypes: readonly Type[] = ['whole', 'decimal', 'choice', 'onOff'];

/** What a value is when none is given; without either it is the default. */
export type OwnOrigin = Pick<OwnValue, 'step' | 'computed'>;

interface Props {
  readonly origin: OwnOrigin;
  readonly type: Type;
  readonly readings: DriverDocument['readings'];
  /** The values before it, which an expression may name. */
  readonly before: readonly string[];
  readonly onChange: (origin: OwnOrigin) => void;
}

/** Whether a value is given with each press, goes up or down from what a reading is, or is computed from readings. */
export function StepFields({ origin: { step, computed }, type, readings, before, onChange }: Props) {
  const fits = isNumber(type) ? isNumber : (other: Type) => other === type;
  const single = Object.entries(readings).filter(([key, reading]) => !key.includes('[]') && fits(reading.value.type));
  const [first] = single;
  return (
    <>
      <Select
        label="Without a value given"
        value={step ? 'step' : computed === undefined ? 'given' : 'computed'}
        options={[
          { value: 'given', title: 'the default is sent' },
          ...(stepTypes.includes(type) && first
            ? [{ value: 'step', title: type === 'onOff' ? 'it toggles' : 'it steps up or down' }]
            : []),
          { value: 'computed', title: 'it is computed from readings' },
        ]}
        onChoose={(way) => {
          if (way === 'step' && first) onChange({ step: { reading: first[0], by: 1, wrap: false } });
          else onChange(way === 'computed' ? { computed: '' } : {});
        }}
      />
      {computed !== undefined && (
        <ExpressionField
          value={computed}
          readings={readings}
          others={before}
          error={undefined}
          onChange={(expression) => onChange({ computed: expression })}
        />
      )}
      {step && (
        <div className="grid grid-cols-[repeat(auto-fit,minmax(130px,1fr))] items-end gap-2.5">
          <Select
            label="From the reading"
            value={step.reading}
            options={single.map(([value, { title }]) => ({ value, title }))}
            onChoose={(reading) => onChange({ step: { ...step, reading } })}
          />
          {type !== 'onOff' && (
            <>
              <NumberField
                label={type === 'choice' ? 'By, places' : 'By'}
                min={-1_000_000}
                max={1_000_000}
                step={type === 'decimal' ? 0.1 : 1}
                value={step.by}
                onCommit={(by) => onChange({ step: { ...step, by } })}
              />
              <Checkbox
                label="Wrap around at the ends"
                checked={step.wrap}
                onChange={(wrap) => onChange({ step: { ...step, wrap } })}
              />
            </>
          )}
        </div>
      )}
    </>
  );
}
