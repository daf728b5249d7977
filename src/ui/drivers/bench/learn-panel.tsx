'use client';

import { useState } from 'react';
import { sampleFrom } from '../../../core/driver';
import {
  isAlike,
  learnCommand,
  learnReading,
  samplesOf,
  withCommand,
  withReading,
  withSample,
  type CommandProposal,
  type ReadingProposal,
  type WrittenDocument,
} from '../../../core/learn';
import { Button, Field, tellDone } from '../../kit';
import type { BenchDocument } from './use-bench-document';
import type { Frames } from './use-frames';

interface Props {
  readonly document: BenchDocument;
  readonly frames: Frames;
  readonly onDocument: (document: WrittenDocument) => void;
}

/** What can be made of the marked frames: readings, a command, samples. */
export function LearnPanel({ document, frames, onDocument }: Props) {
  const marked = frames.frames.filter(({ n }) => frames.marked.has(n));
  const { driver, written } = document;
  if (!driver || !written) return null;
  const heard = marked.filter(({ dir }) => dir === 'in').map(({ bytes }) => bytes);
  const sent = marked.filter(({ dir }) => dir === 'out').map(({ bytes }) => bytes);
  if (marked.length === 0)
    return (
      <p className="text-ink-soft">
        Mark frames that differ only in their values: received ones for a reading, sent ones for a command.
      </p>
    );
  const done = (next: WrittenDocument, text: string) => {
    onDocument(next);
    frames.clear();
    tellDone(text, 'bench');
  };
  const alike = frames.frames.filter(
    ({ dir, bytes, n }) =>
      !frames.marked.has(n) && marked.some((each) => each.dir === dir && isAlike(driver.document, each.bytes, bytes)),
  );
  return (
    <div className="grid gap-3">
      {alike.length > 0 && (
        <Button className="justify-self-start" onClick={() => alike.forEach(({ n }) => frames.mark(n, true))}>
          Mark {alike.length} more of the same kind
        </Button>
      )}
      {heard.length > 0 && (
        <Readings
          key={heard.length}
          propose={(title) => learnReading(driver.document, heard, title)}
          count={heard.length}
          onAdd={(proposal) => {
            const bare = withReading(written, proposal, []);
            done(
              withReading(written, proposal, samplesOf(bare, heard)),
              'The reading and its samples are in the document.',
            );
          }}
          onSamples={() => {
            const samples = marked.flatMap(({ dir, hex }) =>
              dir === 'in' ? (sampleFrom(driver, hex, undefined) ?? []) : [],
            );
            done(samples.reduce(withSample, written), 'The samples are in the document.');
          }}
        />
      )}
      {sent.length > 0 && (
        <Command
          propose={(title) => learnCommand(driver.document, title, sent)}
          count={sent.length}
          onAdd={(proposal) => done(withCommand(written, proposal), 'The command and its samples are in the document.')}
        />
      )}
    </div>
  );
}

interface TitleProps {
  readonly label: string;
  readonly placeholder: string;
  readonly value: string;
  readonly onChange: (title: string) => void;
}

/** What a person calls what is learned. */
const TitleField = ({ label, placeholder, value, onChange }: TitleProps) => (
  <Field label={label} labelAt="before">
    {(ids) => (
      <input
        {...ids}
        value={value}
        maxLength={60}
        placeholder={placeholder}
        onChange={(event) => onChange(event.target.value)}
      />
    )}
  </Field>
);

interface ReadingsProps {
  readonly propose: (title: string) => ReturnType<typeof learnReading>;
  readonly count: number;
  readonly onAdd: (proposal: ReadingProposal) => void;
  readonly onSamples: () => void;
}

function Readings({ propose, count, onAdd, onSamples }: ReadingsProps) {
  const [title, setTitle] = useState('');
  const proposals = propose(title);
  return (
    <section aria-label="Learn a reading" className="grid gap-1.5 border-t border-rule pt-2">
      <h3 className="font-semibold">Reading from {count === 1 ? 'this frame' : `these ${count} frames`}</h3>
      <TitleField label="What it reports" placeholder="Level" value={title} onChange={setTitle} />
      {proposals.ok ? (
        <ul className="grid gap-1">
          {proposals.value.map((proposal) => (
            <li key={proposal.title} className="flex items-baseline gap-3">
              <span className="min-w-0 flex-1">
                {proposal.title}{' '}
                <span className="font-mono text-[13px] text-ink-soft">{shortList(proposal.values)}</span>
              </span>
              <Button onClick={() => onAdd(proposal)}>Add this reading</Button>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-ink-soft">{proposals.error}</p>
      )}
      <Button className="justify-self-start" onClick={onSamples}>
        {count === 1 ? 'Add this frame as a sample' : 'Add these frames as samples'}
      </Button>
    </section>
  );
}

const mostValues = 5;
const shortList = (values: readonly string[]): string =>
  `${values.slice(0, mostValues).join(' · ')}${values.length > mostValues ? ' …' : ''}`;

interface CommandProps {
  readonly propose: (title: string) => ReturnType<typeof learnCommand>;
  readonly count: number;
  readonly onAdd: (proposal: CommandProposal) => void;
}

function Command({ propose, count, onAdd }: CommandProps) {
  const [title, setTitle] = useState('');
  const proposal = propose(title.trim() || 'Command');
  return (
    <section aria-label="Learn a command" className="grid gap-1.5 border-t border-rule pt-2">
      <h3 className="font-semibold">Command from {count === 1 ? 'this frame' : `these ${count} frames`}</h3>
      {proposal.ok ? (
        <div className="flex flex-wrap items-end gap-2.5">
          <TitleField label="What it does" placeholder="Set level" value={title} onChange={setTitle} />
          <Button kind="strong" disabled={title.trim() === ''} onClick={() => onAdd(proposal.value)}>
            Add this command
          </Button>
          <code className="text-[13px] text-ink-soft">{JSON.stringify(proposal.value.command.send)}</code>
        </div>
      ) : (
        <p className="text-ink-soft">{proposal.error}</p>
      )}
    </section>
  );
}
