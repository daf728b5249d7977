'use client';

import { useId, type InputHTMLAttributes } from 'react';
import {
  joinSeveral,
  memberKey,
  namedValues,
  splitSeveral,
  takesReading,
  type DriverParameter,
  type DriverReading,
  type ValueShape,
} from '../../core/driver';
import type { ReadingsView } from '../../core/live';
import type { Scalar } from '../../core/result';
import { Checkbox, CommitInput, Select } from '../kit';
import { PayloadField } from './payload-field';

interface Props {
  readonly param: DriverParameter;
  readonly value: Scalar | undefined;
  /** What the device lists now, for a parameter that is picked from a list. */
  readonly readings?: ReadingsView;
  readonly family?: DriverReading;
  /** Typed values are handed over when the typing is over, not with each key. */
  readonly commits?: boolean;
  /** Its label is read out only: what stands before it says the same. */
  readonly isBare?: boolean;
  /** `undefined`: left out. */
  readonly onChange: (value: Scalar | undefined) => void;
}

/** One parameter, as its type wants to be entered; from the device's own list where it has one. */
export function ParamField({ param, value, readings, family, commits, isBare = false, onChange }: Props) {
  const { value: shape, title } = param;
  const unit = 'unit' in shape && shape.unit ? ` (${shape.unit})` : '';
  if (shape.type === 'payload') {
    const typed = typeof value === 'string' ? value : '';
    return <PayloadField title={title} as={shape.as} value={typed} onChange={onChange} />;
  }
  // What is chosen as a text of its own is no choice of the list.
  const options = optionsOf(param, param.takes ? undefined : value, readings, family);
  if (options && param.takes === 'several')
    return (
      <SeveralField
        title={title}
        options={options.map((option) => String(option.value))}
        value={value}
        onChange={onChange}
      />
    );
  if (options && !param.takes)
    return (
      <Select
        label={`${title}${unit}`}
        {...(isBare ? { labelAt: 'hidden' as const } : {})}
        remark={param.optional && 'optional'}
        value={value === undefined ? '' : String(value)}
        placeholder="Choose"
        options={[
          ...(isRequired(param) ? [] : [{ value: '', title: 'left out' }]),
          ...options.map((option) => ({ value: String(option.value), title: option.title })),
        ]}
        onChoose={(chosen) => onChange(options.find((option) => String(option.value) === chosen)?.value)}
      />
    );
  return (
    <label className="relative grid gap-1">
      <span className={isBare && !param.optional ? 'sr-only' : 'text-[14px] text-ink-soft'}>
        <span className={isBare ? 'sr-only' : 'contents'}>
          {title}
          {unit}
        </span>
        {param.optional && <span className="text-ink-soft"> optional</span>}
      </span>
      <Entry
        param={param}
        value={value}
        commits={commits}
        examples={param.takes === 'examples' ? options?.map((option) => String(option.value)) : undefined}
        onChange={onChange}
      />
    </label>
  );
}

interface SeveralProps {
  readonly title: string;
  readonly options: readonly string[];
  readonly value: Scalar | undefined;
  readonly onChange: (value: Scalar | undefined) => void;
}

/** Several members of a list, kept as one text. */
function SeveralField({ title, options, value, onChange }: SeveralProps) {
  const chosen = splitSeveral(String(value ?? ''));
  // What is stored stays, also while no device lists it.
  const all = [...new Set([...options, ...chosen])];
  return (
    <fieldset className="grid gap-1">
      <legend className="pb-1 text-[14px] text-ink-soft">{title}</legend>
      <div className="grid max-h-40 gap-1 overflow-y-auto">
        {all.map((each) => (
          <Checkbox
            key={each}
            label={each}
            checked={chosen.includes(each)}
            onChange={(on) => onChange(joinSeveral(all.filter((one) => (one === each ? on : chosen.includes(one)))))}
          />
        ))}
        {all.length === 0 && <p className="text-ink-soft">The device lists nothing now.</p>}
      </div>
    </fieldset>
  );
}

/** What is chosen from; `undefined` for what is typed. What is stored is there, too, while the device does not list it. */
function optionsOf(
  param: DriverParameter,
  value: Scalar | undefined,
  readings: ReadingsView | undefined,
  family: DriverReading | undefined,
): readonly Option[] | undefined {
  const { value: shape } = param;
  const offered =
    param.listFrom && family?.index
      ? membersOf(param, family.index, readings)
      : shape.type === 'choice'
        ? shape.choices
        : shape.type === 'onOff'
          ? onOff
          : namedOptions(shape);
  if (!offered || value === undefined || offered.some((option) => option.value === value)) return offered;
  return [{ value, title: `${String(value)}, not listed now` }, ...offered];
}

/** The values that the trade has names for. */
function namedOptions(shape: ValueShape): readonly Option[] | undefined {
  const named = namedValues(shape);
  return named.length > 0 ? named : undefined;
}

const onOff: readonly Option[] = [
  { value: true, title: 'on' },
  { value: false, title: 'off' },
];

const isRequired = (param: DriverParameter): boolean => !param.optional && !takesReading(param);

function Entry({ param, value, commits, examples, onChange }: Props & { readonly examples: string[] | undefined }) {
  const listId = useId();
  const { value: shape } = param;
  const required = isRequired(param);
  switch (shape.type) {
    case 'whole':
    case 'decimal':
    case 'time':
      return (
        <TextEntry
          commits={commits}
          type="number"
          required={required}
          min={typeof shape.min === 'number' ? shape.min : undefined}
          max={typeof shape.max === 'number' ? shape.max : undefined}
          step={shape.type === 'whole' ? 1 : 'any'}
          value={typeof value === 'number' ? String(value) : ''}
          onText={(text) => onChange(text === '' ? undefined : Number(text))}
        />
      );
    case 'colour':
      return (
        <input
          type="color"
          value={typeof value === 'string' && value !== '' ? value : '#808080'}
          onChange={(e) => onChange(e.target.value.toUpperCase())}
        />
      );
    default:
      return (
        <>
          <TextEntry
            commits={commits}
            list={examples && listId}
            value={typeof value === 'string' ? value : ''}
            maxLength={shape.type === 'text' ? shape.maxLength : undefined}
            onText={(text) => onChange(text === '' && param.optional ? undefined : text)}
          />
          {examples && (
            <datalist id={listId}>
              {examples.map((each) => (
                <option key={each} value={each} />
              ))}
            </datalist>
          )}
        </>
      );
  }
}

type TextEntryProps = Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange'> & {
  readonly value: string;
  readonly commits: boolean | undefined;
  readonly onText: (text: string) => void;
};

const TextEntry = ({ commits, onText, ...rest }: TextEntryProps) =>
  commits ? <CommitInput {...rest} onCommit={onText} /> : <input {...rest} onChange={(e) => onText(e.target.value)} />;

interface Option {
  readonly value: Scalar;
  readonly title: string;
}

/** The members of a family: those that the device has named, or all that there can be while it has named none. */
function membersOf(
  param: DriverParameter,
  range: NonNullable<DriverReading['index']>,
  readings: ReadingsView | undefined,
): Option[] {
  const all = Array.from({ length: Math.min(500, Number(range.to) - range.from + 1) }, (_, n) => {
    const index = range.from + n;
    const name = String(readings?.[memberKey(param.listFrom ?? '', index)]?.value ?? '');
    return {
      value: param.sends === 'value' ? name : index,
      title: param.sends === 'value' ? name : `${index} ${name}`,
      name,
    };
  });
  const named = all.filter(({ name }) => name !== '');
  return named.length > 0 || param.sends === 'value' ? named : all;
}
