'use client';

import { useState, type KeyboardEvent } from 'react';
import { joinSeveral, splitSeveral } from '../../core/driver';
import type { Question, QuestionsView } from '../../core/live';
import type { Scalar } from '../../core/result';
import { useNow } from '../live';

type Answers = Readonly<Record<string, Scalar>>;

interface Props {
  /** The label of the control that asks. */
  readonly title: string;
  readonly asks: QuestionsView;
  /** Without answers the press ends. */
  readonly onAnswer: (given: Answers | undefined) => void;
}

/** Above this number of choices there is a field that searches them. */
const mostButtons = 12;

/** What was answered before and is still there to choose: anything else would be refused without being seen. */
const offeredOf = (before: Scalar | undefined, options: Question['options'] = []): string =>
  joinSeveral(splitSeveral(String(before ?? '')).filter((each) => options.some(({ value }) => value === each)));

/** What a press asks before it is carried out. It lies at the edge: the other controls stay within reach. */
export function QuestionForm({ title, asks, onAnswer }: Props) {
  const [given, setGiven] = useState<Answers>(() =>
    Object.fromEntries(
      asks.items.flatMap(({ value, now, last, takes, options }) => {
        const before = last[0] ?? now;
        const start = takes === 'several' ? offeredOf(before, options) : before;
        return start === undefined ? [] : [[value, start]];
      }),
    ),
  );
  const leave = (event: KeyboardEvent) => {
    if (event.key === 'Escape') onAnswer(undefined);
  };
  return (
    <div
      className="question fixed inset-x-0 bottom-0 z-18 max-h-[80dvh] overflow-y-auto border-t-4 border-accent bg-raised px-5 pt-3.5 pb-[calc(14px_+_env(safe-area-inset-bottom))] over-runs:bottom-[53px] [&_form]:grid [&_form]:gap-3"
      role="dialog"
      aria-label={`Question of ${title}`}
      onKeyDown={leave}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onAnswer(given);
        }}
      >
        <div className="flex flex-wrap justify-between gap-x-5 gap-y-1 text-[18px]">
          <b>{title}</b>
          <TimeLeft until={asks.until} />
        </div>
        <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,260px),1fr))] gap-x-6 gap-y-3">
          {asks.items.map((item, n) => (
            <Item
              key={item.value}
              item={item}
              isFirst={n === 0}
              given={given[item.value]}
              wrong={asks.wrong?.path === item.value ? asks.wrong.message : undefined}
              onGive={(answer) => setGiven((before) => ({ ...before, [item.value]: answer }))}
            />
          ))}
        </div>
        <div className="flex flex-wrap gap-2 [&_button]:flex [&_button]:min-h-13 [&_button]:min-w-11 [&_button]:items-center [&_button]:gap-2 [&_button]:border [&_button]:border-rule-strong [&_button]:px-6.5 [&_button]:font-semibold">
          <button type="submit" className="bg-ink text-ground">
            Send it
          </button>
          <button type="button" onClick={() => onAnswer(undefined)}>
            Cancel
          </button>
        </div>
      </form>
    </div>
  );
}

function TimeLeft({ until }: { readonly until: number }) {
  const now = useNow();
  const seconds = Math.max(0, Math.floor((until - now) / 1000));
  return <span className="text-ink-soft">{now === 0 ? '\u00a0' : `waits ${seconds} s for an answer`}</span>;
}

interface ItemProps {
  readonly item: QuestionsView['items'][number];
  readonly isFirst: boolean;
  readonly given: Scalar | undefined;
  readonly wrong: string | undefined;
  readonly onGive: (answer: Scalar) => void;
}

function Item({ item, isFirst, given, wrong, onGive }: ItemProps) {
  const { title, shape, options, last } = item;
  const examples = item.takes ? (options ?? []).slice(0, mostButtons).map(({ value }) => value) : last;
  const unit = 'unit' in shape && shape.unit ? ` (${shape.unit})` : '';
  return (
    <fieldset
      className={`${item.takes === 'several' ? 'col-span-full' : ''} grid min-w-0 content-start gap-1.5 [&_legend]:pb-1 [&_legend]:font-semibold [&>input]:min-h-12 [&>input]:w-full [&>input]:bg-ground [&>input]:text-[18px]`}
    >
      <legend>
        {title}
        {unit}
        {item.isOptional && <span className="font-normal text-ink-soft"> optional</span>}
      </legend>
      {options && item.takes === 'several' ? (
        <Several title={title} options={options} given={given} isFirst={isFirst} onGive={onGive} />
      ) : options && !item.takes ? (
        <Choices title={title} options={options} given={given} isFirst={isFirst} onGive={onGive} />
      ) : (
        <Typed title={title} shape={shape} given={given} isFirst={isFirst} onGive={onGive} />
      )}
      {item.takes !== 'several' && (!options || item.takes) && examples.length > 0 && (
        <div
          className="flex flex-wrap gap-2 [&_button]:flex [&_button]:min-h-11 [&_button]:min-w-11 [&_button]:items-center [&_button]:gap-2 [&_button]:border [&_button]:border-rule-strong [&_button]:px-3.5 [&_button[aria-pressed=true]]:border-accent [&_button[aria-pressed=true]]:bg-ground [&_button[aria-pressed=true]]:font-semibold"
          role="group"
          aria-label={item.takes ? `${title}, in use` : `${title}, answered before`}
        >
          {examples.map((each) => (
            <button key={String(each)} type="button" aria-pressed={each === given} onClick={() => onGive(each)}>
              {String(each)}
            </button>
          ))}
        </div>
      )}
      {wrong && <p role="alert">{wrong}</p>}
    </fieldset>
  );
}

