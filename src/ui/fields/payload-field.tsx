'use client';

import { useId } from 'react';
import { fromEscaped, fromHex, toEscaped, toHex } from '../../core/wire';

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
  const read = as === 'hex' ? fromHex(value) : fromEscaped(value);
  const added = fromEscaped(ending);
  const bytes = read.ok && added.ok ? Uint8Array.from([...read.value, ...added.value]) : undefined;
  return (
    <div className="payload">
      <label htmlFor={id}>{title}</label>
      <input
        id={id}
        className="mono"
        value={value}
        maxLength={4000}
        spellCheck={false}
        autoComplete="off"
        aria-invalid={!read.ok}
        aria-describedby={`${id}-shown`}
        placeholder={as === 'hex' ? '81 01 06 04 FF' : 'HELLO\\x20YOU'}
        onChange={(event) => onChange(event.target.value)}
      />
      <div id={`${id}-shown`} className="payload-shown" aria-live="polite">
        {read.ok ? (
          <>
            <span className="muted">text</span>
            <code>{bytes && bytes.length > 0 ? toEscaped(bytes) : '–'}</code>
            <span className="muted">hex</span>
            <code>{bytes && bytes.length > 0 ? toHex(bytes).replace(/..(?=.)/g, '$& ') : '–'}</code>
            <span className="muted">length</span>
            <span>{bytes?.length === 1 ? '1 byte' : `${bytes?.length ?? 0} bytes`}</span>
          </>
        ) : (
          <p className="payload-mistake">
            <code>
              {value.slice(0, read.error.offset)}
              <mark>{value.charAt(read.error.offset) || '␣'}</mark>
              {value.slice(read.error.offset + 1)}
            </code>
            Character {read.error.offset + 1}: {read.error.message}
          </p>
        )}
      </div>
    </div>
  );
}
