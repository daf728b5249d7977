'use client';

import type { DriverDocument } from '../../core/driver';
import type { Scalar } from '../../core/result';
import { startOf, type DeskView, type MacroDoes, type MacroRecord, type MacroSend } from '../../core/show';
import { CommandPicker, useRigFacts } from '../fields';

interface Props {
  readonly macros: readonly MacroRecord[];
  readonly show: DeskView;
  readonly onAdd: (does: MacroDoes) => void;
}

/** Adds a step behind the last: a command of any device, another macro, a page or a note. */
export function AddStep({ macros, show, onAdd }: Props) {
  const { documentOf, tagOf } = useRigFacts();
  const pages = show.records.flatMap((each) => (each.kind === 'page' ? [each] : []));
  const levels = pages.flatMap(({ id, data }) =>
    (data.shifts ?? []).map((level) => ({ value: `shift ${id} ${level.id}`, title: `${data.name}: ${level.name}` })),
  );
  const picks = pages.flatMap(({ id, data }) =>
    data.zones.flatMap((zone) =>
      (zone.pick?.devices ?? []).map((device) => ({
        value: `pick ${id} ${zone.id} ${device}`,
        title: `${data.name}, ${zone.title}: ${tagOf(device) ?? device}`,
      })),
    ),
  );
  return (
    <div className="add-step">
      <CommandPicker
        label="Add a command"
        none="Choose a command"
        onPick={(device, command, values) => {
          const document = documentOf(device);
          if (document) onAdd({ is: 'send', send: newSend(document, device, command, values) });
        }}
      />
      <label>
        or
        <select
          aria-label="Add something else"
          value=""
          onChange={(event) => {
            const [is = '', id = '', further = '', last = ''] = event.target.value.split(' ');
            if (is === 'macro') onAdd({ is, macro: id, params: {} });
            else if (is === 'page') onAdd({ is, page: id });
            else if (is === 'shift') onAdd({ is, page: id, shift: further });
            else if (is === 'pick') onAdd({ is, page: id, zone: further, device: last });
            else if (is === 'brightness') onAdd({ is, percent: 60 });
            else if (is === 'note') onAdd({ is, text: 'Stand by' });
          }}
        >
          <option value="">something else …</option>
          <option value="note">a note to the panels</option>
          <option value="brightness">the brightness of the panels</option>
          <optgroup label="Begin a macro">
            {macros.map(({ id, data }) => (
              <option key={id} value={`macro ${id}`}>
                {data.name}
              </option>
            ))}
          </optgroup>
          <optgroup label="Move the panels to a page">
            {pages.map(({ id, data }) => (
              <option key={id} value={`page ${id}`}>
                {data.name}
              </option>
            ))}
          </optgroup>
          {levels.length > 0 && (
            <optgroup label="Give a page a level">
              {levels.map(({ value, title }) => (
                <option key={value} value={value}>
                  {title}
                </option>
              ))}
            </optgroup>
          )}
          {picks.length > 0 && (
            <optgroup label="Pick what a zone drives">
              {picks.map(({ value, title }) => (
                <option key={value} value={value}>
                  {title}
                </option>
              ))}
            </optgroup>
          )}
        </select>
      </label>
    </div>
  );
}

/** A command with the values that a new control would have. */
export function newSend(
  document: DriverDocument,
  device: string,
  command: string,
  given: Readonly<Record<string, Scalar>> = {},
): MacroSend {
  const { values } = startOf(document, device, command, given);
  return { device, command, params: { ...values } };
}
