'use client';

import { rateOfShow } from '../../core/macro';
import { frameRateSchema, type DeskView, type FrameRate, type MacroData, type MacroRecord } from '../../core/show';
import { useDesk } from '../desk';
import { OutsidePart } from '../outside';

import { Button, CommitInput, formPartClass, optionsFrom, Select, TextField } from '../kit';

interface Props {
  readonly macro: MacroRecord;
  readonly show: DeskView;
  readonly onChange: (to: (data: MacroData) => MacroData, what: string) => void;
}

/** What holds for the whole macro. */
export function MacroPane({ macro, show, onChange }: Props) {
  const { data } = macro;
  const desk = useDesk();
  const record = show.records.find(({ kind }) => kind === 'show');
  const setRate = (rate: FrameRate) => {
    if (record?.kind !== 'show') return;
    const to = { ...record, data: { ...record.data, rate } };
    void desk.edit({ title: `Frames of the show: ${rate} a second`, changes: [{ op: 'update', from: record, to }] });
  };
  return (
    <section className={formPartClass} aria-label="The whole macro">
      <h2 className="font-semibold">The whole macro</h2>
      <Select
        label="If started again while running"
        value={data.again}
        options={optionsFrom({
          ignore: 'ignore the second start',
          restart: 'restart from the beginning',
          queue: 'run again afterwards',
        })}
        onChoose={(again) => onChange((to) => ({ ...to, again }), 'Second start')}
      />
      <TextField
        label="Group"
        help="Only one macro of a group runs: starting one stops the others. Leave it empty for none."
        value={data.group ?? ''}
        maxLength={40}
        onCommit={(group) =>
          onChange(({ group: _, ...rest }) => (group.trim() === '' ? rest : { ...rest, group: group.trim() }), 'Group')
        }
      />
      <Select
        label="If a device it needs goes down"
        value={data.whenDown}
        options={optionsFrom({ 'go on': 'go on', stop: 'stop', 'way out': 'take the way out' })}
        onChoose={(whenDown) => onChange((to) => ({ ...to, whenDown }), 'Way on')}
      />
      <Select
        label="Frames per second, of the whole show"
        value={rateOfShow(show.records)}
        options={frameRateSchema.options.map((rate) => ({ value: rate, title: rate }))}
        onChoose={setRate}
      />
      <label>
        What it is for
        <CommitInput
          value={data.note}
          maxLength={2000}
          onCommit={(note) => onChange((to) => ({ ...to, note }), 'Note')}
        />
      </label>
      <OutsidePart records={show.records} of={macro} />
      <h2 className="font-semibold">Parameters</h2>
      {data.params.map((param, n) => {
        const set = (to: Partial<typeof param>) =>
          onChange(
            (each) => ({ ...each, params: each.params.map((one, k) => (k === n ? { ...one, ...to } : one)) }),
            'Parameter',
          );
        return (
          <div key={param.name} className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
            <label>
              Parameter
              <CommitInput
                value={param.title}
                maxLength={40}
                onCommit={(title) => title.trim() !== '' && set({ title })}
              />
            </label>
            <label>
              usually
              <CommitInput
                value={String(param.value)}
                onCommit={(text) =>
                  set({ value: text.trim() !== '' && Number.isFinite(Number(text)) ? Number(text) : text })
                }
              />
            </label>
          </div>
        );
      })}
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button
          disabled={data.params.length >= 12}
          onClick={() =>
            onChange((to) => {
              const free = Array.from({ length: 13 }, (_, n) => `p${n + 1}`).find(
                (name) => !to.params.some((each) => each.name === name),
              );
              return free
                ? {
                    ...to,
                    params: [...to.params, { name: free, title: `Parameter ${to.params.length + 1}`, value: 1 }],
                  }
                : to;
            }, 'Add a parameter')
          }
        >
          Add a parameter
        </Button>
        {data.params.length > 0 && (
          <Button onClick={() => onChange((to) => ({ ...to, params: to.params.slice(0, -1) }), 'Remove a parameter')}>
            Remove the last
          </Button>
        )}
      </div>
    </section>
  );
}
