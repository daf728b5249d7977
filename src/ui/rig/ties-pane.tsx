'use client';

import { useState } from 'react';
import { indexesOf, memberKey, type DriverDocument } from '../../core/driver';
import { tieEdit, type DeskView, type DeviceRecord, type TieRecord } from '../../core/show';
import { inputNames } from '../../core/tally';
import { useDesk } from '../desk';
import { useReadings } from '../live';
import { newId } from '../parts';

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
  const tie = (input: number, source: string) =>
    void desk.edit(
      tieEdit(
        show.records,
        device,
        input,
        sources.find(({ id }) => id === source),
        newId('tie'),
      ),
    );
  return (
    <section className="ties" aria-label={`Sources of ${device.data.tag}`}>
      <div>
        <h3 className="device-sub">Devices</h3>
        <ul className="ties-sources">
          {sources.map(({ id, data }) => (
            <li
              key={id}
              draggable
              onDragStart={(event) => event.dataTransfer.setData('text/plain', id)}
              title="Drag onto an input"
            >
              <span className="tag">{data.tag}</span> {data.name}
            </li>
          ))}
        </ul>
      </div>
      <div>
        <h3 className="device-sub">Inputs of {device.data.tag}</h3>
        <ul className="ties-inputs">
          {inputs.map((input) => {
            const name = readings?.[memberKey(inputNames, input)]?.value;
            return (
              <li
                key={input}
                className={over === input ? 'ties-over' : ''}
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
                <label>
                  <span className="mono">{input}</span> <b>{String(name ?? '')}</b>
                  <select
                    value={ties.find(({ data }) => data.input === input)?.data.source ?? ''}
                    onChange={(e) => tie(input, e.target.value)}
                  >
                    <option value="">fed by nothing of the rig</option>
                    {sources.map(({ id, data }) => (
                      <option key={id} value={id}>
                        {data.tag} {data.name}
                      </option>
                    ))}
                  </select>
                </label>
              </li>
            );
          })}
        </ul>
      </div>
    </section>
  );
}

/** What a device feeds, in a line; `undefined` when it feeds nothing. */
export function feedsText({ records }: DeskView, device: string): string | undefined {
  const found = records.flatMap((record) => {
    if (record.kind !== 'tie' || record.data.source !== device) return [];
    const switcher = records.find((each) => each.id === record.data.switcher);
    return switcher?.kind === 'device' ? [`${switcher.data.tag} input ${record.data.input}`] : [];
  });
  return found.length > 0 ? found.join(', ') : undefined;
}
