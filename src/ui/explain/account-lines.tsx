'use client';

import { X } from 'lucide-react';
import { explainLines, tryNextOf, type Explanation, type ExplainLine } from '../../core/explain';
import { bytesText, VeiledText } from '../parts';

/** The account of one press: what happened when, where it stopped when it did, and what to try. */
export function AccountLines({ explanation }: { readonly explanation: Explanation }) {
  const lines = explainLines(explanation);
  const tryNext = tryNextOf(explanation);
  return (
    <div className="grid gap-4">
      <ol aria-label="From the press to the lamp" className="grid">
        {lines.map((line, n) => (
          <Line key={line.key} line={line} isLast={n === lines.length - 1} />
        ))}
      </ol>
      {tryNext && (
        <p className="border-l-2 border-rule-strong pl-3">
          <b>What to try: </b>
          {tryNext}
        </p>
      )}
    </div>
  );
}

function Line({ line, isLast }: { readonly line: ExplainLine; readonly isLast: boolean }) {
  const { ms, title, detail, bytes, tone } = line;
  return (
    <li className="grid grid-cols-[76px_17px_1fr] items-start">
      <span className="pr-2 text-right font-mono text-[13px] leading-6 whitespace-nowrap text-ink-soft">
        {momentText(ms)}
      </span>
      <span aria-hidden className="relative grid justify-center self-stretch">
        {!isLast && <span className="absolute top-3 bottom-[-12px] left-1/2 w-px bg-rule-strong" />}
        <Mark tone={tone} />
      </span>
      <span className="grid min-w-0 pb-2.5 pl-2">
        <b className={`leading-6 ${tone === 'plain' ? 'font-medium' : ''}`}>{title}</b>
        {detail && (
          <span className="text-ink-soft">
            <VeiledText text={detail} />
          </span>
        )}
        {bytes && (
          <span className="font-mono text-[13px] break-all text-ink-soft">
            <VeiledText text={bytesText(bytes)} />
            {bytes.length <= shortHex && <span className="block">{bytes.replace(/../g, '$& ').trim()}</span>}
          </span>
        )}
      </span>
    </li>
  );
}

/** Bytes no longer than this are shown as digits, too. */
const shortHex = 48;

/** A stop is a cross on inverse, as everywhere; the end of a press that went well is filled, and all else a small square. */
function Mark({ tone }: Pick<ExplainLine, 'tone'>) {
  if (tone === 'stop')
    return (
      <span className="relative mt-1 grid size-4 place-items-center bg-ink text-ground">
        <X size={13} strokeWidth={3} />
      </span>
    );
  return <span className={`relative mt-2 size-2 border border-ink ${tone === 'done' ? 'bg-ink' : 'bg-ground'}`} />;
}

/** `+0.4 ms`, `+35 ms`, `+1.20 s`, counted from the press. */
function momentText(ms: number): string {
  if (ms === 0) return '0 ms';
  if (ms < 10) return `+${ms.toFixed(1)} ms`;
  return ms < 1000 ? `+${Math.round(ms)} ms` : `+${(ms / 1000).toFixed(2)} s`;
}
