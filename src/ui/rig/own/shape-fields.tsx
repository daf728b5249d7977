import type { ValueShape } from '../../../core/driver';
import { Field, Select } from '../../kit';

interface Props {
  readonly shape: ValueShape;
  /** A value that is sent has a range; one that is heard has what the device writes. */
  readonly use: 'sent' | 'heard';
  /** How this kind of device writes on and off. */
  readonly onOff: { readonly on: string; readonly off: string };
  readonly onChange: (shape: ValueShape) => void;
}

const titles = {
  whole: 'whole number',
  decimal: 'decimal number',
  text: 'text',
  onOff: 'on or off',
  choice: 'one of a few',
  time: 'time',
  colour: 'colour',
} as const;
type Kind = keyof typeof titles;

const empty = (kind: Kind, onOff: Props['onOff']): ValueShape => {
  switch (kind) {
    case 'onOff':
      return { type: 'onOff', ...onOff };
    case 'choice':
      return { type: 'choice', choices: [{ value: '1', title: 'First' }] };
    case 'time':
      return { type: 'time', writes: 'seconds', fps: 25 };
    case 'colour':
      return { type: 'colour', writes: '#rrggbb' };
    default:
      return { type: kind };
  }
};

const row = 'grid items-start grid-cols-[repeat(auto-fit,minmax(110px,1fr))] gap-2.5';

/** What a value can be: its type, and what belongs to it. */
export function ShapeFields({ shape, use, onOff, onChange }: Props) {
  return (
    <>
      <Select
        label="Type"
        value={shape.type === 'payload' ? undefined : shape.type}
        options={(Object.keys(titles) as Kind[]).map((value) => ({ value, title: titles[value] }))}
        onChoose={(kind) => kind !== shape.type && onChange(empty(kind, onOff))}
      />
      <Details shape={shape} use={use} onChange={onChange} />
    </>
  );
}

function Details({ shape, use, onChange }: Omit<Props, 'onOff'>) {
  switch (shape.type) {
    case 'whole':
    case 'decimal':
      // Another type begins anew, also what is typed in its fields.
      return <NumberDetails key={shape.type} shape={shape} use={use} onChange={onChange} />;
    case 'onOff':
      return (
        <div className={row}>
          <Line label="On is" value={shape.on} onChange={(on) => onChange({ ...shape, on })} />
          <Line label="Off is" value={shape.off} onChange={(off) => onChange({ ...shape, off })} />
        </div>
      );
    case 'choice':
      return (
        <Field label="Choices" help="One a line: what the device says or is sent, an equals sign, what people read.">
          {(ids) => (
            <textarea
              {...ids}
              rows={4}
              className="w-full font-mono text-[0.93em]"
              defaultValue={shape.choices.map(({ value, wire, title }) => `${wire ?? value} = ${title}`).join('\n')}
              onChange={({ target }) => onChange({ ...shape, choices: choicesIn(target.value) })}
            />
          )}
        </Field>
      );
    case 'time':
      return (
        <Select
          label="Written as"
          value={shape.writes}
          options={(['seconds', 'milliseconds', 'm:ss', 'h:mm:ss', 'h:mm:ss:ff'] as const).map((value) => ({
            value,
            title: value,
          }))}
          onChoose={(writes) => onChange({ ...shape, writes })}
        />
      );
    default:
      return null;
  }
}

type Numeric = Extract<ValueShape, { type: 'whole' | 'decimal' }>;

function NumberDetails({ shape, use, onChange }: { readonly shape: Numeric } & Pick<Props, 'use' | 'onChange'>) {
  const number = (key: 'min' | 'max' | 'scale', text: string) => {
    const { [key]: _, ...rest } = shape;
    const value = Number(text);
    const isGood = text.trim() !== '' && Number.isFinite(value) && !(key === 'scale' && value === 0);
    onChange(isGood ? { ...shape, [key]: value } : rest);
  };
  return (
    <div className={row}>
      {use === 'sent' && (
        <>
          <Line label="Smallest" isNumber value={shape.min} onChange={(text) => number('min', text)} />
          <Line label="Largest" isNumber value={shape.max} onChange={(text) => number('max', text)} />
        </>
      )}
      <Line
        label={use === 'sent' ? 'Sent divided by' : 'Multiplied by'}
        isNumber
        value={shape.scale}
        onChange={(text) => number('scale', text)}
      />
      <Line
        label="Unit"
        value={shape.unit}
        onChange={(unit) => {
          const { unit: _, ...rest } = shape;
          onChange(unit === '' ? rest : { ...shape, unit: unit.slice(0, 12) });
        }}
      />
    </div>
  );
}

function Line({
  label,
  value,
  isNumber = false,
  onChange,
}: {
  readonly label: string;
  readonly value: unknown;
  readonly isNumber?: boolean;
  readonly onChange: (text: string) => void;
}) {
  return (
    <Field label={label}>
      {(ids) => (
        <input
          {...ids}
          type={isNumber ? 'number' : 'text'}
          step="any"
          defaultValue={typeof value === 'object' || value === undefined ? '' : String(value)}
          onChange={({ target }) => onChange(target.value)}
        />
      )}
    </Field>
  );
}

/** `1 = Camera` a line: what the device writes, and what people read. */
function choicesIn(text: string): { value: string; title: string }[] {
  const lines = text.split('\n').flatMap((line) => {
    const [value = '', ...rest] = line.split('=');
    const wire = value.trim();
    return wire === '' ? [] : [{ value: wire, title: rest.join('=').trim().slice(0, 80) || wire }];
  });
  return lines.length > 0 ? lines.slice(0, 500) : [{ value: '1', title: '1' }];
}
