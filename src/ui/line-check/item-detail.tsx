'use client';

import { X } from 'lucide-react';
import Link from 'next/link';
import { isTroubleName, mendEdit, type Mend, type Trouble } from '../../core/diagnosis';
import type { Proof } from '../../core/line-check';
import type { CheckItemView, CheckResultView } from '../../core/live';
import { ExchangeLines, PressAccount } from '../explain';
import type { DeviceRecord } from '../../core/show';
import { useDesk, useShow } from '../desk';
import { Button, buttonClass, Fold } from '../kit';
import { bytesText, clockText, durationText, VeiledText } from '../parts';
import { type LineCheckDesk, kindWords, PersonAnswer, proofWords, StandingWord, TroubleText } from '../proofs';

interface Props {
  readonly item: CheckItemView;
  readonly names: ReadonlyMap<string, string>;
  readonly check: LineCheckDesk;
  readonly onClose: () => void;
}

/** One item: how it can be proved, what was seen each time, and what to do about it. */
export function ItemDetail({ item, names, check, onClose }: Props) {
  const { view, isAsking, run, dismiss } = check;
  const canRun = item.proofs.some(({ by }) => by !== 'person' && by !== 'put-back' && by !== 'use');
  const left = item.results.find((result) => result.left && result.left.length > 0);
  const devices = item.devices.map((id) => names.get(id)).filter((name) => name !== undefined);
  return (
    <aside className="grid h-full content-start gap-4 overflow-y-auto px-4 py-3" aria-label="Details of the item">
      <header className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <h2 className="text-[17px] font-semibold">{item.title}</h2>
          <p className="text-ink-soft">{[kindWords[item.kind], ...devices].join(' · ')}</p>
        </div>
        <Button kind="ghost" aria-label="Close the details" onClick={onClose}>
          <X size={18} aria-hidden />
        </Button>
      </header>
      <p className="flex flex-wrap items-center gap-2.5">
        <StandingWord standing={item.standing} />
        {item.fault ?? item.why}
      </p>
      {left && (
        <p className="border-l-3 border-warning pl-2.5">
          The device was left changed. Set it as it should be, then confirm here.{' '}
          <Button disabled={isAsking} onClick={() => void dismiss(item.id)}>
            It is set as it should be
          </Button>
        </p>
      )}
      {canRun && (
        <div className="flex flex-wrap gap-2.5">
          <Button disabled={isAsking || view?.run !== null} onClick={() => void run({ items: [item.id], only: 'all' })}>
            Check again
          </Button>
        </div>
      )}
      <ol aria-label="Proofs" className="grid gap-3">
        {item.proofs.map((proof) => (
          <ProofRow
            key={proof.by}
            item={item}
            proof={proof}
            result={item.results.find(({ by }) => by === proof.by)}
            check={check}
          />
        ))}
      </ol>
      {item.pages.length > 0 && (
        <p>
          Used on{' '}
          {item.pages.map((page, n) => (
            <span key={page}>
              {n > 0 && ', '}
              <Link className="underline" href={`/pages/${page}`}>
                {names.get(page) ?? 'a page'}
              </Link>
            </span>
          ))}
        </p>
      )}
    </aside>
  );
}

interface ProofProps {
  readonly item: CheckItemView;
  readonly proof: Proof;
  readonly result: CheckResultView | undefined;
  readonly check: LineCheckDesk;
}

const stateWords: Readonly<Record<CheckResultView['state'], string>> = {
  passed: 'passed',
  failed: 'failed',
  doubtful: 'needs a look',
  unproved: 'not carried out',
};

function ProofRow({ item, proof, result, check }: ProofProps) {
  return (
    <li className="grid gap-1 border-t border-rule pt-2.5">
      <p>
        <b>{proofWords[proof.by]}</b>{' '}
        <span className="text-ink-soft">
          {result ? `${stateWords[result.state]}${result.isOld ? ', before something changed' : ''}` : 'not yet'}
        </span>
      </p>
      {result && (
        <>
          <p>
            <VeiledText text={result.text} />
          </p>
          <p className="text-[13px] text-ink-soft">
            {new Date(result.at).toLocaleDateString()} {clockText(result.at, false)}, {result.who}
            {result.ms !== undefined && `, ${durationText(result.ms)}`}
          </p>
        </>
      )}
      {result?.trouble !== undefined && isTroubleName(result.trouble) && !result.isOld && (
        <ResultTrouble item={item} trouble={result.trouble} mends={result.mends} check={check} />
      )}
      {result?.bytes !== undefined && (
        <p className="text-[13px] break-all text-ink-soft">
          Sent:{' '}
          <span className="font-mono">
            <VeiledText text={bytesText(result.bytes)} />
          </span>
        </p>
      )}
      {result?.exchange !== undefined && (
        <Fold name="Bytes of the test" startsFolded>
          <ExchangeLines device={item.devices[0]} lines={result.exchange} />
        </Fold>
      )}
      {proof.by === 'person' && (
        <PersonAnswer item={item.id} asks={proof.asks} onAnswer={check.answer} isAsking={check.isAsking} />
      )}
      {result?.press !== undefined && (
        <Fold name="What happened">
          <PressAccount
            press={result.press}
            otherwise={<p>The account is no longer kept. The as-run has the outcome.</p>}
          />
        </Fold>
      )}
    </li>
  );
}

interface TroubleProps {
  readonly item: CheckItemView;
  readonly trouble: Trouble;
  readonly mends: readonly Mend[] | undefined;
  readonly check: LineCheckDesk;
}

/** What is wrong with a connection, and what mends it. After a mend the item is checked again at once. */
function ResultTrouble({ item, trouble, mends = [], check: { run } }: TroubleProps) {
  const { show } = useShow();
  const desk = useDesk();
  const device = show?.records.find(
    (record): record is DeviceRecord => record.kind === 'device' && record.id === item.devices[0],
  );
  if (!device) return null;
  const mend = async (each: Mend) => {
    const edit = mendEdit(device, each);
    if (edit && (await desk.edit(edit))) await run({ items: [item.id], only: 'all' });
  };
  return (
    <div className="grid justify-items-start gap-2">
      <TroubleText
        trouble={trouble}
        mends={mends.filter((each) => mendEdit(device, each))}
        onMend={(each) => void mend(each)}
      />
      <Link className={buttonClass()} href={`/rig?device=${device.id}`}>
        Open {device.data.tag} in the rig
      </Link>
    </div>
  );
}
