'use client';

import { askFor, askOffers, changeAsked, mostAsked, setResponse } from '../../core/page';
import type { ControlRecord } from '../../core/show';

import { Button, ChipsInput, NumberField, Select, TextField } from '../kit';
import { useFacts } from './facts';
import { useVerbs } from './verbs';

interface Props {
  readonly control: ControlRecord;
  readonly what: string;
}

/** What is asked on the panel before a tap is carried out: which of its parameters, and how the question reads. */
export function AskFields({ control, what }: Props) {
  const verbs = useVerbs();
  const { documentOf, tagOf, macroOf } = useFacts();
  const { asks } = control.data.responses;
  const offers = askOffers(control.data, { documentOf, tagOf, macroOf });
  const change = (to: (data: ControlRecord['data']) => ControlRecord['data']) => verbs.change(control, to, what);
  const items = asks?.items ?? [];
  return (
    <div className="flex flex-col gap-2 border-l-3 border-rule pl-2.5" role="group" aria-label="Asked first">
      {items.map((item) => (
        <div key={item.value} className="flex flex-col gap-2 border-l-3 border-rule pl-2.5">
          <TextField
            label="It asks"
            value={item.title}
            maxLength={40}
            onCommit={(title) => title !== '' && change((data) => changeAsked(data, item.value, { ...item, title }))}
          />
          <ChipsInput
            label="Allowed values"
            placeholder="whatever the command takes"
            values={(item.options ?? []).map(String)}
            onChange={(words) =>
              change((data) => changeAsked(data, item.value, withOptions(item, words, data.values[item.value])))
            }
          />
          <Button onClick={() => change((data) => changeAsked(data, item.value, undefined))}>
            Ask for {item.title} no more
          </Button>
        </div>
      ))}
      {offers.length > 0 && items.length < mostAsked && (
        <Select
          label={items.length === 0 ? 'Ask on the panel first' : 'Also ask'}
          value={undefined}
          placeholder={items.length === 0 ? 'nothing' : 'Add a question …'}
          options={offers.map(({ title, of }, n) => ({ value: String(n), title: `${title} (${of})` }))}
          onChoose={(n) => {
            const offer = offers[Number(n)];
            if (offer) change((data) => askFor(data, offer.about, offer.title, offer.now));
          }}
        />
      )}
      {asks && (
        <NumberField
          label="Skip if not answered after"
          unit="s"
          min={3}
          max={600}
          value={Math.round(asks.mostMs / 1000)}
          onCommit={(seconds) =>
            change((data) => setResponse(data, 'asks', { ...asks, mostMs: Math.round(seconds) * 1000 }))
          }
        />
      )}
    </div>
  );
}

type Item = NonNullable<ControlRecord['data']['responses']['asks']>['items'][number];

/** Numbers where the value is a number, texts else. */
function withOptions(
  { options: _, ...item }: Item,
  words: readonly string[],
  now: string | number | boolean | undefined,
): Item {
  const all = typeof now === 'number' ? words.map(Number).filter(Number.isFinite) : [...words];
  return all.length > 0 ? { ...item, options: all } : item;
}
