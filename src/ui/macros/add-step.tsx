'use client';

import type { DriverDocument } from '../../core/driver';
import type { Scalar } from '../../core/result';
import { startOf, type DeskView, type MacroDoes, type MacroRecord, type MacroSend } from '../../core/show';
import { CommandPicker, useRigFacts } from '../fields';
import { Button, Select } from '../kit';

interface Props {
  readonly macros: readonly MacroRecord[];
  readonly show: DeskView;
  /** The segment to which it is added. */
  readonly within: string;
  readonly onAdd: (does: MacroDoes) => void;
  readonly onAddSegment: () => void;
}

/** Adds a step behind the last of a segment (a command of any device, another macro, a page or a note), or another segment. */
export function AddStep({ macros, show, within, onAdd, onAddSegment }: Props) {
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
    <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
      <CommandPicker
        label={`Add a command to ${within}`}
        none="Choose a command"
        onPick={(device, command, values) => {
          const document = documentOf(device);
          if (document) onAdd({ is: 'send', send: newSend(document, device, command, values) });
        }}
      />
      <Select
        label="Add something else"
        labelAt="hidden"
        value={undefined}
        placeholder="Add something else …"
        options={[
          { value: 'note', title: 'a note to the panels' },
          { value: 'brightness', title: 'the brightness of the panels' },
          ...macros.map(({ id, data }) => ({ value: `macro ${id}`, title: data.name, group: 'Start a macro' })),
          ...pages.map(({ id, data }) => ({
            value: `page ${id}`,
            title: data.name,
            group: 'Move the panels to a page',
          })),
          ...levels.map((level) => ({ ...level, group: 'Set the level of a page' })),
          ...picks.map((each) => ({ ...each, group: 'Pick what a zone drives' })),
        ]}
        onChoose={(what) => {
          const [is = '', id = '', further = '', last = ''] = what.split(' ');
          if (is === 'macro') onAdd({ is, macro: id, params: {} });
          else if (is === 'page') onAdd({ is, page: id });
          else if (is === 'shift') onAdd({ is, page: id, shift: further });
          else if (is === 'pick') onAdd({ is, page: id, zone: further, device: last });
          else if (is === 'brightness') onAdd({ is, percent: 60 });
          else if (is === 'note') onAdd({ is, text: 'Stand by' });
        }}
      />
      <Button onClick={onAddSegment}>Add segment</Button>
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
