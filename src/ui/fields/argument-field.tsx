'use client';

import { Braces } from 'lucide-react';
import type { DriverParameter, DriverReading } from '../../core/driver';
import type { ReadingsView } from '../../core/live';
import type { Scalar } from '../../core/result';
import { isLive, valueNameOf, type SentArgument } from '../../core/show';
import { IconButton, Menu, Select } from '../kit';
import { ExpressionField } from './expression-field';
import { ParamField } from './param-field';
import { ReadingPicker } from './reading-picker';
import { useRigFacts } from './rig-facts';

interface Props {
  readonly param: DriverParameter;
  readonly argument: SentArgument | undefined;
  /** Its value now, where it is a literal or a value of the control. */
  readonly value: Scalar | undefined;
  /** What an expression may name besides readings. */
  readonly values: Readonly<Record<string, Scalar>>;
  /** Parameters of the macro that it may be. */
  readonly offered?: readonly { readonly name: string; readonly title: string }[];
  readonly readings?: ReadingsView | undefined;
  readonly family?: DriverReading | undefined;
  /** `undefined`: left out. */
  readonly onValue: (value: Scalar | undefined) => void;
  readonly onArgument: (to: SentArgument) => void;
}

/** A parameter of a command: with a value of its own, or one that is looked up when the command leaves. */
export function ArgumentField({
  param,
  argument,
  value,
  values,
  offered = [],
  readings,
  family,
  onValue,
  onArgument,
}: Props) {
  const { readable, documentOf } = useRigFacts();
  const named = valueNameOf(argument);
  const own = offered.find(({ name }) => name === named);
  const source = own ? `value ${own.name}` : !isLive(argument) ? '' : 'reading' in argument ? 'reading' : 'expression';
  const firstReading = () => {
    for (const { id } of readable) {
      const key = Object.entries(documentOf(id)?.readings ?? {}).find(([, { index }]) => !index)?.[0];
      if (key !== undefined) return { device: id, key };
    }
    return undefined;
  };
  const choose = (to: string) => {
    const [kind, name = ''] = to.split(' ');
    if (kind === 'value') return onArgument({ value: name });
    const first = kind === 'reading' ? firstReading() : undefined;
    if (first) return onArgument({ reading: first });
    if (kind === 'expression') return onArgument({ cel: literalText(value ?? param.default ?? 0), readings: [] });
    onValue(value ?? param.default ?? 1);
  };
  const sources = [
    ...offered.map(({ name, title }) => ({ value: `value ${name}`, title: `the macro’s “${title}”` })),
    { value: 'reading', title: 'a reading at that moment' },
    { value: 'expression', title: 'an expression' },
  ];
  if (source === '')
    return (
      <div className="flex items-end gap-1 [&>*:first-child]:min-w-0 [&>*:first-child]:flex-1">
        <ParamField
          param={param}
          value={value}
          {...(readings ? { readings } : {})}
          {...(family ? { family } : {})}
          commits
          onChange={onValue}
        />
        <Menu acts={sources.map((each) => ({ title: upper(each.title), run: () => choose(each.value) }))}>
          <IconButton label={`Take ${param.title} from elsewhere`}>
            <Braces aria-hidden size={16} />
          </IconButton>
        </Menu>
      </div>
    );
  return (
    <div className="flex flex-col gap-1">
      <Select
        label={`${param.title} is`}
        value={source}
        options={[{ value: '', title: 'a value of its own' }, ...sources]}
        onChoose={choose}
      />
      {isLive(argument) && 'reading' in argument && (
        <ReadingPicker label="The reading" chosen={argument.reading} onPick={(reading) => onArgument({ reading })} />
      )}
      {isLive(argument) && 'cel' in argument && (
        <ExpressionField
          label={`Expression for ${param.title}`}
          expression={argument}
          values={values}
          example="SHOW.variable.lap + 1"
          onChange={onArgument}
        />
      )}
    </div>
  );
}

const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** A value as an expression would have it. */
const literalText = (value: Scalar): string => (typeof value === 'string' ? JSON.stringify(value) : String(value));
