'use client';

import type { MacroProblem } from '../../core/check';
import { conditionText, firstTest, shownCondition, tiedCondition } from '../../core/page';
import { valuesOf } from '../../core/macro';
import type { Condition, ControlRecord, MacroRecord, MacroSegment, WayOn } from '../../core/show';
import { ConditionFields } from '../editor';
import { Button } from '../parts';
import { CommitInput, optionsFrom, Select } from '../kit';
import { useRigFacts } from '../fields';

interface Props {
  readonly segment: MacroSegment;
  readonly index: number;
  readonly count: number;
  readonly macro: MacroRecord;
  readonly problems: readonly MacroProblem[];
  readonly onChange: (to: (segment: MacroSegment) => MacroSegment, what: string) => void;
  readonly onMove: (by: -1 | 1) => void;
  readonly onRemove: () => void;
}

const waysOn: Readonly<Record<WayOn, string>> = { 'go on': 'go on', stop: 'stop', 'way out': 'take the way out' };

/** What stands before a segment: what it waits for, whether it is played at all, how often, and whether it is a reset or a way out. */
export function SegmentHead({ segment, index, count, macro, problems, onChange, onMove, onRemove }: Props) {
  const start = useStartCondition(macro);
  const { waits, onlyIf } = segment;
  const data = asControl(macro);
  const facts = useRigFacts();
  return (
    <div className="segment-head">
      <div className="segment-line">
        <span className="segment-n mono">{index + 1}</span>
        <CommitInput
          aria-label={`Name of segment ${index + 1}`}
          value={segment.name}
          maxLength={40}
          placeholder={`segment ${index + 1}`}
          onCommit={(name) => onChange((to) => ({ ...to, name }), 'Name a segment')}
        />
        <Select
          label={`Kind of segment ${index + 1}`}
          labelAt="hidden"
          title="A reset begins a macro; the way out ends it, also when it is stopped before."
          value={segment.part ?? 'part'}
          options={optionsFrom({ part: 'a part', reset: 'the reset', 'way out': 'the way out' })}
          onChoose={(part) =>
            onChange(({ part: _, ...to }) => (part === 'part' ? to : { ...to, part }), 'Kind of a segment')
          }
        />
        <label>
          <CommitInput
            aria-label={`Times of segment ${index + 1}`}
            type="number"
            min={1}
            max={1000}
            value={String(segment.times ?? 1)}
            onCommit={(text) => {
              const times = Number(text);
              if (Number.isInteger(times) && times >= 1 && times <= 1000)
                onChange(({ times: _, ...to }) => (times === 1 ? to : { ...to, times }), 'Repeat a segment');
            }}
          />
          ×
        </label>
        <label className="form-check">
          <input
            type="checkbox"
            checked={waits !== undefined}
            onChange={(event) =>
              onChange(
                ({ waits: _, ...to }) =>
                  event.target.checked ? { ...to, waits: { until: start, mostMs: 10_000, otherwise: 'stop' } } : to,
                'Wait of a segment',
              )
            }
          />
          waits
        </label>
        <label className="form-check">
          <input
            type="checkbox"
            checked={onlyIf !== undefined}
            onChange={(event) =>
              onChange(
                ({ onlyIf: _, ...to }) => (event.target.checked ? { ...to, onlyIf: start } : to),
                'Condition of a segment',
              )
            }
          />
          only if
        </label>
        <span className="segment-acts">
          <Button aria-label={`Segment ${index + 1} earlier`} disabled={index === 0} onClick={() => onMove(-1)}>
            ↑
          </Button>
          <Button aria-label={`Segment ${index + 1} later`} disabled={index === count - 1} onClick={() => onMove(1)}>
            ↓
          </Button>
          <Button disabled={count === 1} onClick={onRemove} aria-label={`Remove segment ${index + 1}`}>
            ✕
          </Button>
        </span>
      </div>
      {onlyIf && (
        <details className="segment-when">
          <summary>only if {conditionText(onlyIf, data.values, facts)}</summary>
          <ConditionFields
            condition={shownCondition(onlyIf, data)}
            data={data}
            word="only if"
            onChange={(to) =>
              onChange((each) => ({ ...each, onlyIf: tiedCondition(to, data) }), 'Condition of a segment')
            }
          />
        </details>
      )}
      {waits && (
        <details className="segment-when">
          <summary>
            waits until {conditionText(waits.until, data.values, facts)}, for {waits.mostMs / 1000} s at most, then{' '}
            {waits.otherwise === 'go on' ? 'goes on' : waits.otherwise === 'stop' ? 'stops' : 'takes the way out'}
          </summary>
          <WaitFields
            waits={waits}
            data={data}
            onWaits={(to) => onChange((each) => ({ ...each, waits: to }), 'Wait of a segment')}
          />
        </details>
      )}
      {problems.map(({ message }) => (
        <p key={message} className="form-error">
          {message}
        </p>
      ))}
    </div>
  );
}

interface WaitProps {
  readonly waits: NonNullable<MacroSegment['waits']>;
  readonly data: ControlRecord['data'];
  readonly onWaits: (to: NonNullable<MacroSegment['waits']>) => void;
}

/** What it waits for, how long, and what it does when that does not come. */
function WaitFields({ waits, data, onWaits }: WaitProps) {
  return (
    <>
      <ConditionFields
        condition={shownCondition(waits.until, data)}
        data={data}
        word="waits until"
        onChange={(to) => onWaits({ ...waits, until: tiedCondition(to, data) })}
      />
      <div className="segment-line">
        <label>
          for
          <CommitInput
            type="number"
            min={0.1}
            max={3600}
            step="any"
            value={String(waits.mostMs / 1000)}
            onCommit={(text) => {
              const mostMs = Math.round(Number(text) * 1000);
              if (mostMs >= 1 && mostMs <= 3_600_000) onWaits({ ...waits, mostMs });
            }}
          />
          s at most, then
        </label>
        <Select
          label="When it does not come"
          labelAt="hidden"
          value={waits.otherwise}
          options={optionsFrom(waysOn)}
          onChoose={(otherwise) => onWaits({ ...waits, otherwise })}
        />
      </div>
    </>
  );
}

/** Conditions are edited as a control's, whose values are the macro's parameters. */
function asControl({ data }: MacroRecord): ControlRecord['data'] {
  return {
    page: 'none',
    type: 'button',
    col: 0,
    row: 0,
    cols: 1,
    rows: 1,
    label: [],
    values: valuesOf(data, {}),
    responses: { tap: [] },
    lamps: [],
  };
}

function useStartCondition(macro: MacroRecord): Condition {
  const { devices, documentOf, readings } = useRigFacts();
  const used = macro.data.segments.flatMap(({ steps }) =>
    steps.flatMap(({ does }) => (does.is === 'send' ? [does.send.device] : [])),
  );
  const device = used[0] ?? devices[0]?.id ?? 'none';
  return (
    firstTest({ devices, documentOf, readings }, device, asControl(macro)) ?? {
      op: 'equals',
      reading: { device, key: 'none' },
      to: true,
    }
  );
}
