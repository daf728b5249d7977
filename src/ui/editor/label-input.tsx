'use client';

import { useId, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { checkLabel, completeLabel, formatLabel, parseLabel, type Completion, type LabelDevice } from '../../core/face';
import type { ControlRecord } from '../../core/show';
import { Theirs, useTyped } from '../kit';
import { useFacts } from './facts';

type Data = ControlRecord['data'];

interface Props {
  readonly id: string;
  readonly title: string;
  readonly label: Data['label'];
  /** The control's own values, which readings may count by. */
  readonly values: Data['values'];
  readonly placeholder?: string;
  /** Told once, when the typing is over. */
  readonly onLabel: (label: Data['label']) => void;
}

/** A label, with readings completed while they are typed, and what cannot be right marked with what is near. */
export function LabelInput({ id, title, label, values, placeholder, onLabel }: Props) {
  const { readable, documentOf, readings, tagOf, idOf } = useFacts();
  const { typed, dirty, theirs, set, done } = useTyped(formatLabel(label, tagOf));
  const [caret, setCaret] = useState<number>();
  const [at, setAt] = useState(0);
  const field = useRef<HTMLInputElement>(null);
  const listId = useId();
  const known = useMemo(
    (): LabelDevice[] =>
      readable.map(({ id, data }) => ({
        id,
        tag: data.tag,
        name: data.name,
        document: documentOf(id),
        readings: readings.get(id) ?? {},
      })),
    [readable, documentOf, readings],
  );
  const offered = caret === undefined ? [] : completeLabel(typed, caret, known, values);
  const chosen = offered[Math.min(at, offered.length - 1)];
  // An open brace is not wrong yet while somebody types in it.
  const problems = offered.length > 0 ? [] : checkLabel(typed, known, values);

  const commit = () => {
    if (!dirty) return;
    const parsed = parseLabel(typed, idOf);
    if (!parsed.ok) return;
    onLabel(parsed.value);
    done();
  };
  const take = (completion: Completion) => {
    set(completion.text);
    setAt(0);
    // A device that was taken goes on with its readings. Known at once: the next key may come before anything is drawn.
    setCaret(completion.caret);
    requestAnimationFrame(() => field.current?.setSelectionRange(completion.caret, completion.caret));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (chosen && (event.key === 'Enter' || event.key === 'Tab')) take(chosen);
    else if (chosen && event.key === 'ArrowDown') setAt((at + 1) % offered.length);
    else if (chosen && event.key === 'ArrowUp') setAt((at + offered.length - 1) % offered.length);
    else if (chosen && event.key === 'Escape') setCaret(undefined);
    else if (event.key === 'Enter') commit();
    else if (event.key === 'Escape' && dirty) done();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="label-field">
      <label htmlFor={id}>{title}</label>
      <input
        ref={field}
        id={id}
        value={typed}
        maxLength={200}
        placeholder={placeholder}
        spellCheck={false}
        autoComplete="off"
        role="combobox"
        aria-expanded={offered.length > 0}
        aria-controls={listId}
        aria-activedescendant={chosen ? `${listId}-${offered.indexOf(chosen)}` : undefined}
        aria-invalid={problems.length > 0}
        aria-describedby={`${id}-help`}
        onChange={(event) => {
          set(event.target.value);
          setCaret(event.target.selectionStart ?? undefined);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
        onFocus={(event) => event.target.select()}
        onBlur={() => {
          setCaret(undefined);
          if (theirs === undefined) commit();
        }}
      />
      {offered.length > 0 && (
        <ul id={listId} role="listbox" aria-label="Readings" className="completions">
          {offered.slice(0, 12).map((completion, n) => (
            <li
              key={`${completion.word} ${n}`}
              id={`${listId}-${n}`}
              role="option"
              aria-selected={completion === chosen}
              onPointerDown={(event) => {
                event.preventDefault();
                take(completion);
              }}
            >
              <span className="mono">{completion.word}</span>
              <span className="muted">{completion.title}</span>
              <b>{completion.now}</b>
            </li>
          ))}
        </ul>
      )}
      <p id={`${id}-help`} className="muted form-help">
        Type {'{'} for a reading of a device.
      </p>
      <Theirs text={theirs} />
      {problems.map(({ offset, message }) => (
        <p key={`${offset} ${message}`} role="alert" className="form-error">
          Character {offset + 1}: {message}
        </p>
      ))}
    </div>
  );
}
