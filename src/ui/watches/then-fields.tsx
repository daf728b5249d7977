'use client';

import { macrosOf } from '../../core/macro';
import { nameOfRecord, type ControlRecord, type DeskView, type WatchData } from '../../core/show';
import { MacroParams } from '../fields';
import { Select } from '../kit';
import { SendsFields } from './sends-fields';

interface Props {
  readonly show: DeskView;
  readonly data: WatchData;
  readonly onData: (what: string, to: WatchData) => void;
}

/** What a watch does: commands one after another, a macro, the press of a control. */
export function ThenFields({ show, data, onData }: Props) {
  return (
    <>
      <SendsFields
        sends={data.sends}
        label="Send"
        onSends={(sends) => onData('Commands', { ...data, sends: [...sends] })}
      />
      <MacroField show={show} data={data} onData={onData} />
      <PressField show={show} data={data} onData={onData} />
    </>
  );
}

function MacroField({ show, data, onData }: Props) {
  const macros = macrosOf(show.records);
  const { runs } = data;
  const macro = macros.find(({ id }) => id === runs?.macro);
  const choose = (id: string) => {
    const { runs: _, ...rest } = data;
    onData('Macro', id === '' ? rest : { ...rest, runs: { macro: id, params: {} } });
  };
  return (
    <>
      <Select
        label="Start the macro"
        value={runs?.macro ?? ''}
        placeholder="a macro that no longer exists"
        options={[{ value: '', title: 'none' }, ...macros.map((each) => ({ value: each.id, title: each.data.name }))]}
        onChoose={choose}
      />
      {runs && macro && (
        <MacroParams
          macro={macro}
          params={runs.params}
          values={{}}
          onParams={(params) => onData('Macro', { ...data, runs: { ...runs, params } })}
        />
      )}
    </>
  );
}

function PressField({ show, data, onData }: Props) {
  const pages = new Map(show.records.flatMap((each) => (each.kind === 'page' ? [[each.id, each.data.name]] : [])));
  const controls = show.records.filter(
    (each): each is ControlRecord => each.kind === 'control' && each.data.type === 'button',
  );
  return (
    <Select
      label="Press the control"
      value={data.presses ?? ''}
      placeholder="a control that no longer exists"
      options={[
        { value: '', title: 'none' },
        ...controls.map((each) => ({
          value: each.id,
          title: nameOfRecord(each),
          group: pages.get(each.data.page) ?? '?',
        })),
      ]}
      onChoose={(id) => {
        const { presses: _, ...rest } = data;
        onData('Pressed control', id === '' ? rest : { ...rest, presses: id });
      }}
    />
  );
}
