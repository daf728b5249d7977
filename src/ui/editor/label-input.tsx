'use client';

import type { CompletionContext, CompletionResult } from '@codemirror/autocomplete';
import { linter } from '@codemirror/lint';
import type { Extension } from '@codemirror/state';
import { useMemo } from 'react';
import { checkLabel, completeLabel, formatLabel, parseLabel, renderLabel } from '../../core/face';
import type { ControlRecord } from '../../core/show';
import { useLabelDevices } from '../fields';
import { CodeField, Theirs, useTyped } from '../kit';
import { useFacts } from './facts';
import { labelChips, type Chip } from './label-chips';

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

/** A label: its text, with readings as chips that show what they say now. An open brace offers all readings. */
export function LabelInput({ id, title, label, values, placeholder, onLabel }: Props) {
  const { documentOf, readingNow, tagOf, idOf } = useFacts();
  const { typed, dirty, theirs, set, done } = useTyped(formatLabel(label, tagOf));
  const known = useLabelDevices();
  const problems = checkLabel(typed, known, values);
  const isOpen = problems.some((each) => each.isOpen);
  const complete = ({ state, pos, explicit }: CompletionContext): CompletionResult | null => {
    const text = state.doc.toString();
    const offered = completeLabel(text, pos, known, values);
    const from = text.lastIndexOf('{', pos - 1) + 1;
    if (offered.length === 0 && !explicit) return null;
    return {
      from,
      filter: false,
      options: offered.map(({ word, title, now, text: whole, caret }) => ({
        label: word,
        detail: [title, now].filter(Boolean).join(' · '),
        apply: (view) =>
          view.dispatch({
            changes: { from: 0, to: view.state.doc.length, insert: whole },
            selection: { anchor: caret },
            userEvent: 'input.complete',
          }),
      })),
    };
  };
  const drawn = useMemo((): readonly Extension[] => {
    const chipOf = (reference: string): Chip | undefined => {
      const read = parseLabel(reference, idOf);
      const [segment] = read.ok ? read.value : [];
      if (!segment || 'text' in segment) return undefined;
      const [shown] = renderLabel([segment], values, readingNow, documentOf);
      const inside = reference.slice(1, -1);
      if (shown?.doubt === 'unknown' || shown === undefined)
        return { text: inside, title: `${inside}, not known now`, isDoubtful: true };
      return { text: shown.text || inside, title: inside, isDoubtful: shown.doubt !== undefined };
    };
    const marks = linter(({ state }) => {
      const text = state.doc.toString();
      return checkLabel(text, known, values).map(({ offset, message }) => {
        const end = text.indexOf('}', offset);
        return { from: offset, to: end === -1 ? text.length : end + 1, severity: 'error', message };
      });
    });
    return [labelChips(chipOf), marks];
  }, [known, values, readingNow, documentOf, idOf]);

  const commit = () => {
    if (!dirty) return;
    const parsed = parseLabel(typed, idOf);
    if (!parsed.ok) return;
    onLabel(parsed.value);
    done();
  };
  return (
    <div className="label-field relative flex flex-col gap-0.75">
      <span aria-hidden>{title}</span>
      <CodeField
        id={id}
        label={title}
        value={typed}
        isLine
        maxLength={200}
        {...(placeholder === undefined ? {} : { placeholder })}
        invalid={problems.length > 0 && !isOpen}
        describedBy={`${id}-help`}
        complete={complete}
        drawn={drawn}
        onChange={set}
        onCommit={commit}
        onRevert={() => {
          if (dirty) done();
          return dirty;
        }}
        onBlur={() => theirs === undefined && commit()}
      />
      <p id={`${id}-help`} className="col-span-full text-[13px] text-ink-soft">
        Type {'{'} for a reading of a device.
      </p>
      <Theirs text={theirs} />
      {!isOpen &&
        problems.map(({ offset, message }) => (
          <p key={`${offset} ${message}`} role="alert" className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
            Character {offset + 1}: {message}
          </p>
        ))}
    </div>
  );
}
