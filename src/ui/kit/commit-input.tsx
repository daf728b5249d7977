'use client';

import { useEffect, useRef, type InputHTMLAttributes } from 'react';
import { Theirs } from './theirs';
import { useTyped } from './use-typed';

type Props = Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange' | 'onBlur'> & {
  readonly value: string;
  /** Told once when the typing is over: with Enter, when the field is left, or after a step of the arrows. */
  readonly onCommit: (text: string) => void;
};

/** A field that is stored when the typing is over. Escape gives the old text back. */
export function CommitInput({ value, onCommit, ...rest }: Props) {
  const { typed, dirty, theirs, set, done } = useTyped(value);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const commit = (text: string) => {
    clearTimeout(timer.current);
    if (text !== value) onCommit(text);
    done();
  };
  /** Stores the typed text, unless another window has changed the value since: then the user decides with Enter or Escape. */
  const leave = () => dirty && theirs === undefined && commit(typed);
  const latest = useRef(leave);
  useEffect(() => {
    latest.current = leave;
  });
  // A field that disappears with its pane is left like any other, but no browser says so.
  useEffect(
    () => () => {
      clearTimeout(timer.current);
      latest.current();
    },
    [],
  );
  const field = (
    <input
      {...rest}
      value={typed}
      onChange={(event) => {
        const text = event.target.value;
        set(text);
        clearTimeout(timer.current);
        // The arrows of a number field give no other sign that they are done.
        if (rest.type === 'number' && text !== '' && event.target.validity.valid)
          timer.current = setTimeout(() => latest.current(), 600);
      }}
      onBlur={leave}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && dirty) {
          event.preventDefault();
          commit(typed);
        } else if (event.key === 'Escape' && dirty) {
          event.stopPropagation();
          clearTimeout(timer.current);
          done();
        }
      }}
    />
  );
  return (
    <>
      {field}
      <Theirs text={theirs} />
    </>
  );
}
