'use client';

import { macrosOf } from '../../core/macro';
import { sendsOf, setHeld, type ResponseGesture } from '../../core/page';
import { isHeld, type ControlRecord } from '../../core/show';
import { whyNotWith } from '../../core/press';
import { MacroParams } from '../fields';
import { Fold, Select } from '../kit';
import { useFacts } from './facts';
import { GestureFields } from './gesture-fields';
import { GestureSends } from './gesture-sends';
import { useVerbs } from './verbs';

interface Props {
  readonly control: ControlRecord;
  readonly name: string;
}

/** What a control sends: one command or several, to one device or several, with waits between. */
export function ResponseFields({ control, name }: Props) {
  const verbs = useVerbs();
  const held = isHeld(control.data);
  const gesture: ResponseGesture = held ? 'held' : 'tap';
  const sends = sendsOf(control.data, gesture);
  const other = sendsOf(control.data, held ? 'tap' : 'held').length;
  const what = `Response of ${name}`;
  return (
    <Fold
      name="Response"
      aside={
        sends.length > 0 && (
          <Select
            label="When it sends"
            labelAt="hidden"
            value={gesture}
            options={[
              { value: 'tap', title: 'when tapped' },
              {
                value: 'held',
                title: 'while held',
                disabled: !held && whyNotWith(control.data.responses, 'held') !== undefined,
              },
            ]}
            onChoose={(to) => verbs.change(control, (data) => setHeld(data, to === 'held'), what)}
          />
        )
      }
    >
      {!held && sends.length > 0 && whyNotWith(control.data.responses, 'held') && (
        <p className="col-span-full my-2 text-[13px] text-ink-soft">
          <b>While held:</b> not available. {whyNotWith(control.data.responses, 'held')}
        </p>
      )}
      <GestureSends control={control} gesture={gesture} what={what} title="It sends" />
      <MacroField control={control} what={what} />
      <GestureFields control={control} what={what} />
      {other > 0 && (
        <p className="col-span-full text-[13px] text-ink-soft">
          It also sends {other} {held ? 'when touched, before these' : 'while held, after these'}.
        </p>
      )}
    </Fold>
  );
}

/** The macro that a tap begins besides. */
function MacroField({ control, what }: { readonly control: ControlRecord; readonly what: string }) {
  const verbs = useVerbs();
  const { show } = useFacts();
  const macros = macrosOf(show.records);
  const { runs } = control.data.responses;
  if (macros.length === 0 && !runs) return null;
  const macro = macros.find(({ id }) => id === runs?.macro);
  const set = (to: ControlRecord['data']['responses']['runs']) =>
    verbs.change(
      control,
      ({ responses: { runs: _, ...others }, ...data }) => ({
        ...data,
        responses: to ? { ...others, runs: to } : others,
      }),
      what,
    );
  return (
    <>
      <Select
        label="Tap starts the macro"
        value={runs?.macro ?? ''}
        options={[
          { value: '', title: 'none' },
          ...(runs && !macro ? [{ value: runs.macro, title: 'a macro that no longer exists' }] : []),
          ...macros.map(({ id, data }) => ({ value: id, title: data.name })),
        ]}
        onChoose={(id) => set(id === '' ? undefined : { macro: id, params: {} })}
      />
      {runs && macro && (
        <MacroParams
          macro={macro}
          params={runs.params}
          values={control.data.values}
          onParams={(params) => set({ ...runs, params })}
        />
      )}
    </>
  );
}
