import { X } from 'lucide-react';
import { useState } from 'react';
import type { DriverDocument } from '../../../core/driver';
import { nameProblem, type OwnValue } from '../../../core/show';
import { ParamField } from '../../fields';
import { Button, Field, IconButton } from '../../kit';
import { ShapeFields } from './shape-fields';
import { StepFields, stepTypes, type OwnOrigin } from './step-fields';

interface Props {
  readonly values: readonly OwnValue[];
  readonly onOff: { readonly on: string; readonly off: string };
  /** From what a value can be stepped or computed: readings of the device by key. */
  readonly readings: DriverDocument['readings'];
  readonly onChange: (values: readonly OwnValue[]) => void;
}

/** The values of a command: what is filled in when it is put on a control, or asked for on the panel. */
export function ValueList({ values, onOff, readings, onChange }: Props) {
  // Rows are known by when they were added: names and titles are what is typed in them.
  const [rows, setRows] = useState(() => values.map((_, n) => n));
  const put = (n: number, change: Partial<OwnValue>) =>
    onChange(values.map((value, at) => (at === n ? { ...value, ...change } : value)));
  const add = () => {
    const name = freeName(values);
    const title = name.charAt(0).toUpperCase() + name.slice(1);
    setRows([...rows, Math.max(-1, ...rows) + 1]);
    onChange([...values, { name, title, value: { type: 'whole', min: 0, max: 100 }, default: undefined }]);
  };
  return (
    <section className="grid gap-2.5" aria-label="Values">
      {values.map((value, n) => (
        <fieldset
          key={rows[n]}
          className="grid gap-2.5 border-l-3 border-rule-strong py-1 pl-3"
          aria-label={value.title}
        >
          <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-end gap-2.5">
            <Field label="Name in the message" error={nameProblem(value.name)}>
              {(ids) => (
                <input
                  {...ids}
                  className="font-mono text-[0.93em]"
                  value={value.name}
                  maxLength={40}
                  spellCheck={false}
                  onChange={({ target }) => put(n, { name: target.value.trim() })}
                />
              )}
            </Field>
            <Field label="Label">
              {(ids) => (
                <input
                  {...ids}
                  value={value.title}
                  maxLength={80}
                  onChange={({ target }) => put(n, { title: target.value })}
                />
              )}
            </Field>
            <IconButton
              label={`Remove value ${value.title}`}
              onClick={() => {
                setRows(rows.filter((_, at) => at !== n));
                onChange(values.filter((_, at) => at !== n));
              }}
            >
              <X aria-hidden size={18} />
            </IconButton>
          </div>
          <ShapeFields
            shape={value.value}
            use="sent"
            onOff={onOff}
            onChange={(shape) => onChange(values.map((each, at) => (at === n ? withShape(each, shape) : each)))}
          />
          <StepFields
            origin={value}
            type={value.value.type}
            readings={readings}
            before={values.slice(0, n).map(({ name }) => name)}
            onChange={(origin) => onChange(values.map((each, at) => (at === n ? withOrigin(each, origin) : each)))}
          />
          {!value.step && value.computed === undefined && (
            <ParamField
              param={{ title: 'Default', value: value.value, sends: 'index', optional: true }}
              value={value.default}
              onChange={(fallback) => put(n, { default: fallback })}
            />
          )}
        </fieldset>
      ))}
      <div className="flex flex-wrap items-center gap-3 text-[14px] text-ink-soft">
        <Button onClick={add}>Add value</Button>
        {values.length === 0
          ? 'A level, a number, a text: whatever differs from press to press.'
          : `Write ${values.map(({ name }) => `{${name}}`).join(', ')} in the message where it belongs.`}
      </div>
    </section>
  );
}

/** A value that steps or is computed has no default. */
function withOrigin({ step: _step, computed: _computed, ...value }: OwnValue, { step, computed }: OwnOrigin): OwnValue {
  if (step) return { ...value, default: undefined, step };
  return computed === undefined ? value : { ...value, default: undefined, computed };
}

/** Another type begins anew; only what can go up and down goes on stepping. */
const withShape = (value: OwnValue, shape: OwnValue['value']): OwnValue =>
  withOrigin(
    { ...value, value: shape, default: undefined },
    stepTypes.includes(shape.type) ? value : { computed: value.computed },
  );

const usualNames = ['level', 'number', 'text', 'state'];

function freeName(values: readonly OwnValue[]): string {
  const taken = values.map(({ name }) => name);
  return usualNames.find((name) => !taken.includes(name)) ?? `value${values.length + 1}`;
}
