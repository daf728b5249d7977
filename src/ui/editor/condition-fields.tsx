'use client';

import { X } from 'lucide-react';
import type { Scalar } from '../../core/result';
import {
  asKind,
  conditionKinds,
  firstTest,
  kindOf,
  opsFor,
  opWords,
  shapeOf,
  startValue,
  withOp,
  type ConditionKind,
} from '../../core/page';
import {
  drivenBy,
  type Argument,
  type Condition,
  type ControlRecord,
  type ReadingRef,
  type ReadingTest,
} from '../../core/show';

import { Button, CommitInput, Select } from '../kit';
import { ExpressionField, ParamField, ReadingPicker, useReadingChoices, useRigFacts } from '../fields';

interface Props {
  /** With the control's values put in. */
  readonly condition: Condition;
  readonly data: ControlRecord['data'];
  /** The word before it: `when`, `and`. */
  readonly word: string;
  readonly onChange: (to: Condition) => void;
  /** How deep it lies in others; there is no use in going on for ever. */
  readonly depth?: number;
  readonly onRemove?: () => void;
}

const kindTitles: Readonly<Record<ConditionKind, string>> = {
  reading: 'one reading',
  all: 'all of these',
  any: 'any of these',
  not: 'not',
  lasting: 'for at least a time',
  typed: 'typed (CEL)',
};

/** A condition on readings, picked from lists, or typed. */
export function ConditionFields({ condition, data, word, onChange, depth = 0, onRemove }: Props) {
  const choices = useReadingChoices();
  const device = drivenBy(data)[0] ?? choices.devices[0]?.id ?? '';
  const start: ReadingTest = firstTest(choices, device, data) ?? {
    op: 'equals',
    reading: { device: device || 'none', key: 'none' },
    to: true,
  };
  return (
    <div
      className="flex flex-col gap-2 not-data-[depth=0]:border-l-3 not-data-[depth=0]:border-rule-strong not-data-[depth=0]:pl-2.5"
      data-depth={depth}
    >
      <div className="flex items-end gap-1.5 [&>label]:min-w-0 [&>label]:flex-1">
        <Select
          className="flex-1"
          label={word}
          value={kindOf(condition)}
          options={conditionKinds
            .filter((kind) => depth < 3 || kind === 'reading' || kind === kindOf(condition))
            .map((kind) => ({ value: kind, title: kindTitles[kind] }))}
          onChoose={(kind) => onChange(asKind(condition, kind, start))}
        />
        {onRemove && (
          <Button onClick={onRemove} aria-label={`Remove this condition`}>
            <X size={16} aria-hidden />
          </Button>
        )}
      </div>
      <Inside condition={condition} data={data} start={start} depth={depth} onChange={onChange} />
    </div>
  );
}

type InsideProps = Omit<Props, 'word' | 'onRemove' | 'depth'> & { readonly depth: number; readonly start: ReadingTest };

function Inside({ condition, data, start, depth, onChange }: InsideProps) {
  if ('op' in condition) return <TestFields test={condition} onChange={onChange} />;
  if ('cel' in condition)
    return (
      <ExpressionField
        label="expression"
        expression={condition}
        values={data.values}
        example={'SW1.program == 3 && !(E1.stream == "live")'}
        onChange={onChange}
      />
    );
  if ('not' in condition)
    return (
      <ConditionFields
        condition={condition.not}
        data={data}
        word="not"
        depth={depth + 1}
        onChange={(not) => onChange({ not })}
      />
    );
  if ('lasting' in condition)
    return (
      <>
        <ConditionFields
          condition={condition.lasting}
          data={data}
          word="this has been true"
          depth={depth + 1}
          onChange={(lasting) => onChange({ ...condition, lasting })}
        />
        <SecondsField
          title="for at least (s)"
          ms={condition.forMs}
          onMs={(forMs) => onChange({ ...condition, forMs })}
        />
      </>
    );
  const all = 'all' in condition;
  const parts = all ? condition.all : condition.any;
  const put = (to: Condition[]) => onChange(all ? { all: to } : { any: to });
  return (
    <>
      {parts.map((part, n) => (
        <ConditionFields
          key={n}
          condition={part}
          data={data}
          word={n === 0 ? 'it' : all ? 'and' : 'or'}
          depth={depth + 1}
          onChange={(to) => put(parts.map((each, at) => (at === n ? to : each)))}
          onRemove={parts.length > 1 ? () => put(parts.filter((_, at) => at !== n)) : undefined}
        />
      ))}
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button disabled={parts.length >= 20} onClick={() => put([...parts, start])}>
          {all ? 'And also …' : 'Or …'}
        </Button>
      </div>
    </>
  );
}

