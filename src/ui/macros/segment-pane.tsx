'use client';

import { ArrowLeft, ArrowRight, X } from 'lucide-react';
import type { MacroProblem } from '../../core/check';
import { firstTest, shownCondition, tiedCondition } from '../../core/page';
import { valuesOf } from '../../core/macro';
import {
  plainButton,
  type Condition,
  type ControlRecord,
  type MacroRecord,
  type MacroSegment,
  type WayOn,
} from '../../core/show';
import { ConditionFields } from '../editor';
import { newId } from '../parts';
import { Button, CommitInput, formPartClass, optionsFrom, Select } from '../kit';
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
  readonly onClose: () => void;
}

const waysOn: Readonly<Record<WayOn, string>> = { 'go on': 'go on', stop: 'stop', 'way out': 'take the way out' };

/** One segment: what it waits for, whether it is played at all, how often, its place in the macro, and its markers. */
export function SegmentPane({ segment, index, count, macro, problems, onChange, onMove, onRemove, onClose }: Props) {
  const start = useStartCondition(macro);
  const { waits, onlyIf, markers = [] } = segment;
  const data = asControl(macro);
  const setMarkers = (to: NonNullable<MacroSegment['markers']>, what: string) =>
    onChange(({ markers: _, ...each }) => (to.length > 0 ? { ...each, markers: to } : each), what);
  return (
    <section className={formPartClass} aria-label="Segment">
      <div className="flex items-center justify-between gap-2">
        <h2 className="font-semibold">
          Segment {index + 1} of {count}
        </h2>
        <Button kind="ghost" aria-label="Close segment" onClick={onClose}>
          <X size={16} aria-hidden />
        </Button>
      </div>
      <label>
        Name
        <CommitInput
          value={segment.name}
          maxLength={40}
          placeholder={`segment ${index + 1}`}
          onCommit={(name) => onChange((to) => ({ ...to, name }), 'Name a segment')}
        />
      </label>
      <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
        <Select
          label="Kind"
          title="A reset begins a macro; the way out ends it, also when it is stopped before."
          value={segment.part ?? 'part'}
          options={optionsFrom({ part: 'a part', reset: 'the reset', 'way out': 'the way out' })}
          onChoose={(part) =>
            onChange(({ part: _, ...to }) => (part === 'part' ? to : { ...to, part }), 'Kind of a segment')
          }
        />
        <label>
          Times
          <CommitInput
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
        </label>
      </div>
      <label className="col-span-full flex flex-row items-center gap-2">
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
        Wait before it starts
      </label>
      {waits && (
        <WaitFields
          waits={waits}
          data={data}
          onWaits={(to) => onChange((each) => ({ ...each, waits: to }), 'Wait of a segment')}
        />
      )}
      <label className="col-span-full flex flex-row items-center gap-2">
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
        Skip it unless a condition holds
      </label>
      {onlyIf && (
        <ConditionFields
          condition={shownCondition(onlyIf, data)}
          data={data}
          word="only if"
          onChange={(to) =>
            onChange((each) => ({ ...each, onlyIf: tiedCondition(to, data) }), 'Condition of a segment')
          }
        />
      )}
      <h2 className="font-semibold">Markers</h2>
      {markers.map((marker) => (
        <MarkerFields
          key={marker.id}
          marker={marker}
          onChange={(to) =>
            setMarkers(
              markers.map((each) => (each.id === to.id ? to : each)),
              'Change a marker',
            )
          }
          onRemove={() =>
            setMarkers(
              markers.filter(({ id }) => id !== marker.id),
              'Remove a marker',
            )
          }
        />
      ))}
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button
          disabled={markers.length >= 12}
          onClick={() => setMarkers([...markers, { id: newId('mark'), name: 'Marker', at: 0 }], 'Add a marker')}
        >
          Add marker
        </Button>
      </div>
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button aria-label="Move segment earlier" disabled={index === 0} onClick={() => onMove(-1)}>
          <ArrowLeft size={16} aria-hidden /> Earlier
        </Button>
        <Button aria-label="Move segment later" disabled={index === count - 1} onClick={() => onMove(1)}>
          Later <ArrowRight size={16} aria-hidden />
        </Button>
        <Button disabled={count === 1} onClick={onRemove}>
          Remove segment
        </Button>
      </div>
      {problems.map(({ message }) => (
        <p key={message} className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
          {message}
        </p>
      ))}
    </section>
  );
}

type Marker = NonNullable<MacroSegment['markers']>[number];

interface MarkerProps {
  readonly marker: Marker;
  readonly onChange: (to: Marker) => void;
  readonly onRemove: () => void;
}

/** A time worth seeing: its name, when it is, and how long it lasts where it does. */
const MarkerFields = ({ marker, onChange, onRemove }: MarkerProps) => (
  <div
    role="group"
    aria-label={`Marker ${marker.name}`}
    className="grid grid-cols-[1fr_1fr_auto] items-end gap-2 border-l-2 border-rule pl-2"
  >
    <label className="col-span-2">
      Name
      <CommitInput
        value={marker.name}
        maxLength={40}
        onCommit={(name) => name.trim() !== '' && onChange({ ...marker, name: name.trim() })}
      />
    </label>
    <Button kind="ghost" aria-label={`Remove marker ${marker.name}`} onClick={onRemove}>
      <X size={16} aria-hidden />
    </Button>
    <label>
      At, ms
      <CommitInput
        type="number"
        value={String(marker.at)}
        onCommit={(text) => {
          const at = Number(text);
          if (text.trim() !== '' && at >= -600_000 && at <= 3_600_000) onChange({ ...marker, at });
        }}
      />
    </label>
    <label>
      For, ms
      <CommitInput
        type="number"
        value={marker.forMs === undefined ? '' : String(marker.forMs)}
        onCommit={(text) => {
          const { forMs: _, ...rest } = marker;
          const forMs = Math.round(Number(text));
          if (text.trim() === '') onChange(rest);
          else if (forMs >= 1 && forMs <= 3_600_000) onChange({ ...rest, forMs });
        }}
      />
    </label>
  </div>
);

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
        word="wait until"
        onChange={(to) => onWaits({ ...waits, until: tiedCondition(to, data) })}
      />
      <label>
        For at most, s
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
      </label>
      <Select
        label="Then"
        value={waits.otherwise}
        options={optionsFrom(waysOn)}
        onChoose={(otherwise) => onWaits({ ...waits, otherwise })}
      />
    </>
  );
}

/** Conditions are edited as a control's, whose values are the macro's parameters. */
const asControl = ({ data }: MacroRecord): ControlRecord['data'] => ({ ...plainButton, values: valuesOf(data, {}) });

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
