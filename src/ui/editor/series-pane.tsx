'use client';

import { groupId, seriesOver, type SeriesDraft } from '../../core/page';

import { useEditorStore } from './editor-store';
import { useFacts } from './facts';
import { useSeries } from './use-series';
import { textOf } from '../page';
import { Button, optionsFrom, Select } from '../kit';
import { useVerbs } from './verbs';

/** Setting up a series: what counts, from where to where, over which cells; what it will be is seen before it is made. */
export function SeriesPane() {
  const store = useEditorStore();
  const verbs = useVerbs();
  const { page, controls } = useFacts();
  const series = useSeries(page, controls);
  if (!series) return null;
  const { draft, control, countables, plan, members, faceOf, groupsFor } = series;
  const set = (to: Partial<SeriesDraft>) => store.setState({ series: { ...draft, ...to } });
  const countable = countables.find(({ param }) => param === draft.param);
  const listable = countable?.definition.listFrom !== undefined || countable?.definition.value.type === 'choice';
  const groups = groupsFor(countable?.definition.listFrom);
  const countsNumbers = typeof countable?.now === 'number';
  const deal = () => {
    if (!plan.ok) return verbs.say(plan.error, true);
    void verbs.edit(plan.value.edit);
    store.setState({ series: undefined, ids: new Set(plan.value.members.map(({ id }) => id)) });
  };
  const over = (name: 'cols' | 'rows', text: string) =>
    set({ over: { ...draft.over, [name]: Math.max(control.data[name], Math.min(64, Math.round(Number(text)) || 1)) } });
  return (
    <form
      className="form"
      onSubmit={(event) => {
        event.preventDefault();
        deal();
      }}
    >
      <h2>Series from “{textOf(faceOf(control.data))}”</h2>
      <p className="text-ink-soft">Drag over the cells to fill. Label, response and lamp count up together.</p>
      <Select
        label="What counts"
        value={draft.param}
        options={countables.map(({ param, title }) => ({ value: param, title }))}
        onChoose={(param) => {
          const to = countables.find((each) => each.param === param);
          if (to) set(seriesOver(to));
        }}
      />
      {listable && countsNumbers && (
        <Select
          label="Over"
          value={draft.how}
          options={optionsFrom({ list: 'what the device lists', count: 'numbers' })}
          onChoose={(how) => set({ how })}
        />
      )}
      {listable && draft.how === 'list' && groups.length > 0 && (
        <Select
          label="Only"
          value={groupId(draft.among)}
          options={[
            { value: '', title: 'all of them' },
            ...groups.map((group) => ({ value: groupId(group), title: String(group.is) })),
          ]}
          onChoose={(id) => set({ among: groups.find((group) => groupId(group) === id) })}
        />
      )}
      {draft.how === 'count' && (
        <div className="grid grid-cols-[repeat(3,1fr)] items-end gap-2 [&_input]:w-full [&_input]:min-w-0">
          <label>
            From
            <input type="number" value={draft.from} onChange={(event) => set({ from: Number(event.target.value) })} />
          </label>
          <label>
            To
            <input
              type="number"
              value={draft.to ?? ''}
              placeholder="as drawn"
              onChange={(event) => set({ to: event.target.value === '' ? undefined : Number(event.target.value) })}
            />
          </label>
          <label>
            Step
            <input type="number" value={draft.step} onChange={(event) => set({ step: Number(event.target.value) })} />
          </label>
        </div>
      )}
      <div className="grid grid-cols-[repeat(3,1fr)] items-end gap-2 [&_input]:w-full [&_input]:min-w-0">
        <label>
          Cells wide
          <input
            type="number"
            min={1}
            max={64}
            value={draft.over.cols}
            onChange={(e) => over('cols', e.target.value)}
          />
        </label>
        <label>
          Cells high
          <input
            type="number"
            min={1}
            max={64}
            value={draft.over.rows}
            onChange={(e) => over('rows', e.target.value)}
          />
        </label>
        <Select
          label="Fill"
          value={draft.by}
          options={optionsFrom({ rows: 'in rows', columns: 'in columns' })}
          onChoose={(by) => set({ by })}
        />
      </div>
      {plan.ok ? (
        <p role="status">
          {members.length} controls:{' '}
          {members
            .slice(0, 3)
            .map(({ data }) => textOf(faceOf(data)))
            .join(', ')}
          {members.length > 3 && ` … ${textOf(faceOf(members.at(-1)?.data ?? control.data))}`}.
          {plan.value.left > 0 && ` ${plan.value.left} more have no cell.`}
        </p>
      ) : (
        <p role="status" className="text-ink-soft">
          {plan.error}
        </p>
      )}
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button type="submit" kind="strong" disabled={!plan.ok}>
          Deal {plan.ok ? members.length : ''}
        </Button>
        <Button onClick={() => store.setState({ series: undefined })}>Cancel</Button>
      </div>
    </form>
  );
}
