'use client';

import { Trash2 } from 'lucide-react';
import { withoutSample, type WrittenDocument } from '../../../core/learn';
import { EmptyState, IconButton } from '../../kit';
import { Cross, Tick } from '../../parts';
import type { BenchDocument } from './use-bench-document';

interface Props {
  readonly document: BenchDocument;
  readonly onDocument: (document: WrittenDocument) => void;
}

/** The samples of the document, run again whenever it changes. */
export function SamplesTab({ document, onDocument }: Props) {
  const { samples, written, driver } = document;
  if (!written || samples.length === 0)
    return (
      <EmptyState title="No samples yet">
        A sample says what bytes of the device mean, or which bytes a command sends. Mark frames under Frames to add
        some: they are the tests of this document.
      </EmptyState>
    );
  const failed = samples.filter(({ problems }) => problems.length > 0).length;
  return (
    <div className="grid gap-2.5">
      <p role="status">
        {driver ? (
          <>
            <strong>
              {samples.length - failed} of {samples.length} pass
            </strong>
            {failed > 0 && ', the others say what differs'}
          </>
        ) : (
          'The document has an error, so its samples cannot run.'
        )}
      </p>
      <ul className="border-t border-rule" aria-label="Samples">
        {samples.map(({ sample, problems }, n) => (
          // Samples have no names: their place is what they are known by.
          <li
            key={n}
            className="grid grid-cols-[auto_minmax(0,1fr)_auto] items-start gap-x-2.5 border-b border-rule py-1.5"
          >
            <span
              role="img"
              className="pt-1"
              aria-label={!driver ? 'not run' : problems.length > 0 ? 'fails' : 'passes'}
            >
              {driver ? problems.length > 0 ? <Cross /> : <Tick /> : '–'}
            </span>
            <div className="min-w-0">
              <p className="font-mono text-[13px] break-words">{bytesOf(sample)}</p>
              <p className="text-[13px] break-words text-ink-soft">{meaningOf(sample)}</p>
              {problems.map(({ path, message }) => (
                <p key={path} className="text-[13px] font-semibold">
                  {message}
                </p>
              ))}
            </div>
            <IconButton label={`Remove sample ${n + 1}`} onClick={() => onDocument(withoutSample(written, n))}>
              <Trash2 size={16} aria-hidden />
            </IconButton>
          </li>
        ))}
      </ul>
    </div>
  );
}

const record = (value: unknown): Record<string, unknown> =>
  typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {};

function bytesOf(sample: unknown): string {
  const { heard, sends } = record(sample);
  const bytes = heard ?? sends;
  return typeof bytes === 'string' ? bytes : String(record(bytes).hex ?? '');
}

function meaningOf(sample: unknown): string {
  const { title, command, params, gives, is, code } = record(sample);
  const list = (value: unknown) =>
    Object.entries(record(value))
      .map(([key, each]) => `${key} ${String(each)}`)
      .join(' · ');
  const what =
    command === undefined
      ? [list(gives), is, code].filter(Boolean).join(', ')
      : `sent by ${String(command)} ${list(params)}`.trim();
  return [title, what].filter(Boolean).join(': ');
}
