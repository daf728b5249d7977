'use client';

import { useState } from 'react';
import { reportText, summaryOf, summaryText, wordsOf } from '../../core/diagnosis';
import type { DeviceRecord } from '../../core/show';

import { Button } from '../kit';
import { verdictClass } from './verdict-class';
import type { Tests } from './use-test';

interface Props {
  readonly devices: readonly DeviceRecord[];
  readonly tests: Tests;
  readonly onShow: (device: string) => void;
}

/** What the tests of several devices found, with the devices that share a trouble together. */
export function TestSummary({ devices, tests, onShow }: Props) {
  const [copied, setCopied] = useState('');
  const tested = devices.flatMap(({ id, data }) => {
    const test = tests.get(id);
    const verdicts = test?.stages.map(({ verdict }) => verdict) ?? [];
    return test ? [{ id, tag: data.tag, name: data.name, verdicts, done: test.done }] : [];
  });
  if (tested.length < 2) return null;
  const summary = summaryOf(tested);
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(reportText(tested));
      setCopied('Copied.');
    } catch {
      setCopied('The browser does not allow copying here.');
    }
  };
  return (
    <section
      className="border-t border-rule-strong pt-2 pb-2.5 [&_li]:flex [&_li]:flex-wrap [&_li]:items-center [&_li]:gap-x-2.5 [&_li]:gap-y-1.5 [&_li]:pt-2"
      aria-label="Test results"
    >
      <p role="status">
        <b>{summaryText(summary)}</b>{' '}
        <Button disabled={summary.count.running > 0} onClick={() => void copy()}>
          Copy the report
        </Button>{' '}
        <span className="text-ink-soft">{copied}</span>
      </p>
      {summary.troubles.length > 0 && (
        <ul>
          {summary.troubles.map(({ trouble, is, tags }) => (
            <li key={`${is} ${trouble}`}>
              <span className={verdictClass[is]}>
                <span aria-hidden>{is === 'failed' ? '✕' : '!'}</span> {wordsOf(trouble).title}
              </span>
              {tags.map((tag) => (
                <Button
                  key={tag}
                  onClick={() => onShow(tested.find((each) => each.tag === tag)?.id ?? '')}
                  aria-label={`Show the test of ${tag}`}
                >
                  {tag}
                </Button>
              ))}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
