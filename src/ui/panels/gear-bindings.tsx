'use client';

import { nameOfRecord, removeBindingEdit, type BindingRecord, type DeskView } from '../../core/show';
import { useDesk } from '../desk';
import { Button } from '../kit';

interface Props {
  readonly show: DeskView;
  readonly bindings: readonly BindingRecord[];
}

/** What hand gear of a panel works, gear by gear. It is bound at the panel, where the gear is. */
export function GearBindings({ show, bindings }: Props) {
  const desk = useDesk();
  const recordOf = (id: string) => show.records.find((record) => record.id === id);
  const gears = [...new Set(bindings.map(({ data }) => data.gear))].sort();
  return (
    <div className="grid gap-3 py-3">
      {gears.map((gear) => (
        <section key={gear} aria-label={gear}>
          <h3>{gear}</h3>
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(320px,1fr))] gap-x-6">
            {bindings
              .filter(({ data }) => data.gear === gear)
              .map((binding) => {
                const { data } = binding;
                const [control, page] = [recordOf(data.control), recordOf(data.page)];
                return (
                  <li
                    key={binding.id}
                    className="grid min-h-11 grid-cols-[8rem_minmax(0,1fr)_auto] items-center gap-2 border-t border-rule"
                  >
                    <span className="font-mono text-[0.93em]">{data.input}</span>
                    <span className="truncate">
                      {control ? nameOfRecord(control) : 'a control that no longer exists'}{' '}
                      <span className="text-ink-soft">{page ? nameOfRecord(page) : ''}</span>
                    </span>
                    <Button
                      kind="ghost"
                      aria-label={`Free ${data.input} of ${gear}`}
                      onClick={() => void desk.edit(removeBindingEdit(binding))}
                    >
                      Free
                    </Button>
                  </li>
                );
              })}
          </ul>
        </section>
      ))}
      <p className="text-[13px] text-ink-soft">Gear is bound at the panel: This screen, Bind a control.</p>
    </div>
  );
}
