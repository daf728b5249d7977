'use client';

import { useState } from 'react';
import { indexesOf, memberKey, type DriverDocument } from '../../core/driver';
import { inputNames, offAirEdit, tieEdit, type DeskView, type DeviceRecord, type TieRecord } from '../../core/show';
import { outputsOf } from '../../core/tally';
import { useDesk } from '../desk';
import { useReadings } from '../live';
import { newId } from '../parts';
import { Select } from '../kit';

export const hasInputs = (driver: DriverDocument | undefined): boolean =>
  driver?.readings[inputNames]?.index !== undefined;

interface Props {
  readonly show: DeskView;
  readonly device: DeviceRecord;
  readonly driver: DriverDocument;
}

/** Which device feeds which input of a switcher: picked from a list, or dragged onto the input. */
export function TiesPane({ show, device, driver }: Props) {
  const desk = useDesk();
  const readings = useReadings(device.id);
  const [over, setOver] = useState<number>();
  const range = driver.readings[inputNames]?.index;
  if (!range) return null;
  const sources = show.records.filter(
    (record): record is DeviceRecord => record.kind === 'device' && record.id !== device.id,
  );
  const ties = show.records.filter(
    (record): record is TieRecord => record.kind === 'tie' && record.data.switcher === device.id,
  );
  const inputs = indexesOf(range, device.data.options);
  const tie = (input: number, source: string, output?: string) => {
    const from = sources.find(({ id }) => id === source);
    void desk.edit(tieEdit(show.records, device, input, from, newId('tie'), output));
  };
  const outputsAt = (source: string | undefined) => {
    const from = sources.find(({ id }) => id === source);
    const document = show.drivers.find(({ id }) => id === from?.data.driver);
    return from && document ? outputsOf(document, from.data.options) : [];
  };
  return (
    <section className="ties" aria-label={`Sources of ${device.data.tag}`}>
      <div>
        <h3 className="mt-3 mb-1 text-ink-soft">Drag a device onto an input</h3>
        <ul className="ties-sources flex flex-wrap gap-1.5 [&_li]:cursor-grab [&_li]:border [&_li]:border-rule-strong [&_li]:px-2 [&_li]:py-0.75">
          {sources.map(({ id, data }) => (
            <li
              key={id}
              draggable
              onDragStart={(event) => event.dataTransfer.setData('text/plain', id)}
              title={data.name}
            >
              <span className="font-mono text-[0.93em] font-semibold">{data.tag}</span>
            </li>
          ))}
        </ul>
      </div>
      <div>
        <h3 className="mt-3 mb-1 text-ink-soft">Inputs of {device.data.tag}</h3>
        <ul className="ties-inputs grid grid-cols-[repeat(auto-fill,minmax(min(100%,340px),1fr))] gap-x-7 [&_li]:grid [&_li]:grid-cols-[24px_minmax(0,1fr)_minmax(0,210px)] [&_li]:items-center [&_li]:gap-x-2 [&_li]:gap-y-1 [&_li]:border-b [&_li]:border-rule [&_li]:px-0 [&_li]:py-1">
          {inputs.map((input) => {
            const name = readings?.[memberKey(inputNames, input)]?.value;
            const now = ties.find(({ data }) => data.input === input)?.data;
            return (
              <li
                key={input}
                className={over === input ? 'bg-tape outline-2 outline-accent' : ''}
                onDragOver={(event) => {
                  event.preventDefault();
                  setOver(input);
                }}
                onDragLeave={() => setOver(undefined)}
                onDrop={(event) => {
                  event.preventDefault();
                  setOver(undefined);
                  tie(input, event.dataTransfer.getData('text/plain'));
                }}
              >
                <span className="font-mono text-[0.93em]">{input}</span>
                <b className="min-w-0 truncate">{String(name ?? '')}</b>
                <Select
                  label={`Input ${input} ${String(name ?? '')}`.trim()}
                  labelAt="hidden"
                  value={now?.source ?? ''}
                  options={[
                    { value: '', title: 'fed by nothing of the rig' },
                    ...sources.map(({ id, data }) => ({ value: id, title: `${data.tag} ${data.name}` })),
                  ]}
                  onChoose={(source) => tie(input, source)}
                />
                {now && <OutputField now={now} outputs={outputsAt(now.source)} onOutput={tie} />}
              </li>
            );
          })}
        </ul>
        {driver.tally && <OnAirField show={show} device={device} />}
      </div>
    </section>
  );
}

interface OutputProps {
  readonly now: TieRecord['data'];
  readonly outputs: readonly { readonly key: string; readonly title: string }[];
  readonly onOutput: (input: number, source: string, output: string | undefined) => void;
}

/** Over which output a switcher feeds an input of another one. */
function OutputField({ now: { source, input, output }, outputs, onOutput }: OutputProps) {
  if (outputs.length === 0 && output === undefined) return null;
  const isGone = output !== undefined && !outputs.some(({ key }) => key === output);
  return (
    <Select
      className="col-[2/-1] justify-self-end"
      label="over its"
      labelAt="before"
      value={output ?? ''}
      options={[
        { value: '', title: 'program' },
        ...outputs.map(({ key, title }) => ({ value: key, title })),
        ...(isGone ? [{ value: output, title: `${output}: it has no such output` }] : []),
      ]}
      onChoose={(key) => onOutput(input, source, key || undefined)}
    />
  );
}

/** Whether the program of this switcher is the air: a question only where it feeds no other one. */
function OnAirField({ show, device }: Pick<Props, 'show' | 'device'>) {
  const desk = useDesk();
  const isFed = show.records.some(
    ({ kind, data }) => kind === 'tie' && data.source === device.id && data.output === undefined,
  );
  if (isFed) {
    return (
      <p className="col-span-full text-[13px] text-ink-soft">Its program is on air when the input that it feeds is.</p>
    );
  }
  return (
    <label className="col-span-full flex flex-row items-center gap-2 pt-3">
      <input
        type="checkbox"
        checked={!device.data.offAir}
        onChange={(event) => void desk.edit(offAirEdit(device, !event.target.checked))}
      />
      What its program shows is on air
    </label>
  );
}
