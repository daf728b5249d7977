'use client';

import { useId, useState } from 'react';
import { formatLabel, icons } from '../../core/face';
import { ruleNow, type LampMemory, type Truth } from '../../core/lamp';
import { changeRule, moveRule, readingName, removeRule, setWhen, shownCondition } from '../../core/page';
import { meaningWords, type ControlRecord, type LampRule, type Meaning } from '../../core/show';
import { useNow } from '../live';
import { Tick } from '../parts';
import { Button, CommitInput, Select } from '../kit';
import { ConditionFields } from './condition-fields';
import { useFacts } from './facts';
import { LabelInput } from './label-input';
import { PictureField } from './picture-field';
import { useVerbs } from './verbs';

const meanings = Object.entries(meaningWords) as [Meaning, string][];

interface Props {
  readonly control: ControlRecord;
  readonly rule: LampRule;
  readonly index: number;
  readonly what: string;
}

/** One rule: what it does, when, and whether that is so now. */
export function RuleFields({ control, rule, index, what }: Props) {
  const verbs = useVerbs();
  const { data } = control;
  const change = (to: (data: ControlRecord['data']) => ControlRecord['data']) => verbs.change(control, to, what);
  const effect = (to: Partial<Omit<LampRule, 'when'>>) => change((before) => changeRule(before, index, to));
  const alone = data.lamps.length === 1;
  return (
    <div
      className="flex flex-col gap-2 border-l-3 border-rule pl-2.5 [&_details>*+*]:mt-2"
      role="group"
      aria-label={`Rule ${index + 1}`}
    >
      <Effects rule={rule} values={data.values} onEffect={effect} />
      <ConditionFields
        condition={shownCondition(rule.when, data)}
        data={data}
        word="when"
        onChange={(when) => change((before) => setWhen(before, index, when))}
      />
      <RuleProblems control={control} index={index} />
      <div className="col-span-full flex flex-wrap items-center justify-between gap-2.5">
        <RuleTruth rule={rule} data={data} />
        {!alone && (
          <Button
            aria-label={`Rule ${index + 1} before the one above`}
            disabled={index === 0}
            onClick={() => change((before) => moveRule(before, index, -1))}
          >
            Up
          </Button>
        )}
        <Button onClick={() => change((before) => removeRule(before, index))}>Remove rule</Button>
      </div>
    </div>
  );
}

interface EffectsProps {
  readonly rule: LampRule;
  readonly values: ControlRecord['data']['values'];
  readonly onEffect: (to: Partial<LampRule>) => void;
}

function Effects({ rule, values, onEffect }: EffectsProps) {
  const id = useId();
  return (
    <>
      <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
        <Select
          label="Lights"
          value={rule.show ?? ''}
          options={[
            ...(!rule.show || (rule.label ?? rule.icon ?? rule.picture ?? rule.bars)
              ? [{ value: '' as const, title: 'nothing' }]
              : []),
            ...meanings.map(([value, word]) => ({ value, title: word.toLowerCase() })),
          ]}
          onChoose={(show) => onEffect({ show: show === '' ? undefined : show })}
        />
        {rule.show && (
          <label>
            with the word
            <CommitInput
              value={rule.word ?? ''}
              maxLength={16}
              placeholder={meaningWords[rule.show]}
              onCommit={(word) => onEffect({ word })}
            />
          </label>
        )}
      </div>
      {rule.show && (
        <label className="col-span-full flex flex-row items-center gap-2">
          <input
            type="checkbox"
            checked={rule.blink === true}
            onChange={(event) => onEffect({ blink: event.target.checked ? true : undefined })}
          />
          blinking
        </label>
      )}
      <details open={(rule.label ?? rule.icon ?? rule.picture ?? rule.bars) !== undefined}>
        <summary>Another label, icon or picture, or barred</summary>
        <LabelInput
          id={`${id}-label`}
          title="Says instead"
          label={rule.label ?? []}
          values={values}
          placeholder="its own label"
          onLabel={(label) => onEffect({ label: formatLabel(label, () => '?').trim() === '' ? undefined : label })}
        />
        <Select
          label="Icon"
          value={rule.icon ?? ''}
          options={[
            { value: '', title: 'unchanged' },
            ...Object.entries(icons).map(([value, { title }]) => ({ value, title })),
          ]}
          onChoose={(icon) => onEffect({ icon: icon === '' ? undefined : icon })}
        />
        <PictureField picture={rule.picture} onPicture={(picture) => onEffect({ picture })} />
        <label className="col-span-full flex flex-row items-center gap-2">
          <input
            type="checkbox"
            checked={rule.bars === true}
            onChange={(event) => onEffect({ bars: event.target.checked ? true : undefined })}
          />
          barred: it cannot be pressed
        </label>
      </details>
    </>
  );
}

function RuleProblems({ control, index }: { readonly control: ControlRecord; readonly index: number }) {
  const { problemsOf } = useFacts();
  return problemsOf(control).map(
    (problem) =>
      problem.what === 'rule' &&
      problem.index === index && (
        <p key={problem.message} className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
          {problem.message}
        </p>
      ),
  );
}

/** Whether the rule holds now, and which reading decides. */
function RuleTruth({ rule, data }: { readonly rule: LampRule; readonly data: ControlRecord['data'] }) {
  const { readingNow, documentOf, tagOf } = useFacts();
  const [memory] = useState((): LampMemory => new Map());
  const now = useNow();
  const truth = ruleNow(rule, data.values, { readingNow, documentOf, now }, memory);
  return (
    <span
      className="flex flex-1 flex-wrap items-baseline gap-x-2 [&[data-is=true]_b]:underline [&[data-is=true]_b]:decoration-accent [&[data-is=true]_b]:decoration-[3px] [&[data-is=true]_b]:underline-offset-[4px]"
      data-is={String(truth.is)}
    >
      <b>
        {truth.is === true && <Tick />}
        {truthWord(truth)}
      </b>
      {truth.by && <span className="text-ink-soft">by {readingName(truth.by, { documentOf, tagOf })}</span>}
    </span>
  );
}

function truthWord({ is }: Truth): string {
  if (is === true) return 'true now';
  return is === false ? 'not true now' : `${is}: cannot be told`;
}
