'use client';

import { splitKey, type DriverDocument } from '../../core/driver';
import type { Reading } from '../../core/reading';
import { useNow, useReadings } from '../live';
import { ageText } from '../parts';

/** What a device reports, each with its freshness. */
export function ReadingsPane({
  device,
  driver,
}: {
  readonly device: string;
  readonly driver: DriverDocument | undefined;
}) {
  const readings = useReadings(device);
  const now = useNow();
  const rows = Object.entries(readings ?? {}).sort(
    ([a], [b]) => Number(a.includes('[')) - Number(b.includes('[')) || a.localeCompare(b, 'en', { numeric: true }),
  );
  return (
    <div>
      <h3 className="device-sub">Readings</h3>
      {rows.length === 0 && <p className="muted">Nothing has been reported yet.</p>}
      <ul className="readings">
        {rows.map(([key, reading]) => {
          const { family, index } = splitKey(key);
          const definition = driver?.readings[family];
          const unit = definition && 'unit' in definition.value ? definition.value.unit : undefined;
          return (
            <li key={key} className={`reading reading-${reading.freshness}`} title={key}>
              <span className="muted">
                {definition?.title ?? key}
                {index !== undefined && ` ${index}`}
              </span>
              <b>
                {valueText(reading)} {unit}
              </b>
              {reading.freshness !== 'fresh' && (
                <span className="reading-doubt">
                  {reading.freshness}
                  {reading.at !== undefined && now > 0 && `, last ${ageText(now - reading.at)} ago`}
                </span>
              )}
            </li>
          );
        })}
      </ul>
    </div>
  );
}

function valueText({ value }: Reading): string {
  if (value === true) return 'yes';
  return value === false ? 'no' : String(value ?? '–');
}
