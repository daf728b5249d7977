'use client';

import { indexesOf, memberKey } from '../../core/driver';
import { inputNames, mostPreRoll, type DeskView, type KeyWhen } from '../../core/show';
import { rateOf, rateOfShow, msOfFrame } from '../../core/macro';
import { hasKeys } from '../../core/watch';
import { useRigFacts } from '../fields';
import { Checkbox, NumberField, Select } from '../kit';
import { SendsFields } from './sends-fields';

interface Props {
  readonly show: DeskView;
  readonly when: KeyWhen;
  readonly onWhen: (to: KeyWhen) => void;
}

/** A key of a switcher that brings graphics with it: which one, how long before it they begin, and what takes them out again. */
export function KeyFields({ show, when, onWhen }: Props) {
  const { devices, documentOf, readings } = useRigFacts();
  const switchers = devices.filter(({ id }) => hasKeys(documentOf(id)));
  const { preRoll } = when;
  const ms = Math.round(msOfFrame(preRoll, rateOf(rateOfShow(show.records))));
  return (
    <>
      <div className="grid grid-cols-2 items-start gap-3">
        <Select
          label="Switcher"
          value={when.switcher}
          placeholder="a switcher that is no longer there"
          options={switchers.map(({ id, data }) => ({ value: id, title: `${data.tag} ${data.name}` }))}
          onChoose={(switcher) => {
            const { input: _, ...rest } = when;
            onWhen({ ...rest, switcher, key: 1 });
          }}
        />
        <Select
          label="Key"
          value={String(when.key)}
          placeholder={`Key ${when.key}`}
          options={numbersOf(documentOf(when.switcher), 'key[].on').map((n) => ({
            value: String(n),
            title: `Key ${n}`,
          }))}
          onChoose={(key) => onWhen({ ...when, key: Number(key) })}
        />
        <InputField when={when} names={readings.get(when.switcher)} onWhen={onWhen} />
        <NumberField
          label="Pre-roll"
          help={
            preRoll === 0
              ? 'The graphics begin together with the key.'
              : `The graphics begin ${ms} ms before the key. A key that this program switches waits for them.`
          }
          unit="frames"
          min={0}
          max={mostPreRoll}
          value={preRoll}
          onCommit={(frames) => onWhen({ ...when, preRoll: Math.round(frames) })}
        />
      </div>
      <OutFields when={when} onWhen={onWhen} />
    </>
  );
}

const numbersOf = (document: ReturnType<ReturnType<typeof useRigFacts>['documentOf']>, family: string): number[] => {
  const index = document?.readings[family]?.index;
  return index ? indexesOf(index) : [];
};

/** Whether it matters what the key shows. */
function InputField({
  when,
  names,
  onWhen,
}: Pick<Props, 'when' | 'onWhen'> & {
  readonly names: Readonly<Record<string, { readonly value?: unknown }>> | undefined;
}) {
  const { documentOf, deviceOf } = useRigFacts();
  const index = documentOf(when.switcher)?.readings[inputNames]?.index;
  const inputs = index ? indexesOf(index, deviceOf(when.switcher)?.data.options) : [];
  return (
    <Select
      label="Only while the key shows"
      value={when.input === undefined ? '' : String(when.input)}
      placeholder={`Input ${when.input ?? ''}`}
      options={[
        { value: '', title: 'any input' },
        ...inputs.map((n) => ({
          value: String(n),
          title: `${n} ${String(names?.[memberKey(inputNames, n)]?.value ?? '')}`.trim(),
        })),
      ]}
      onChoose={(input) => {
        const { input: _, ...rest } = when;
        onWhen(input === '' ? rest : { ...rest, input: Number(input) });
      }}
    />
  );
}

/** What takes the graphics out again, and when. */
function OutFields({ when, onWhen }: Pick<Props, 'when' | 'onWhen'>) {
  const { out } = when;
  const put = (to: Partial<NonNullable<KeyWhen['out']>>) => out && onWhen({ ...when, out: { ...out, ...to } });
  return (
    <>
      <Checkbox
        label="Take the graphics out again"
        checked={out !== undefined}
        onChange={(on) => {
          const { out: _, ...rest } = when;
          onWhen(on ? { ...rest, out: { sends: [], withKey: true } } : rest);
        }}
      />
      {out && (
        <div className="flex flex-col gap-2.5 border-l-3 border-rule pl-2.5" role="group" aria-label="Out">
          <Checkbox label="When the key goes off" checked={out.withKey} onChange={(withKey) => put({ withKey })} />
          <Checkbox
            label="After a time"
            checked={out.afterMs !== undefined}
            onChange={(on) => {
              const { afterMs: _, ...rest } = out;
              onWhen({ ...when, out: on ? { ...rest, afterMs: 6000 } : rest });
            }}
          />
          {out.afterMs !== undefined && (
            <NumberField
              label="Out after"
              unit="s"
              min={0.1}
              max={3600}
              step={0.1}
              value={out.afterMs / 1000}
              onCommit={(seconds) => put({ afterMs: Math.round(seconds * 1000) })}
            />
          )}
          <SendsFields
            sends={out.sends}
            label="Command to take them out"
            onSends={(sends) => put({ sends: [...sends] })}
          />
        </div>
      )}
    </>
  );
}
