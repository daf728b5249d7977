'use client';

import type { Binding } from '../../core/hand';
import type { PageView, StatusView } from '../../core/live';
import { useLive } from '../live';
import type { useGear } from './use-gear';
import { Cross } from '../parts';

interface Props {
  readonly gear: ReturnType<typeof useGear>;
  readonly pages: StatusView['pages'];
}

/** The gear at this screen: what there is, what it works, and how it learns. */
export default function GearPart({ gear, pages }: Props) {
  const live = useLive();
  const { list, bindings, last, midiRefused } = gear;
  const nameOf = (page: string, control: string) => {
    const face = (live.getTopic(`page:${page}`) as PageView | undefined)?.faces[control];
    return face?.segments.map(({ text }) => text).join('') || control;
  };
  return (
    <section
      className="grid gap-2 border-b border-rule-strong bg-raised p-3 [&_button]:min-h-11 [&_button]:border [&_button]:border-rule-strong [&_button]:bg-tape [&_button]:px-3.5 [&_button]:py-0"
      aria-label="Hand gear"
    >
      <h2>Hand gear</h2>
      <div className="flex flex-wrap gap-2">
        <button type="button" onClick={gear.lookForMidi}>
          {list.some(({ kind }) => kind === 'midi') ? 'Look for MIDI again' : 'Look for MIDI'}
        </button>
        <button type="button" onClick={() => gear.learn({ at: 'control' })}>
          Bind a control
        </button>
      </div>
      {midiRefused && <p role="alert">{midiRefused}</p>}
      {gear.wantsMidi && !midiRefused && (
        <p role="status">This panel has MIDI gear bound to it. Choose “Look for MIDI” to use it at this computer.</p>
      )}
      <ul className="gear-list">
        {list.map(({ id, name, state }) => (
          <li key={id} data-state={state}>
            <b>{name}</b> {state !== 'ready' && <Cross />}
            {state === 'held elsewhere'
              ? 'in use by another program: close it, then look again'
              : state === 'gone'
                ? 'unplugged'
                : 'ready'}
          </li>
        ))}
        {list.length === 0 && (
          <li className="text-ink-soft">No MIDI device and no game controller so far; the keyboard is there.</li>
        )}
      </ul>
      <p className="gear-last" role="status">
        {last ? `Last: ${last.input} of ${last.gear}, ${Math.round(last.value * 100)} %` : 'Nothing has been used yet.'}
      </p>
      <ul className="gear-bindings [&_button]:ml-auto [&_li]:flex [&_li]:min-h-12 [&_li]:flex-wrap [&_li]:items-center [&_li]:gap-x-2.5 [&_li]:gap-y-1 [&_li]:border-t [&_li]:border-rule [&_li[data-used]]:pl-3 [&_li[data-used]]:shadow-[inset_5px_0_0_var(--accent)]">
        {bindings.map((binding) => (
          <li
            key={binding.id ?? `${binding.gear} ${binding.input}`}
            data-used={(last?.gear === binding.gear && last.input === binding.input) || undefined}
          >
            <span className="font-mono text-[0.93em]">{binding.input}</span> of {binding.gear} →{' '}
            <b>{nameOf(binding.page, binding.control)}</b>{' '}
            <span className="text-ink-soft">
              {pages.find(({ id }) => id === binding.page)?.name ?? 'a page of another panel'}
            </span>
            {binding.as === 'turn' && <TurnWay binding={binding} onChange={gear.put} />}
            <button
              type="button"
              aria-label={`Take ${binding.input} of ${binding.gear} off ${nameOf(binding.page, binding.control)}`}
              onClick={() => gear.remove(binding)}
            >
              Take off
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const ways = {
  pickUp: 'fader: takes hold at the device’s value',
  jumps: 'fader: sets its value at once',
  twos: 'endless encoder, two’s complement (1, 127)',
  offset: 'endless encoder, around 64 (65, 63)',
  sign: 'endless encoder, sign bit (1, 65)',
} as const;

interface WayProps {
  readonly binding: Binding;
  readonly onChange: (binding: Binding) => void;
}

/** How what is turned says how far: a fader by its place, an endless encoder by its notches. */
function TurnWay({ binding, onChange }: WayProps) {
  const { coding, jumps, ...rest } = binding;
  const now = coding ?? (jumps ? 'jumps' : 'pickUp');
  const choose = (way: keyof typeof ways) => {
    if (way === 'pickUp') onChange(rest);
    else onChange(way === 'jumps' ? { ...rest, jumps: true } : { ...rest, coding: way });
  };
  return (
    <select
      className="min-h-11 border border-rule-strong bg-tape px-2"
      aria-label={`How ${binding.input} of ${binding.gear} turns`}
      value={now}
      onChange={({ target }) => choose(target.value as keyof typeof ways)}
    >
      {Object.entries(ways)
        .filter(([way]) => binding.input.startsWith('cc ') || way === 'pickUp' || way === 'jumps')
        .map(([way, title]) => (
          <option key={way} value={way}>
            {title}
          </option>
        ))}
    </select>
  );
}
