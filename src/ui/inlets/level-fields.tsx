'use client';

import type { InletData } from '../../core/show';
import { NumberField } from '../kit';

interface Props {
  readonly data: InletData;
  readonly onData: (what: string, to: Partial<InletData>) => void;
}

/** What of a universe or of the displays of another system is read, and under which numbers. */
export const LevelFields = ({ data, onData }: Props) => (
  <div className="grid grid-cols-2 items-start gap-3">
    {data.speaks === 'sacn' && (
      <>
        <NumberField
          label="Universe"
          min={1}
          max={63_999}
          value={data.universe ?? 1}
          onCommit={(universe) => onData('Universe', { universe: Math.round(universe) })}
        />
        <NumberField
          label="Channels"
          help="How many channels are read, starting with channel 1."
          min={1}
          max={512}
          value={data.channels ?? 64}
          onCommit={(channels) => onData('Channels', { channels: Math.round(channels) })}
        />
      </>
    )}
    <NumberField
      label={data.speaks === 'sacn' ? 'Number of channel 1' : 'Number of display 0'}
      help="Used in the readings. Choose numbers that no other inlet uses."
      min={0}
      max={499}
      value={data.first ?? (data.speaks === 'sacn' ? 1 : 0)}
      onCommit={(first) => onData('Numbers', { first: Math.round(first) })}
    />
  </div>
);
