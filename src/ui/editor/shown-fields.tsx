'use client';

import { shapeOf, shownChoices, startShown } from '../../core/page';
import { addressProblems, readPictureAddress } from '../../core/picture';
import { ownDevice, type ControlRecord, type ShownSpec } from '../../core/show';
import { CommitInput, Fold, optionsFrom, Select } from '../kit';
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
  still: 'a live picture of a device',
  address: 'a live picture from an address',
  layout: 'boxes where they lie',
};

/** What a control shows besides its label. */
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
    <Fold name="What it shows" title="It shows">
      <Select
        label="Shown on it"
        value={shows?.kind ?? ''}
        options={[{ value: '', title: 'nothing' }, ...optionsFrom(kindTitles)]}
        onChoose={(kind) => set(startShown(kind, choices, control.data))}
      />
      {shows?.kind === 'address' && <ShownAddress shows={shows} onChange={set} />}
      {shows && 'reading' in shows && <ShownReading shows={shows} onChange={set} />}
      {shows && 'device' in shows && (
        <Select
          label="From"
          value={`${shows.device} ${shows.kind === 'still' ? shows.still : shows.layout}`}
          placeholder={named.length === 0 ? 'no device of the rig offers one' : 'Choose'}
          options={named.map(({ device, key, title }) => ({
            value: `${device.id} ${key}`,
            title: `${device.data.tag}: ${title}`,
          }))}
          onChoose={(value) => {
            const [device = '', what = ''] = value.split(' ');
            set(
              shows.kind === 'still'
                ? { kind: 'still', device, still: what }
                : { kind: 'layout', device, layout: what },
            );
          }}
        />
      )}
    </Fold>
  );
}

type OfAddress = Extract<ShownSpec, { kind: 'address' }>;

function ShownAddress({ shows, onChange }: { readonly shows: OfAddress; readonly onChange: (to: ShownSpec) => void }) {
  const place = readPictureAddress(shows.url);
  const problem = shows.url !== '' && typeof place === 'string' ? addressProblems[place] : undefined;
  const { everyMs: _, ...rest } = shows;
  return (
    <>
      <label>
        Address of the picture
        <CommitInput
          type="url"
          placeholder="http://"
          value={shows.url}
          aria-invalid={problem !== undefined}
          onCommit={(url) => onChange({ ...shows, url: url.trim() })}
        />
      </label>
      {problem && <p role="alert">{problem}</p>}
      <label>
        Fetched every (ms)
        <CommitInput
          type="number"
          min={100}
          max={600_000}
          step={100}
          value={String(shows.everyMs ?? '')}
          placeholder="1000"
          onCommit={(text) => onChange(text === '' ? rest : { ...rest, everyMs: withinLimits(Number(text)) })}
        />
      </label>
      <p className="text-[13px] text-ink-soft">A stream of pictures is followed as it comes.</p>
    </>
  );
}

const withinLimits = (ms: number): number => Math.round(Math.min(600_000, Math.max(100, ms)));

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
        <div className="grid grid-cols-[1fr_1fr] gap-2.5 [&_input]:w-full [&_input]:min-w-0">
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
          <div className="col-span-full">
            <ReadingPicker
              label="Full at a reading instead"
              chosen={shows.most}
              none="no, at the number"
              onPick={(most) => onChange({ ...shows, most })}
              onNone={() => {
                const { most: _, ...rest } = shows;
                onChange(rest);
              }}
            />
          </div>
        </div>
      )}
    </>
  );
}
