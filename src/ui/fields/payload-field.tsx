'use client';

import { useId, useMemo } from 'react';
import { payloadShown } from '../../core/show';
import { CodeField, faultMark } from '../kit';

interface Props {
  readonly title: string;
  readonly as: 'text' | 'hex';
  readonly value: string;
  /** Bytes that are added behind what is typed: the line ending that was chosen. */
  readonly ending?: string;
  /** Names of values: in braces they stand for what is filled in. */
  readonly known?: readonly string[];
  readonly onChange: (value: string) => void;
}

const none: readonly string[] = [];

/**
 * A payload that a person types, as text with escapes or as hexadecimal digits. What goes out is shown both ways, with its
 * length; a mistake is marked at its character.
 */
export function PayloadField({ title, as, value, ending = '', known = none, onChange }: Props) {
  const id = useId();
  const { read, drawn } = useMemo(() => {
    const read = payloadShown(as, value, ending, known);
    return { read, drawn: read.ok ? [] : [faultMark(read.error.offset)] };
  }, [as, value, ending, known]);
  return (
    <div className="flex min-w-0 flex-col gap-0.75 text-[14px]">
      <span aria-hidden className="text-ink-soft">
        {title}
      </span>
      <div className="font-mono text-[14px]">
        <CodeField
          label={title}
          value={value}
          isLine
          maxLength={4000}
          invalid={!read.ok}
          describedBy={`${id}-shown`}
          placeholder={as === 'hex' ? '81 01 06 04 FF' : 'HELLO\\x20YOU'}
          drawn={drawn}
          onChange={onChange}
        />
      </div>
      <div
        id={`${id}-shown`}
        className="grid min-h-15 grid-cols-[max-content_minmax(0,1fr)] gap-x-2.5 gap-y-px text-[13px] wrap-anywhere"
        aria-live="polite"
      >
        {read.ok ? (
          <>
            <span className="text-ink-soft">text</span>
            <code>{read.value.text || '–'}</code>
            <span className="text-ink-soft">hex</span>
            <code>{read.value.hex || '–'}</code>
            <span className="text-ink-soft">length</span>
            <span>
              {read.value.length === 1 ? '1 byte' : `${read.value.length} bytes`}
              {read.value.hasHoles && ' and the values'}
            </span>
          </>
        ) : (
          <p className="col-span-full font-semibold">
            Character {read.error.offset + 1}: {read.error.message}
          </p>
        )}
      </div>
    </div>
  );
}
