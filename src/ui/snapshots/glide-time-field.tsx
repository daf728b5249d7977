'use client';

import { useState } from 'react';
import { msOfFrame, nearestFrame, rateOf, rateOfShow } from '../../core/macro';
import { longestGlideMs, type DeskView, type GlideTime } from '../../core/show';
import { NumberField, optionsFrom, Select } from '../kit';

interface Props {
  readonly show: DeskView;
  readonly label: string;
  readonly labelAt?: 'before';
  readonly help?: string;
  /** Absent: a cut. */
  readonly glide: GlideTime | undefined;
  readonly onChange: (to: Pick<GlideTime, 'ms' | 'in'>) => void;
}

/** How long a glide takes, in milliseconds or in frames of the show. */
export function GlideTimeField({ show, label, labelAt, help, glide, onChange }: Props) {
  const [chosen, setChosen] = useState<'ms' | 'frames'>(glide?.in ?? 'ms');
  const unit = glide ? (glide.in ?? 'ms') : chosen;
  const name = rateOfShow(show.records);
  const rate = rateOf(name);
  const ms = glide?.ms ?? 0;
  const write = (to: number, as: 'ms' | 'frames') => onChange({ ms: to, ...(as === 'frames' ? { in: as } : {}) });
  const at = labelAt ? { labelAt } : {};
  return (
    <span className="flex flex-wrap items-end gap-2">
      <NumberField
        key={unit}
        label={label}
        {...at}
        {...(help === undefined ? {} : { help: unit === 'frames' ? `${help} Frames at ${name} a second.` : help })}
        min={0}
        max={unit === 'ms' ? longestGlideMs : nearestFrame(longestGlideMs, rate)}
        value={unit === 'ms' ? ms : nearestFrame(ms, rate)}
        className={labelAt ? 'w-44' : 'w-32'}
        onCommit={(to) =>
          write(Math.min(longestGlideMs, Math.round(unit === 'ms' ? to : msOfFrame(Math.round(to), rate))), unit)
        }
      />
      <Select
        label={`Unit of ${label.toLowerCase()}`}
        labelAt="hidden"
        value={unit}
        options={optionsFrom({ ms: 'ms', frames: 'frames' })}
        onChoose={(as) => {
          setChosen(as);
          if (glide) write(ms, as);
        }}
      />
    </span>
  );
}
