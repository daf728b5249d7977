import type { OwnStep, OwnValue } from '../../../core/show';
import { Checkbox, NumberField, Select } from '../../kit';

type Type = OwnValue['value']['type'];

export interface SteppedReading {
  readonly title: string;
  readonly value: { readonly type: Type };
}

const isNumber = (type: Type): boolean => type === 'whole' || type === 'decimal';

/** Types of values that go up and down. */
export const stepTypes: readonly Type[] = ['whole', 'decimal', 'choice', 'onOff'];

interface Props {
  readonly step: OwnStep | undefined;
  readonly type: Type;
  readonly readings: Readonly<Record<string, SteppedReading>>;
  readonly onChange: (step: OwnStep | undefined) => void;
}

/** Whether a value is given with each press, or goes up or down from what a reading is. */
export function StepFields({ step, type, readings, onChange }: Props) {
  const fits = isNumber(type) ? isNumber : (other: Type) => other === type;
  const single = Object.entries(readings).filter(([key, reading]) => !key.includes('[]') && fits(reading.value.type));
  if (!stepTypes.includes(type) || single.length === 0) return null;
  const [first] = single;
  return (
    <>
      <Select
        label="Without a value given"
        value={step ? 'step' : 'given'}
        options={[
          { value: 'given', title: 'the default is sent' },
          { value: 'step', title: type === 'onOff' ? 'it toggles' : 'it steps up or down' },
        ]}
        onChoose={(way) => onChange(way === 'step' && first ? { reading: first[0], by: 1, wrap: false } : undefined)}
      />
      {step && (
        <div className="grid grid-cols-[repeat(auto-fit,minmax(130px,1fr))] items-end gap-2.5">
          <Select
            label="From the reading"
            value={step.reading}
            options={single.map(([value, { title }]) => ({ value, title }))}
            onChoose={(reading) => onChange({ ...step, reading })}
          />
          {type !== 'onOff' && (
            <>
              <NumberField
                label={type === 'choice' ? 'By, places' : 'By'}
                min={-1_000_000}
                max={1_000_000}
                step={type === 'decimal' ? 0.1 : 1}
                value={step.by}
                onCommit={(by) => onChange({ ...step, by })}
              />
              <Checkbox
                label="Wrap around at the ends"
                checked={step.wrap}
                onChange={(wrap) => onChange({ ...step, wrap })}
              />
            </>
          )}
        </div>
      )}
    </>
  );
}