function TestFields({ test, onChange }: { readonly test: ReadingTest; readonly onChange: (to: Condition) => void }) {
  const choices = useReadingChoices();
  const { documentOf } = choices;
  const { device, key } = test.reading;
  const shape = shapeOf(documentOf(device), key);
  const first = startValue(documentOf(device), key, 'to' in test && !Array.isArray(test.to) ? literal(test.to) : true);
  const take = (reading: ReadingRef) => {
    const document = documentOf(reading.device);
    const ops = opsFor(shapeOf(document, reading.key));
    const value = startValue(document, reading.key, first);
    onChange(withOp({ op: 'equals', reading, to: value }, ops.includes(test.op) ? test.op : 'equals', value));
  };
  return (
    <>
      <ReadingPicker label="Reading" chosen={test.reading} onPick={take} />
      <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
        <Select
          label="Test"
          value={test.op}
          options={[...new Set([...opsFor(shape), test.op])].map((op) => ({ value: op, title: opWords[op] }))}
          onChoose={(op) => onChange(withOp(test, op, first))}
        />
        <Against test={test} first={first} onChange={onChange} />
      </div>
    </>
  );
}

/** What a reading is tested against. */
function Against({
  test,
  first,
  onChange,
}: {
  readonly test: ReadingTest;
  readonly first: Scalar;
  readonly onChange: (to: Condition) => void;
}) {
  const field = (title: string, argument: Argument, onValue: (value: Scalar) => void) => (
    <ValueField test={test} title={title} value={literal(argument)} onValue={onValue} />
  );
  switch (test.op) {
    case 'changed':
      return (
        <SecondsField title="the last (s)" ms={test.withinMs} onMs={(withinMs) => onChange({ ...test, withinMs })} />
      );
    case 'within':
      return (
        <>
          {field('from', test.from, (from) => onChange({ ...test, from }))}
          {field('to', test.to, (to) => onChange({ ...test, to }))}
        </>
      );
    case 'oneOf':
      return (
        <div className="flex flex-col gap-1.5">
          {test.to.map((each, n) => (
            <div key={n} className="flex items-end gap-1.5 [&>label]:min-w-0 [&>label]:flex-1">
              {field(n === 0 ? 'this' : 'or this', each, (value) =>
                onChange({ ...test, to: test.to.map((old, at) => (at === n ? value : old)) }),
              )}
              {test.to.length > 1 && (
                <Button
                  aria-label="Remove this value"
                  onClick={() => onChange({ ...test, to: test.to.filter((_, at) => at !== n) })}
                >
                  <X size={16} aria-hidden />
                </Button>
              )}
            </div>
          ))}
          <Button disabled={test.to.length >= 50} onClick={() => onChange({ ...test, to: [...test.to, first] })}>
            Or another
          </Button>
        </div>
      );
    default:
      return field('this', test.to, (to) => onChange({ ...test, to }));
  }
}

function ValueField({
  test,
  title,
  value,
  onValue,
}: {
  readonly test: ReadingTest;
  readonly title: string;
  readonly value: Scalar;
  readonly onValue: (value: Scalar) => void;
}) {
  const { documentOf, readings } = useRigFacts();
  const { device, key } = test.reading;
  const shape = shapeOf(documentOf(device), key);
  return (
    <ParamField
      key={`${device} ${key}`}
      param={{ title, value: shape ?? { type: 'text' }, sends: 'index', optional: false }}
      value={value}
      readings={readings.get(device)}
      commits
      onChange={(to) => to !== undefined && onValue(to)}
    />
  );
}

function SecondsField({
  title,
  ms,
  onMs,
}: {
  readonly title: string;
  readonly ms: number;
  readonly onMs: (ms: number) => void;
}) {
  return (
    <label>
      {title}
      <CommitInput
        type="number"
        min={0.1}
        max={3600}
        step={0.1}
        value={String(ms / 1000)}
        onCommit={(text) => {
          const next = Math.round(Number(text) * 1000);
          if (next >= 100 && next <= 3_600_000) onMs(next);
        }}
      />
    </label>
  );
}

/** Shown conditions have literals only; what is tied to a value that is gone is shown as its name. */
const literal = (argument: Argument): Scalar => (typeof argument === 'object' ? argument.value : argument);
