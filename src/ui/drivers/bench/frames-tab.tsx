'use client';

import { frameMeaning, sentMeaning, type CompiledDriver } from '../../../core/driver';
import { newDocument, withFraming, type FramingGuess, type WrittenDocument } from '../../../core/learn';
import { Button, Checkbox, EmptyState } from '../../kit';
import { bytesText, VeiledText, WireWay } from '../../parts';
import { BringFrames } from './bring-frames';
import { LearnPanel } from './learn-panel';
import type { BenchDocument } from './use-bench-document';
import type { BenchFrame, Frames } from './use-frames';

/** More rows than anybody marks. */
const mostRows = 400;

interface Props {
  readonly document: BenchDocument;
  readonly frames: Frames;
  readonly onDocument: (document: WrittenDocument) => void;
}

/** The bytes that were brought, cut and decoded by the document, to be marked and learned from. */
export function FramesTab({ document, frames, onDocument }: Props) {
  const { material } = frames;
  if (!material)
    return (
      <div className="grid gap-4">
        <EmptyState title="Add bytes from the device">
          Paste them, open a packet capture, or take them from the wire. The document decodes them here. Mark frames,
          and the bench proposes what the document lacks.
        </EmptyState>
        <BringFrames onBring={frames.bring} />
      </div>
    );
  const areBytes = frames.frames.some(({ bytes }) => bytes.some((byte) => byte < 9 || byte > 126));
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-center gap-x-3.5 gap-y-1.5">
        <p className="min-w-0 flex-1">
          <strong>{count(frames.frames.length, 'frame')}</strong>{' '}
          <span className="text-ink-soft">from {material.from}</span>
        </p>
        <Button onClick={() => frames.bring(undefined)}>Replace these bytes</Button>
      </div>
      <Framing document={document} frames={frames} onDocument={onDocument} />
      {document.written && !document.driver && (
        <p className="border-l-4 border-warning py-1 pl-2.5">
          The document has an error, so nothing is decoded
          {document.firstProblem ? `: ${document.firstProblem.path} ${document.firstProblem.message}` : '.'}
        </p>
      )}
      <ul aria-label="Frames" className="max-h-[34vh] min-h-24 overflow-y-auto border-y border-rule">
        {frames.frames.slice(0, mostRows).map((frame) => (
          <FrameRow
            key={frame.n}
            frame={frame}
            driver={document.driver}
            areBytes={areBytes}
            isMarked={frames.marked.has(frame.n)}
            onMark={(on) => frames.mark(frame.n, on)}
          />
        ))}
      </ul>
      {frames.frames.length > mostRows && <p className="text-[13px] text-ink-soft">The first {mostRows} are shown.</p>}
      <LearnPanel document={document} frames={frames} onDocument={onDocument} />
    </div>
  );
}

const count = (n: number, what: string): string => `${n.toLocaleString('en')} ${n === 1 ? what : `${what}s`}`;

/** How the bytes seem to be cut, where the document does not cut them so. */
function Framing({ document, frames, onDocument }: Props) {
  const { guesses, material } = frames;
  const { written } = document;
  const isSame = (guess: FramingGuess) => JSON.stringify(written?.framing) === JSON.stringify(guess.framing);
  const [best] = guesses;
  if (!material || !best || guesses.some(isSame)) return null;
  const take = (guess: FramingGuess) =>
    onDocument(
      written ? withFraming(written, guess.framing) : newDocument(material.transport, material.port, guess.framing),
    );
  return (
    <section aria-label="Framing" className="grid gap-1 bg-raised px-3 py-2">
      <p className="text-[13px] text-ink-soft">
        {written ? 'These bytes also fit another framing:' : 'These bytes appear to be framed like this:'}
      </p>
      <ul className="grid gap-1">
        {guesses.map((guess, n) => (
          <li key={guess.title} className="flex items-baseline gap-3">
            <span className={`min-w-0 flex-1 ${n === 0 ? 'font-semibold' : ''}`}>
              {guess.title} <span className="font-normal text-ink-soft">({count(guess.frames, 'frame')})</span>
            </span>
            <Button kind={n === 0 && !written ? 'strong' : 'plain'} onClick={() => take(guess)}>
              {written ? 'Use this framing' : 'Start a document'}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

interface RowProps {
  readonly frame: BenchFrame;
  readonly driver: CompiledDriver | undefined;
  /** Not all of them are text. */
  readonly areBytes: boolean;
  readonly isMarked: boolean;
  readonly onMark: (on: boolean) => void;
}

function FrameRow({ frame, driver, areBytes, isMarked, onMark }: RowProps) {
  const meaning =
    driver && (frame.dir === 'in' ? frameMeaning(driver, frame.hex, undefined) : sentMeaning(driver, frame.hex));
  return (
    <li className={`grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] gap-x-3 px-1 py-0.5 ${isMarked ? 'bg-tape' : ''}`}>
      <Checkbox
        checked={isMarked}
        onChange={onMark}
        className="min-w-0"
        label={
          <span className="flex min-w-0 items-center gap-2 font-mono text-[13px]">
            <WireWay dir={frame.dir} />
            <span className="truncate">
              {areBytes ? frame.hex.replace(/..(?=.)/g, '$& ') : <VeiledText text={bytesText(frame.hex)} />}
            </span>
          </span>
        }
      />
      <span className="self-center truncate text-[13px] text-ink-soft">
        <VeiledText text={meaning ?? ''} />
      </span>
    </li>
  );
}
