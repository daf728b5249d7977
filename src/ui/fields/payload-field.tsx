'use client';

import { useId, useMemo } from 'react';
import { fromEscaped, fromHex, toEscaped, toHex } from '../../core/wire';
import { CodeField, faultMark } from '../kit';

interface Props {
  readonly title: string;
  readonly as: 'text' | 'hex';
  readonly value: string;
  /** Bytes that are added behind what is typed: the line ending that was chosen. */
  readonly ending?: string;
  readonly onChange: (value: string) => void;
}

/**
 * A payload that a person types, as text with escapes or as hexadecimal digits. What goes out is shown both ways, with its
 * length; a mistake is marked at its character.
 */
export function PayloadField({ title, as, value, ending = '', onChange }: Props) {
  const id = useId();
  const { read, drawn } = useMemo(() => {
    const read = as === 'hex' ? fromHex(value) : fromEscaped(value);
    return { read, drawn: read.ok ? [] : [faultMark(read.error.offset)] };
  }, [as, value]);
  const added = fromEscaped(ending);
  const bytes = read.ok && added.ok ? Uint8Array.from([...read.value, ...added.value]) : undefined;
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
            <code>{bytes && bytes.length > 0 ? toEscaped(bytes) : '–'}</code>
            <span className="text-ink-soft">hex</span>
            <code>{bytes && bytes.length > 0 ? toHex(bytes).replace(/..(?=.)/g, '$& ') : '–'}</code>
            <span className="text-ink-soft">length</span>
            <span>{bytes?.length === 1 ? '1 byte' : `${bytes?.length ?? 0} bytes`}</span>
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
