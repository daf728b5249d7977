'use client';

import { useMemo, useState } from 'react';
import { readingText } from '../../core/driver';
import {
  mostVariables,
  ownDocumentOf,
  ownId,
  variableReading,
  type DeskView,
  type VariableRecord,
  type VariableValue,
} from '../../core/show';
import { newVariableEdit, usualValue, variablesOf } from '../../core/variables';
import { useDesk, useShow } from '../desk';
import { Button, EmptyState, Menu, SplitPanes } from '../kit';
import { useReadings } from '../live';
import { AutomationRooms, newId } from '../parts';
import { VariableDetails } from './variable-details';

const typeTitles: Readonly<Record<VariableValue['type'], string>> = {
  number: 'Number',
  text: 'Text',
  onOff: 'On or off',
  choice: 'Choice',
};

/** The variables of the show with what they are worth now, and one of them with how it counts. */
export function VariablesScreen() {
  const { show } = useShow();
  const desk = useDesk();
  const [variable, setVariable] = useState<string>();
  const variables = useMemo(() => variablesOf(show?.records ?? []), [show]);
  const chosen = variables.find(({ id }) => id === variable);
  const valueText = useValueText(show);
  const add = async (type: VariableValue['type']) => {
    if (!show) return;
    const name = `Variable ${variables.length + 1}`;
    const edit = newVariableEdit(show.records, newId, { name, value: usualValue(type) });
    const [change] = edit.changes;
    if ((await desk.edit(edit)) && change?.op === 'add') setVariable(change.record.id);
  };
  return (
    <section className="flex h-full min-h-0 flex-col" aria-labelledby="variables-title">
      <header className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-rule px-4 py-2">
        <AutomationRooms here="variables" id="variables-title" />
        <span className="ml-auto">
          <Menu
            acts={Object.entries(typeTitles).map(([type, title]) => ({
              title,
              run: () => void add(type as VariableValue['type']),
            }))}
          >
            <Button kind="strong" disabled={!show || variables.length >= mostVariables}>
              Add variable
            </Button>
          </Menu>
        </span>
      </header>
      {!show && <p className="px-4 py-6 text-ink-soft">Fetching the show …</p>}
      {show && variables.length === 0 && (
        <div className="px-4">
          <EmptyState title="No variables yet.">
            <p>
              A variable is a named value of the show: the lap, the round, whether the doors are open. Buttons, faders,
              macros and watches set it; labels show it, and lamps and conditions use it.
            </p>
          </EmptyState>
        </div>
      )}
      {show && variables.length > 0 && (
        <SplitPanes
          name="variables"
          sideSize="42%"
          main={
            <ul className="h-full min-h-0 overflow-y-auto px-4 pb-16">
              {variables.map((each) => (
                <Row
                  key={each.id}
                  variable={each}
                  value={valueText(each)}
                  isChosen={each.id === chosen?.id}
                  onOpen={setVariable}
                />
              ))}
            </ul>
          }
          side={
            chosen && (
              <VariableDetails
                key={chosen.id}
                variable={chosen}
                typeTitle={typeTitles[chosen.data.value.type]}
                value={valueText(chosen)}
                onClose={() => setVariable(undefined)}
              />
            )
          }
        />
      )}
    </section>
  );
}

interface RowProps {
  readonly variable: VariableRecord;
  readonly value: string;
  readonly isChosen: boolean;
  readonly onOpen: (id: string) => void;
}

const Row = ({ variable: { id, data }, value, isChosen, onOpen }: RowProps) => (
  <li
    data-chosen={isChosen || undefined}
    className="border-b border-l-3 border-rule border-l-transparent data-chosen:border-l-accent data-chosen:bg-tape"
  >
    <button
      type="button"
      className="grid min-h-13 w-full grid-cols-[minmax(0,1fr)_112px_minmax(0,0.8fr)] items-center gap-3 px-2 text-left hover:underline"
      aria-current={isChosen || undefined}
      onClick={() => onOpen(id)}
    >
      <span className="grid">
        <span className="truncate font-semibold">{data.name}</span>
        <span className="truncate font-mono text-[13px] text-ink-soft">SHOW.{variableReading(data.key)}</span>
      </span>
      <span className="text-[14px] text-ink-soft">{typeTitles[data.value.type]}</span>
      <span className="truncate text-[17px]">{value}</span>
    </button>
  </li>
);

/** What each variable is worth now, in words. */
function useValueText(show: DeskView | undefined): (variable: VariableRecord) => string {
  const own = useReadings(ownId);
  const document = useMemo(() => ownDocumentOf(show?.records ?? []), [show]);
  return ({ data }) => {
    const key = variableReading(data.key);
    const reading = own?.[key];
    if (reading?.freshness !== 'fresh' || reading.value === undefined) return '…';
    return reading.value === '' ? 'empty' : readingText(document, key, reading.value).shown;
  };
}
