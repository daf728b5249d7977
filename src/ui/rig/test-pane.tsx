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
import { Button, durationText, Tick, VeiledText } from '../parts';
import type { DeviceTest } from './use-test';

interface Props {
  readonly test: DeviceTest;
  /** A device of the same kind whose test passed, to set this one beside. */
  readonly good?: { readonly tag: string; readonly test: DeviceTest } | undefined;
  readonly onMend: (mend: Mend) => void;
}

const marks: Readonly<Record<Verdict['is'], string>> = { passed: '✓', doubtful: '!', failed: '✕', 'not-possible': '–' };
const markWords: Readonly<Record<Verdict['is'], string>> = {
  passed: 'passed',
  doubtful: 'worth a look',
  failed: 'failed',
  'not-possible': 'cannot be told',
};

/** A connection test, stage by stage: what was seen, what it means, what to try, and what can be mended here. */
export function TestPane({ test, good, onMend }: Props) {
  const beside = good && besideText(test.stages, { tag: good.tag, found: good.test.stages });
  return (
    <>
      <ol className="test" aria-label="Connection test" aria-busy={!test.done}>
        {stageNames.map((stage, n) => {
          const found = test.stages[n];
          const waits = !found && !test.done && n === test.stages.length;
          return (
            <li key={stage} className={`test-stage test-${found?.verdict.is ?? (waits ? 'waits' : 'open')}`}>
              <span className="test-mark" aria-hidden>
                {found ? marks[found.verdict.is] : waits ? '…' : ''}
              </span>
              <span className="test-name">{stageTitles[stage]}</span>
              <span className="test-said">
                {found ? (
                  <>
                    <span className="sr-only">{markWords[found.verdict.is]}: </span>
                    <VeiledText text={found.verdict.seen} />
                    {found.verdict.trouble && <Trouble verdict={found.verdict} onMend={onMend} />}
                  </>
                ) : (
                  <span className="muted">{waits ? 'looking …' : test.done ? 'not reached' : ''}</span>
                )}
              </span>
              <span className="test-ms muted mono">{found && durationText(found.ms)}</span>
            </li>
          );
        })}
      </ol>
      {beside && (
        <p className="test-beside">
          <b>Beside {good.tag}:</b> <VeiledText text={beside} />
        </p>
      )}
    </>
  );
}

function Trouble({ verdict, onMend }: { readonly verdict: Verdict; readonly onMend: (mend: Mend) => void }) {
  if (!verdict.trouble) return null;
  const { title, means, tryNext } = wordsOf(verdict.trouble);
  return (
    <span className="test-trouble">
      <b>{title}.</b> {means} <span className="test-try">{tryNext}</span>
      {verdict.mends && verdict.mends.length > 0 && (
        <span className="test-mends">
          {verdict.mends.map((mend, n) => (
            <Button key={n} kind={n === 0 ? 'strong' : 'plain'} onClick={() => onMend(mend)}>
              {mendTitle(mend)}
            </Button>
          ))}
        </span>
      )}
    </span>
  );
}

function mendTitle(mend: Mend): string {
  switch (mend.do) {
    case 'port':
      return `Use port ${mend.port}`;
    case 'driver':
      return `Use the driver “${mend.title}”`;
    case 'option':
      return `Set ${mend.title} to ${mend.value}`;
    case 'enable':
      return 'Switch it on';
    case 'interrupt':
      return 'Interrupt the connection and test';
    case 'find':
      return 'Find it on the network';
  }
}

/** A test in one line, for the rig. */
export function TestWord({ test }: { readonly test: DeviceTest }) {
  const verdicts = test.stages.map(({ verdict }) => verdict);
  const trouble = troubleOf(verdicts);
  if (!test.done) {
    const stage = stageNames[test.stages.length];
    return <span className="test-word">testing: {stage ? stageTitles[stage].toLowerCase() : '…'}</span>;
  }
  if (!trouble)
    return (
      <span className="test-word">
        <Tick />
        test passed
      </span>
    );
  const is = resultOf(verdicts, true);
  return (
    <span className={`test-word test-word-${is}`}>
      <span aria-hidden>{is === 'failed' ? '✕' : '!'}</span> {wordsOf(trouble).title}
    </span>
  );
}
