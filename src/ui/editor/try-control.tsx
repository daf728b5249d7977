'use client';

import { useState } from 'react';
import { trialOf } from '../../core/page';
import { whyWord } from '../../core/press';
import { needsHolding, type ControlRecord } from '../../core/show';
import { trialMark, useLive, useMarks, useStatus } from '../live';
import { ExplainButton } from '../explain';
import { QuestionForm, textOf, useHand } from '../page';
import { durationText, OutcomeShape } from '../parts';
import { buttonClass, Fold, optionsFrom, Select } from '../kit';
import { useFacts } from './facts';
import { useFaceOf } from './use-face-of';

/** Presses a control as it is here, stored or not, in every way like a panel: dry unless somebody says otherwise. */
export function TryControl({ control }: { readonly control: ControlRecord }) {
  const live = useLive();
  const engineAim = useStatus()?.aim ?? 'dry';
  const [wanted, setWanted] = useState<'dry' | 'live'>('dry');
  const [tried, setTried] = useState(false);
  const mark = useMarks().get(trialMark);
  const { documentOf } = useFacts();
  const face = useFaceOf(control.data);
  const [value, setValue] = useState<number>();
  const { range } = control.data;
  const data = trialOf(control.data, documentOf, value ?? face.range?.value, face.items);
  const held = data !== undefined && needsHolding(data);
  const nothing = data === undefined;
  const aim = engineAim === 'dry' ? 'dry' : wanted;
  const press = (gesture: 'tap' | 'hold') => {
    if (!data) return () => undefined;
    setTried(true);
    // Dry nothing has to be confirmed; live, the hold of this button confirms it.
    return live.tryControl(data, { gesture, aim, guard: true, of: control.id.slice(0, 30) });
  };
  // With the aim on live a trial has to be held until its bar is full, as something risky would.
  const { filling, handlers } = useHand({
    disabled: nothing,
    guarded: aim === 'live' && !held,
    onPress: () => void press('tap'),
    ...(held ? { onHold: () => press('hold') } : {}),
  });
  return (
    <Fold name="Try it">
      <div className="flex gap-2 [&>div]:flex-1">
        <Select
          label="Aim of the trial"
          labelAt="hidden"
          value={aim}
          disabled={engineAim === 'dry'}
          options={optionsFrom({ dry: 'dry: nothing is sent', live: 'live: to the devices' })}
          onChoose={setWanted}
        />
        <button
          type="button"
          className={buttonClass({ kind: aim === 'live' ? 'live' : 'plain', className: 'min-w-28' })}
          disabled={nothing}
          data-filling={filling || undefined}
          {...handlers}
        >
          {held ? 'Hold' : aim === 'live' ? 'Hold to press' : 'Press'}
        </button>
      </div>
      {range && (
        <label>
          Value
          <input
            type="range"
            min={range.min}
            max={range.max}
            step="any"
            value={value ?? face.range?.value ?? range.min}
            onChange={(event) => setValue(Math.round(Number(event.target.value) * 10) / 10)}
          />
        </label>
      )}
      {tried && mark?.asks && mark.outcome === 'waiting' && (
        <QuestionForm
          key={mark.id}
          title={textOf(face)}
          asks={mark.asks}
          onAnswer={(given) => live.answer(mark.id, given)}
        />
      )}
      {nothing && (
        <p className="col-span-full text-[13px] text-ink-soft">
          This control sends nothing, so there is nothing to try.
        </p>
      )}
      {tried && mark && (
        <div className="tried flex flex-col gap-2 border border-rule p-2.5 wrap-anywhere" role="status">
          <span className={`outcome outcome-${mark.outcome}`}>
            <OutcomeShape outcome={mark.outcome} />
            {mark.outcome === 'skipped' && mark.why ? whyWord(mark.why) : mark.outcome}
          </span>{' '}
          {mark.outcome === 'confirmed' && <span className="text-ink-soft">after {durationText(mark.ms)}</span>}{' '}
          {mark.endedAt !== undefined && <ExplainButton press={mark.id} title={textOf(face) || 'Trial'} />}
          {mark.tried?.map((send, n) => (
            <p key={n}>
              <span className="font-mono text-[0.93em] font-semibold">{send.device}</span>{' '}
              <span className="font-mono text-[0.93em]">{send.text}</span>{' '}
              {send.outcome !== 'skipped' && <span className="text-ink-soft">{send.outcome}</span>}
            </p>
          ))}
          {mark.why !== 'dry' && mark.reason && <p>{mark.reason}</p>}
        </div>
      )}
    </Fold>
  );
}
