'use client';

import { useState } from 'react';
import { labelNow } from '../../core/face';
import { controlParts, hasPart, setResponse } from '../../core/page';
import type { ControlRecord } from '../../core/show';
import { Button, Fold, optionsFrom, Select } from '../kit';
import { useFacts } from './facts';
import { guardWords } from './guard-words';
import { kindWords } from './kind-fields';
import { LabelInput } from './label-input';
import { givePart } from './part-clip';
import { useVerbs } from './verbs';

/** What several controls have alike: one label, one guard, or a part of one of them for all. */
export function AlikeFields({ controls }: { readonly controls: readonly ControlRecord[] }) {
  const verbs = useVerbs();
  const { readingNow, documentOf } = useFacts();
  const labelOf = (data: ControlRecord['data']) =>
    labelNow(data, readingNow, documentOf)
      .map(({ text }) => text)
      .join('')
      .trim() || kindWords[data.type];
  const [chosen, setChosen] = useState<string>();
  const model = controls.find(({ id }) => id === chosen) ?? controls[0];
  if (!model) return null;
  const others = controls.filter(({ id }) => id !== model.id);
  const buttons = controls.filter(({ data }) => data.type === 'button');
  const guards = new Set(buttons.map(({ data }) => data.responses.guard ?? 'risky'));
  const labels = new Set(controls.map(({ data }) => JSON.stringify(data.label)));
  const name = labelOf(model.data);
  return (
    <Fold name="Alike">
      <LabelInput
        id="label-of-all"
        title={`Label for all ${controls.length}`}
        label={labels.size === 1 ? model.data.label : []}
        values={model.data.values}
        placeholder={labels.size === 1 ? 'no label' : 'they differ'}
        onLabel={(label) =>
          verbs.changeMany(controls, (data) => ({ ...data, label }), `Label of ${controls.length} controls`)
        }
      />
      {buttons.length > 0 && (
        <Select
          label="Confirm before sending"
          value={guards.size === 1 ? [...guards][0] : undefined}
          placeholder="they differ"
          options={optionsFrom(guardWords)}
          onChoose={(to) =>
            verbs.changeMany(
              buttons,
              (data) => setResponse(data, 'guard', to === 'risky' ? undefined : to),
              `Confirmation of ${buttons.length} controls`,
            )
          }
        />
      )}
      <Select
        label="Match the others to"
        value={model.id}
        options={controls.map(({ id, data }) => ({
          value: id,
          title: `${labelOf(data)}, column ${data.col + 1}, row ${data.row + 1}`,
        }))}
        onChoose={setChosen}
      />
      <div className="flex flex-wrap gap-2" role="group" aria-label={`Like ${name}`}>
        {controlParts.map((part) => (
          <Button
            key={part}
            disabled={!hasPart(model.data, part)}
            onClick={() => givePart(verbs, others, model.data, part, name)}
          >
            Same {part}
          </Button>
        ))}
      </div>
    </Fold>
  );
}
