'use client';

import { longestVariableText, type VariableValue } from '../../core/show';
import { Checkbox, ChipsInput, NumberField, Select, TextField } from '../kit';

interface Props {
  readonly value: VariableValue;
  readonly onValue: (to: VariableValue, what: string) => void;
}

/** What a variable can hold, and what it begins with. */
export function ShapeFields({ value, onValue }: Props) {
  switch (value.type) {
    case 'text':
      return (
        <TextField
          label="Initial text"
          value={value.initial}
          maxLength={longestVariableText}
          onCommit={(initial) => onValue({ ...value, initial }, 'Initial value')}
        />
      );
    case 'onOff':
      return (
        <Checkbox
          label="Initially on"
          checked={value.initial}
          onChange={(initial) => onValue({ ...value, initial }, 'Initial value')}
        />
      );
    case 'choice':
      return (
        <>
          <ChipsInput
            label="Choices"
            help="At least two."
            values={value.choices}
            onChange={(choices) => choices.length >= 2 && onValue({ ...value, choices: [...choices] }, 'Choices')}
          />
          <Select
            label="Initial choice"
            value={value.initial}
            options={value.choices.map((choice) => ({ value: choice, title: choice }))}
            onChoose={(initial) => onValue({ ...value, initial }, 'Initial value')}
          />
        </>
      );
    case 'number':
      return <NumberFields value={value} onValue={onValue} />;
  }
}

function NumberFields({ value, onValue }: Props & { readonly value: Extract<VariableValue, { type: 'number' }> }) {
  const smallest = 10 ** -value.decimals;
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Minimum"
          max={value.max - smallest}
          step={smallest}
          value={value.min}
          onCommit={(min) => onValue({ ...value, min }, 'Minimum')}
        />
        <NumberField
          label="Maximum"
          min={value.min + smallest}
          step={smallest}
          value={value.max}
          onCommit={(max) => onValue({ ...value, max }, 'Maximum')}
        />
        <NumberField
          label="Step"
          min={smallest}
          step={smallest}
          value={value.step}
          onCommit={(step) => onValue({ ...value, step }, 'Step')}
        />
        <NumberField
          label="Decimals"
          min={0}
          max={6}
          value={value.decimals}
          onCommit={(decimals) => onValue({ ...value, decimals: Math.round(decimals) }, 'Decimals')}
        />
        <NumberField
          label="Initial value"
          min={value.min}
          max={value.max}
          step={smallest}
          value={value.initial}
          onCommit={(initial) => onValue({ ...value, initial }, 'Initial value')}
        />
        <TextField
          label="Unit"
          value={value.unit}
          maxLength={10}
          onCommit={(unit) => onValue({ ...value, unit: unit.trim() }, 'Unit')}
        />
      </div>
      <Checkbox
        label="Wrap around at the ends"
        checked={value.wraps === true}
        onChange={(on) => {
          const { wraps: _, ...rest } = value;
          onValue(on ? { ...rest, wraps: true } : rest, 'Steps');
        }}
      />
    </>
  );
}
