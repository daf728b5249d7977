'use client';

import {
  besideText,
  resultOf,
  stageNames,
  stageTitles,
  troubleOf,
  wordsOf,
  type Mend,
  type Verdict,
} from '../../core/diagnosis';
import { ExchangeLines } from '../explain';
import { Fold } from '../kit';
import { durationText, Tick, VeiledText } from '../parts';
import { TroubleText } from '../proofs';
import { verdictClass } from './verdict-class';
import type { DeviceTest } from './use-test';

interface Props {
  readonly test: DeviceTest;
  /** The device of the rig that was tested. */
  readonly device?: string | undefined;
  /** A device of the same kind whose test passed, to set this one beside. */
  readonly good?: { readonly tag: string; readonly test: DeviceTest } | undefined;
  /** Left out where there is nothing to mend. */
  readonly onMend?: (mend: Mend) => void;
}

const marks: Readonly<Record<Verdict['is'], string>> = { passed: '✓', doubtful: '!', failed: '✕', 'not-possible': '–' };
const markWords: Readonly<Record<Verdict['is'], string>> = {
  passed: 'passed',
  doubtful: 'worth a look',
  failed: 'failed',
  'not-possible': 'cannot be told',
};

/** A connection test, stage by stage: what was seen, what it means, what to try, and what can be mended here. */
export function TestPane({ test, device, good, onMend }: Props) {
  const beside = good && besideText(test.stages, { tag: good.tag, found: good.test.stages });
  return (
    <>
      <ol
        className="mt-2.5 mr-0 mb-1.5 ml-2.5 border-l-2 border-rule-strong pl-0"
        aria-label="Connection test"
        aria-busy={!test.done}
      >
        {stagesOf(test).map(({ stage, found, waits }) => {
          return (
            <li
              key={stage}
              className={`grid grid-cols-[26px_78px_minmax(0,1fr)_64px] gap-2.5 py-1 test-${found?.verdict.is ?? (waits ? 'waits' : 'open')}`}
            >
              <span
                className="-ml-2.75 h-5 w-5 border-2 border-rule-strong bg-ground text-center text-[12px] leading-4 in-[.test-doubtful]:border-warning in-[.test-doubtful]:bg-warning in-[.test-doubtful]:font-bold in-[.test-doubtful]:text-warning-ink in-[.test-failed]:border-fault in-[.test-failed]:bg-fault in-[.test-failed]:font-bold in-[.test-failed]:text-fault-ink"
                aria-hidden
              >
                {found ? marks[found.verdict.is] : waits ? '…' : ''}
              </span>
              <span className="font-semibold in-[.test-open]:font-normal in-[.test-open]:text-ink-soft">
                {stageTitles[stage]}
              </span>
              <span className="test-said">
                {found ? (
                  <>
                    <span className="sr-only">{markWords[found.verdict.is]}: </span>
                    <VeiledText text={found.verdict.seen} />
                    {found.verdict.trouble && (
                      <TroubleText trouble={found.verdict.trouble} mends={found.verdict.mends} onMend={onMend} />
                    )}
                  </>
                ) : (
                  <span className="text-ink-soft">{waits ? 'looking …' : test.done ? 'not reached' : ''}</span>
                )}
              </span>
              <span className="text-right font-mono text-[13px] text-ink-soft">{found && durationText(found.ms)}</span>
            </li>
          );
        })}
      </ol>
      {beside && (
        <p className="mt-1 mb-2.5 max-w-[90ch]">
          <b>Beside {good.tag}:</b> <VeiledText text={beside} />
        </p>
      )}
      {test.exchange && test.exchange.length > 0 && (
        <Fold name="Bytes of the test" startsFolded>
          <ExchangeLines device={device} lines={test.exchange} />
        </Fold>
      )}
    </>
  );
}

/** The stages of a test, as far as they are known to be gone through: over a serial line some are left out. */
function stagesOf({ stages, done }: DeviceTest) {
  const last = stages.at(-1)?.stage;
  const reached = last === undefined ? -1 : stageNames.indexOf(last);
  return stageNames.flatMap((stage, n) => {
    const found = stages.find((each) => each.stage === stage);
    if (!found && n < reached) return [];
    return [{ stage, found, waits: !found && !done && n === reached + 1 }];
  });
}

/** A test in one line, for the rig. */
export function TestWord({ test }: { readonly test: DeviceTest }) {
  const verdicts = test.stages.map(({ verdict }) => verdict);
  const trouble = troubleOf(verdicts);
  if (!test.done) {
    const next = stagesOf(test).find(({ waits }) => waits);
    return <span>testing: {next ? stageTitles[next.stage].toLowerCase() : '…'}</span>;
  }
  if (!trouble)
    return (
      <span>
        <Tick />
        test passed
      </span>
    );
  const is = resultOf(verdicts, true);
  return (
    <span className={verdictClass[is]}>
      <span aria-hidden>{is === 'failed' ? '✕' : '!'}</span> {wordsOf(trouble).title}
    </span>
  );
}
