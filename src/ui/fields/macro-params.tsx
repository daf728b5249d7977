'use client';

import type { DriverParameter } from '../../core/driver';
import type { Scalar } from '../../core/result';
import { resolveArgument, type MacroRecord, type SendSpec } from '../../core/show';
import { ArgumentField } from './argument-field';

interface Props {
  readonly macro: MacroRecord;
  readonly params: SendSpec['params'];
  /** Of the control that starts it. */
  readonly values: Readonly<Record<string, Scalar>>;
  readonly onParams: (to: SendSpec['params']) => void;
}

/** What the parameters of a macro are when something starts it; one that is left out has its usual value. */
export const MacroParams = ({ macro, params, values, onParams }: Props) =>
  macro.data.params.map(({ name, title, value }) => (
    <ArgumentField
      key={name}
      param={paramFor(title, value)}
      argument={params[name]}
      value={resolveArgument(params[name] ?? value, values)}
      values={values}
      onValue={(to) => {
        const { [name]: _, ...others } = params;
        onParams(to === undefined ? others : { ...others, [name]: to });
      }}
      onArgument={(to) => onParams({ ...params, [name]: to })}
    />
  ));

/** A parameter of a macro takes what its usual value is. */
const paramFor = (title: string, usual: Scalar): DriverParameter => ({
  title,
  value:
    typeof usual === 'number'
      ? { type: 'decimal', decimals: 3 }
      : typeof usual === 'boolean'
        ? { type: 'onOff', on: 'on', off: 'off' }
        : { type: 'text', maxLength: 200 },
  sends: 'value',
  optional: true,
});
