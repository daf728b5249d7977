'use client';

import { setResponse, type ResponseGesture } from '../../core/page';
import type { ControlRecord } from '../../core/show';
import { whyNotWith, type Combinable } from '../../core/press';

import { Button, CommitInput, optionsFrom, Select } from '../kit';
import { AskFields } from './ask-fields';
import { GestureSends } from './gesture-sends';
import { guardWords } from './guard-words';
import { useVerbs } from './verbs';

interface Props {
  readonly control: ControlRecord;
  readonly what: string;
}

type Change = (to: (data: ControlRecord['data']) => ControlRecord['data']) => void;

/** What a press does besides: further turns, release, long press, repetition, turning off, and how it is confirmed. */
export function GestureFields({ control, what }: Props) {
  const verbs = useVerbs();
  const { responses } = control.data;
  const { turns = [], release, repeat, long, off, guard, asks } = responses;
  const change: Change = (to) => verbs.change(control, to, what);
  const sends = (gesture: ResponseGesture, title: string) => (
    <GestureSends control={control} gesture={gesture} what={what} title={title} />
  );
  const why = (wanted: Combinable) => whyNotWith(responses, wanted);
  const isMore = turns.length > 0 || [release, repeat, long, off, guard, asks].some((each) => each !== undefined);
  return (
    <details className="[&>*]:mt-2.5" open={isMore || undefined}>
      <summary>
        More than a tap{' '}
        <span className="text-[14px] font-normal text-ink-soft">turns, release, repeat, long press, turn off, ask</span>
      </summary>
      {turns.map((_, n) => (
        <div
          key={n}
          className="flex flex-col gap-2 border-l-3 border-rule pl-2.5"
          role="group"
          aria-label={`Turn ${n + 2}`}
        >
          {sends(`turn ${n}`, `Turn ${n + 2}`)}
          <Button onClick={() => change((data) => setResponse(data, 'turns', without(data.responses.turns ?? [], n)))}>
            Remove turn {n + 2}
          </Button>
        </div>
      ))}
      {turns.length < 5 && responses.tap.length > 0 && (
        <Button onClick={() => change((data) => setResponse(data, 'turns', [...(data.responses.turns ?? []), []]))}>
          {turns.length === 0 ? 'Alternate: something else the next time' : 'Another turn'}
        </Button>
      )}
      {turns.length > 0 && (
        <p className="col-span-full text-[13px] text-ink-soft">
          Where the device reports the present state, the next one follows it.
        </p>
      )}
      <div className="flex flex-col gap-2 border-l-3 border-rule pl-2.5" role="group" aria-label="Release">
        {why('release') && !release ? (
          <NotWith title="On release" why={why('release')} />
        ) : (
          sends('release', 'On release')
        )}
      </div>
      <Switch
        title="Repeat while held"
        why={why('repeat')}
        on={repeat !== undefined}
        onSwitch={(on) =>
          change((data) => setResponse(data, 'repeat', on ? { firstMs: 400, everyMs: 200 } : undefined))
        }
      />
      {repeat && (
        <div className="grid grid-cols-[repeat(3,1fr)] items-end gap-2 [&_input]:w-full [&_input]:min-w-0">
          <Ms
            title="first after, ms"
            value={repeat.firstMs}
            min={100}
            onMs={(firstMs) => change((data) => setResponse(data, 'repeat', { ...repeat, firstMs }))}
          />
          <Ms
            title="then every, ms"
            value={repeat.everyMs}
            min={40}
            onMs={(everyMs) => change((data) => setResponse(data, 'repeat', { ...repeat, everyMs }))}
          />
          <Ms
            title="down to, ms"
            value={repeat.fastestMs ?? repeat.everyMs}
            min={40}
            onMs={(fastestMs) => change((data) => setResponse(data, 'repeat', { ...repeat, fastestMs }))}
          />
        </div>
      )}
      <Switch
        title="Something else on a long press"
        why={why('long')}
        on={long !== undefined}
        onSwitch={(on) => change((data) => setResponse(data, 'long', on ? { afterMs: 800, sends: [] } : undefined))}
      />
      {long && (
        <div className="flex flex-col gap-2 border-l-3 border-rule pl-2.5" role="group" aria-label="Long press">
          <Ms
            title="held for, ms"
            value={long.afterMs}
            min={200}
            max={10_000}
            onMs={(afterMs) => change((data) => setResponse(data, 'long', { ...long, afterMs }))}
          />
          {sends('long', 'Long press')}
        </div>
      )}
      <Switch
        title="Turn off automatically after a time"
        on={off !== undefined}
        onSwitch={(on) =>
          change((data) => setResponse(data, 'off', on ? { afterMs: 5000, again: 'restart', sends: [] } : undefined))
        }
      />
      {off && (
        <div className="flex flex-col gap-2 border-l-3 border-rule pl-2.5" role="group" aria-label="Turn off">
          <Ms
            title="after, ms"
            value={off.afterMs}
            min={500}
            max={3_600_000}
            onMs={(afterMs) => change((data) => setResponse(data, 'off', { ...off, afterMs }))}
          />
          {sends('off', 'Then it sends')}
          <Select
            label="If tapped again before that"
            value={off.again}
            options={optionsFrom({ restart: 'the time starts again', end: 'it turns off at once' })}
            onChoose={(again) => change((data) => setResponse(data, 'off', { ...off, again }))}
          />
        </div>
      )}
      {why('asks') && !asks ? (
        <NotWith title="Ask first" why={why('asks')} />
      ) : (
        <AskFields control={control} what={what} />
      )}
      <Select
        label="Confirm before sending"
        value={guard ?? 'risky'}
        options={optionsFrom(guardWords)}
        onChoose={(to) => change((data) => setResponse(data, 'guard', to === 'risky' ? undefined : to))}
      />
    </details>
  );
}

const without = <T,>(list: readonly T[], n: number): T[] | undefined => {
  const rest = list.filter((_, k) => k !== n);
  return rest.length > 0 ? rest : undefined;
};

/** A response that cannot be added to those that there are, and why. */
const NotWith = ({ title, why }: { readonly title: string; readonly why: string | undefined }) => (
  <p className="col-span-full my-2 text-[13px] text-ink-soft">
    <b>{title}:</b> not available. {why}
  </p>
);

interface SwitchProps {
  readonly title: string;
  /** Why it cannot be switched on. */
  readonly why?: string | undefined;
  readonly on: boolean;
  readonly onSwitch: (on: boolean) => void;
}

function Switch({ title, why, on, onSwitch }: SwitchProps) {
  if (why && !on) return <NotWith title={title} why={why} />;
  return (
    <label className="col-span-full flex flex-row items-center gap-2">
      <input type="checkbox" checked={on} onChange={(event) => onSwitch(event.target.checked)} />
      {title}
    </label>
  );
}

interface MsProps {
  readonly title: string;
  readonly value: number;
  readonly min: number;
  readonly max?: number;
  readonly onMs: (ms: number) => void;
}

/** A time in milliseconds; what lies outside is brought inside. */
function Ms({ title, value, min, max = 5000, onMs }: MsProps) {
  return (
    <label>
      {title}
      <CommitInput
        type="number"
        min={min}
        max={max}
        step={10}
        value={String(value)}
        onCommit={(text) =>
          Number.isFinite(Number(text)) && onMs(Math.min(max, Math.max(min, Math.round(Number(text)))))
        }
      />
    </label>
  );
}
