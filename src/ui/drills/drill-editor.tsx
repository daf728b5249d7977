'use client';

import type { StatusView } from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { drillFaults, drillFaultWords, drillSubject, type Drill, type DrillStep } from '../../core/show';
import { Button, NumberField, Select, TextField } from '../kit';

interface Props {
  readonly drill: Drill;
  readonly status: StatusView | undefined;
  readonly onChange: (to: Drill, what: string) => void;
  readonly onRemove: () => void;
}

interface Subject {
  readonly id: string;
  readonly title: string;
}

/** The faults of a drill, in the order of their times. */
export function DrillEditor({ drill, status, onChange, onRemove }: Props) {
  const devices = Object.entries(status?.devices ?? {})
    .sort(([, a], [, b]) => inNumberOrder(a.tag, b.tag))
    .map(([id, { tag, name }]): Subject => ({ id, title: `${tag} ${name}` }));
  const panels = (status?.panels ?? []).map(({ id, name }): Subject => ({ id, title: name }));
  const subjectsOf = (fault: DrillStep['fault']): readonly Subject[] => {
    const kind = drillSubject(fault);
    return kind === 'device' ? devices : kind === 'panel' ? panels : [];
  };
  const put = (n: number, to: Partial<DrillStep>) =>
    onChange({ ...drill, steps: drill.steps.map((step, at) => (at === n ? { ...step, ...to } : step)) }, 'Fault');
  const add = () => {
    const last = drill.steps.at(-1)?.afterSeconds ?? 0;
    const step: DrillStep = {
      fault: 'off',
      subject: devices[0]?.id ?? '',
      afterSeconds: drill.steps.length === 0 ? 5 : last + 30,
    };
    onChange({ ...drill, steps: [...drill.steps, step] }, 'New fault');
  };
  return (
    <div className="grid gap-2.5 pt-2.5 pl-4">
      <div className="flex flex-wrap items-end gap-2.5">
        <TextField
          label="Name"
          value={drill.name}
          onCommit={(name) => name.trim() && onChange({ ...drill, name: name.trim() }, 'Name')}
        />
        <Button kind="ghost" onClick={onRemove}>
          Remove drill
        </Button>
      </div>
      <ol aria-label={`Faults of ${drill.name}`} className="grid gap-2">
        {drill.steps.map((step, n) => {
          const subjects = subjectsOf(step.fault);
          return (
            <li key={n} className="flex flex-wrap items-end gap-2.5">
              <NumberField
                label="After"
                unit="s"
                min={0}
                max={3600}
                value={step.afterSeconds}
                className="[&_input]:w-20"
                onCommit={(afterSeconds) => put(n, { afterSeconds })}
              />
              <Select
                label="Fault"
                value={step.fault}
                options={drillFaults.map((fault) => ({ value: fault, title: drillFaultWords[fault] }))}
                onChoose={(fault) => {
                  const isSame = drillSubject(fault) === drillSubject(step.fault);
                  put(n, { fault, subject: isSame ? step.subject : (subjectsOf(fault)[0]?.id ?? '') });
                }}
              />
              {subjects.length > 0 && (
                <Select
                  label={drillSubject(step.fault) === 'panel' ? 'Panel' : 'Device'}
                  value={step.subject}
                  options={subjects.map(({ id, title }) => ({ value: id, title }))}
                  onChoose={(subject) => put(n, { subject })}
                />
              )}
              <Button
                kind="ghost"
                aria-label={`Remove fault ${n + 1}`}
                onClick={() => onChange({ ...drill, steps: drill.steps.toSpliced(n, 1) }, 'Remove a fault')}
              >
                Remove
              </Button>
            </li>
          );
        })}
      </ol>
      <p>
        <Button disabled={drill.steps.length >= 40} onClick={add}>
          Add fault
        </Button>
      </p>
    </div>
  );
}
