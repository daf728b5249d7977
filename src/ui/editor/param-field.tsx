'use client';

import type { DriverCommand, DriverReading } from '../../core/driver';
import { memberKey } from '../../core/driver';
import type { ReadingsView } from '../../core/live';
import type { Scalar } from '../../core/result';

interface Props {
  readonly param: DriverCommand['params'][string];
  readonly value: Scalar | undefined;
  /** What the device lists now, for a parameter that is picked from a list. */
  readonly readings?: ReadingsView;
  readonly family?: DriverReading;
  readonly onChange: (value: Scalar) => void;
}

/** One parameter, as its type wants to be entered; from the device's own list where it has one. */
export function ParamField({ param, value, readings, family, onChange }: Props) {
  const { value: shape, title } = param;
  const unit = 'unit' in shape && shape.unit ? ` (${shape.unit})` : '';
  const members = param.listFrom && family?.index ? membersOf(param.listFrom, family.index, readings) : undefined;
  return (
    <label>
      {title}
      {unit}
      {members ? (
        <select
          value={value === undefined ? '' : String(value)}
          onChange={(e) => onChange(Number(e.target.value))}
          required
        >
          <option value="" disabled>
            choose
          </option>
          {members.map(({ index, name }) => (
            <option key={index} value={index}>
              {index} {name}
            </option>
          ))}
        </select>
      ) : shape.type === 'whole' || shape.type === 'decimal' ? (
        <input
          type="number"
          required
          min={shape.min}
          max={shape.max}
          step={shape.type === 'whole' ? 1 : 'any'}
          value={typeof value === 'number' ? value : ''}
          onChange={(e) => onChange(Number(e.target.value))}
        />
      ) : shape.type === 'choice' ? (
        <select value={typeof value === 'string' ? value : ''} onChange={(e) => onChange(e.target.value)} required>
          <option value="" disabled>
            choose
          </option>
          {shape.choices.map((choice) => (
            <option key={choice.value} value={choice.value}>
              {choice.title}
            </option>
          ))}
        </select>
      ) : shape.type === 'onOff' ? (
        <select value={value === true ? 'on' : 'off'} onChange={(e) => onChange(e.target.value === 'on')}>
          <option value="on">on</option>
          <option value="off">off</option>
        </select>
      ) : (
        <input
          value={typeof value === 'string' ? value : ''}
          maxLength={shape.maxLength}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </label>
  );
}

function membersOf(
  family: string,
  range: { readonly from: number; readonly to: number },
  readings: ReadingsView | undefined,
) {
  return Array.from({ length: range.to - range.from + 1 }, (_, n) => {
    const index = range.from + n;
    return { index, name: String(readings?.[memberKey(family, index)]?.value ?? '') };
  });
}