const choicesClass =
  'flex max-h-[40dvh] flex-wrap gap-2 overflow-y-auto [&_label]:flex [&_label]:min-h-11 [&_label]:min-w-11 [&_label]:items-center [&_label]:gap-2 [&_label]:border [&_label]:border-rule-strong [&_label]:px-3.5 [&_label:has(:checked)]:border-accent [&_label:has(:checked)]:bg-ground [&_label:has(:checked)]:font-semibold';

interface ChoicesProps {
  readonly title: string;
  readonly options: NonNullable<Question['options']>;
  readonly given: Scalar | undefined;
  readonly isFirst: boolean;
  readonly onGive: (answer: Scalar) => void;
}

function Choices({ title, options, given, isFirst, onGive }: ChoicesProps) {
  const [typed, setTyped] = useState('');
  const words = typed.toLowerCase().split(/\s+/);
  const found = options.filter((option) => words.every((word) => option.title.toLowerCase().includes(word)));
  const isSearched = options.length > mostButtons;
  return (
    <>
      {isSearched && (
        <input
          type="search"
          autoFocus={isFirst}
          aria-label={`Search: ${title}`}
          placeholder={`Search ${options.length} choices`}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            // The first that matches, and not the answer to everything that is asked.
            event.preventDefault();
            if (found[0]) onGive(found[0].value);
          }}
        />
      )}
      <div className={choicesClass} role="radiogroup" aria-label={title}>
        {found.map((option, n) => (
          <label key={String(option.value)}>
            <input
              type="radio"
              name={title}
              autoFocus={isFirst && !isSearched && (given === undefined ? n === 0 : given === option.value)}
              checked={given === option.value}
              onChange={() => onGive(option.value)}
            />
            {option.title}
          </label>
        ))}
        {found.length === 0 && <p>No choice matches “{typed}”.</p>}
      </div>
    </>
  );
}

/** Several of the choices, given as one text. */
function Several({ title, options, given, isFirst, onGive }: ChoicesProps) {
  const [typed, setTyped] = useState('');
  const words = typed.toLowerCase().split(/\s+/);
  const chosen = given === undefined ? [] : splitSeveral(String(given));
  const isSearched = options.length > mostButtons;
  const offered = options.map(({ value }) => String(value));
  const turn = (value: string, on: boolean) =>
    onGive(joinSeveral(offered.filter((each) => (each === value ? on : chosen.includes(each)))));
  return (
    <>
      {isSearched && (
        <input
          type="search"
          aria-label={`Search: ${title}`}
          placeholder={`Search ${options.length} choices`}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && event.preventDefault()}
        />
      )}
      <div className={choicesClass} role="group" aria-label={title}>
        {options
          .filter((option) => words.every((word) => option.title.toLowerCase().includes(word)))
          .map(({ value, title: name }, n) => (
            <label key={String(value)}>
              <input
                type="checkbox"
                autoFocus={isFirst && n === 0}
                checked={chosen.includes(String(value))}
                onChange={(event) => turn(String(value), event.target.checked)}
              />
              {name}
            </label>
          ))}
      </div>
    </>
  );
}

interface TypedProps {
  readonly title: string;
  readonly shape: Question['shape'];
  readonly given: Scalar | undefined;
  readonly isFirst: boolean;
  readonly onGive: (answer: Scalar) => void;
}

function Typed({ title, shape, given, isFirst, onGive }: TypedProps) {
  const [typed, setTyped] = useState('');
  const isNumber = shape.type === 'whole' || shape.type === 'decimal' || shape.type === 'time';
  const edge = (end: unknown) => (typeof end === 'number' ? end : undefined);
  if (!isNumber)
    return (
      <input
        aria-label={title}
        autoFocus={isFirst}
        autoComplete="off"
        type={shape.type === 'colour' ? 'color' : 'text'}
        maxLength={shape.type === 'text' ? shape.maxLength : undefined}
        value={given === undefined ? '' : String(given)}
        onFocus={(event) => shape.type === 'text' && event.currentTarget.select()}
        onChange={(event) => onGive(event.target.value)}
      />
    );
  return (
    <input
      aria-label={title}
      autoFocus={isFirst}
      type="number"
      inputMode="decimal"
      required
      min={edge(shape.min)}
      max={edge(shape.max)}
      step={shape.type === 'whole' ? 1 : 'any'}
      value={typed !== '' && Number(typed) === given ? typed : String(given ?? '')}
      onFocus={(event) => event.currentTarget.select()}
      onChange={(event) => {
        const text = event.target.value;
        setTyped(text);
        onGive(text === '' ? '' : Number(text));
      }}
    />
  );
}
