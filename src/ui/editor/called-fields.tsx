'use client';

import { changePageEdit, firstTest } from '../../core/page';
import { plainButton } from '../../core/show';
import { useReadingChoices } from '../fields';
import { formPartClass, Segmented } from '../kit';
import { ConditionFields } from './condition-fields';
import { useFacts } from './facts';
import { useVerbs } from './verbs';

const ways = [
  { value: 'nothing', title: 'Nothing' },
  { value: 'condition', title: 'Condition' },
  { value: 'otherwise', title: 'No other page' },
] as const;

const explained = {
  nothing: 'Panels open this page only by hand.',
  condition:
    'Panels that follow the show go to this page while the condition is true. If several pages are called, they go to the first in the list.',
  otherwise: 'Panels that follow the show go to this page when none of their other pages is called.',
} as const;

/** What calls this page: panels that follow go to it. */
export function CalledFields() {
  const verbs = useVerbs();
  const { page } = useFacts();
  const choices = useReadingChoices();
  const { calledBy } = page.data;
  const put = (to: typeof calledBy) =>
    void verbs.edit(changePageEdit(page, { calledBy: to }, 'What calls for the page'));
  const way = calledBy === undefined ? 'nothing' : 'when' in calledBy ? 'condition' : 'otherwise';
  const device = choices.devices.find(({ data }) => data.role === 'switcher') ?? choices.devices[0];
  const start = firstTest(choices, device?.id ?? '', plainButton);
  const choose = (to: typeof way) => {
    if (to === way) return;
    if (to === 'nothing') put(undefined);
    else if (to === 'otherwise') put({ otherwise: true });
    else if (start) put({ when: start });
  };
  return (
    <details className={formPartClass} open={calledBy !== undefined}>
      <summary>Called by</summary>
      <Segmented
        label="What calls this page"
        options={start ? ways : ways.filter(({ value }) => value !== 'condition')}
        value={way}
        onChoose={choose}
      />
      <p className="col-span-full text-[13px] text-ink-soft">{explained[way]}</p>
      {calledBy && 'when' in calledBy && (
        <ConditionFields condition={calledBy.when} data={plainButton} word="while" onChange={(when) => put({ when })} />
      )}
    </details>
  );
}
