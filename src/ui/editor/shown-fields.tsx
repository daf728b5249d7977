'use client';

import { shapeOf, shownChoices, startShown } from '../../core/page';
import { ownDevice, type ControlRecord, type ShownSpec } from '../../core/show';
import { CommitInput } from '../kit';
import { ReadingPicker, useReadingChoices } from '../fields';
import { useFacts } from './facts';
import { useVerbs } from './verbs';

interface Props {
  readonly control: ControlRecord;
  readonly name: string;
}

const kindTitles: Readonly<Record<ShownSpec['kind'], string>> = {
  bar: 'a bar',
  picture: 'a picture that is reported',
  still: 'a picture that is fetched',
  layout: 'boxes where they lie',
};

/** What stands on a control besides its label. */
export function ShownFields({ control, name }: Props) {
  const verbs = useVerbs();
  const { documentOf, devices } = useFacts();
  const choices = useReadingChoices();
  const { shows } = control.data;
  const set = (to: ShownSpec | undefined) =>
    verbs.change(control, ({ shows: _, ...data }) => (to ? { ...data, shows: to } : data), `What ${name} shows`);
  const reported = devices.filter(({ id }) => id !== ownDevice.id);
  const named = shows && 'device' in shows ? shownChoices(shows.kind, reported, documentOf) : [];
  return (
    <section className="form-part" aria-label="What it shows">
      <h3>It shows</h3>
      <label>
        Drawn on it
        <select
          value={shows?.kind ?? ''}
          onChange={(event) => set(startShown(event.target.value as ShownSpec['kind'] | '', choices, control.data))}
        >
          <option value="">nothing</option>
          {Object.entries(kindTitles).map(([kind, title]) => (
            <option key={kind} value={kind}>
              {title}
            </option>
          ))}
        </select>
      </label>
      {shows && 'reading' in shows && <ShownReading shows={shows} onChange={set} />}
      {shows && 'device' in shows && (
        <label>
          Of
          <select
            value={`${shows.device} ${shows.kind === 'still' ? shows.still : shows.layout}`}
            onChange={(event) => {
              const [device = '', what = ''] = event.target.value.split(' ');
              set(
                shows.kind === 'still'
                  ? { kind: 'still', device, still: what }
                  : { kind: 'layout', device, layout: what },
              );
            }}
          >
            {named.length === 0 && <option value={`${shows.device} `}>no device of the rig offers one</option>}
            {named.map(({ device, key, title }) => (
              <option key={`${device.id} ${key}`} value={`${device.id} ${key}`}>
                {device.data.tag}: {title}
              </option>
            ))}
          </select>
        </label>
      )}
    </section>
  );
}

type OfReading = Extract<ShownSpec, { reading: unknown }>;

function ShownReading({ shows, onChange }: { readonly shows: OfReading; readonly onChange: (to: ShownSpec) => void }) {
  const { documentOf } = useFacts();
  const put = (reading: OfReading['reading']) => {
    if (shows.kind === 'picture') return onChange({ ...shows, reading });
    const shape = shapeOf(documentOf(reading.device), reading.key);
    const limits = shape && 'min' in shape ? { min: Number(shape.min ?? 0), max: Number(shape.max ?? 100) } : {};
    onChange({ ...shows, ...limits, reading });
  };
  return (
    <>
      <ReadingPicker label="Reading" chosen={shows.reading} onPick={put} />
      {shows.kind === 'bar' && (
        <div className="form-pair">
          <label>
            Empty at
            <CommitInput
              type="number"
              step="any"
              value={String(shows.min)}
              onCommit={(text) => onChange({ ...shows, min: Number(text) })}
            />
          </label>
          <label>
            full at
            <CommitInput
              type="number"
              step="any"
              value={String(shows.max)}
              onCommit={(text) => onChange({ ...shows, max: Number(text) })}
            />
          </label>
        </div>
      )}
    </>
  );
}
