'use client';

import { readingTitle, splitKey, valueWithUnit, type DriverDocument } from '../../core/driver';
import { clockText } from '../../core/face';
import { inNumberOrder } from '../../core/number-order';
import type { Reading } from '../../core/reading';
import { useNow, useReadings } from '../live';
import { ageText, VeiledText } from '../parts';
import { useTrails } from './trails';

/** What a device reports, each with its freshness. */
export function ReadingsPane({
  device,
  driver,
}: {
  readonly device: string;
  readonly driver: DriverDocument | undefined;
}) {
  const readings = useReadings(device);
  const trails = useTrails(device);
  const now = useNow();
  const rows = Object.entries(readings ?? {}).sort(
    ([a], [b]) => Number(a.includes('[')) - Number(b.includes('[')) || inNumberOrder(a, b),
  );
  return (
    <div>
      <h3 className="mt-3 mb-1 text-ink-soft">Readings</h3>
      {rows.length === 0 && <p className="text-ink-soft">Nothing has been reported yet.</p>}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(230px,1fr))] gap-x-6 gap-y-0">
        {rows.map(([key, reading]) => {
          const definition = driver?.readings[splitKey(key).family];
          return (
            <li
              key={key}
              className={`flex flex-wrap justify-between gap-x-2.5 border-b border-rule py-1.25 reading-${reading.freshness}`}
              title={key}
            >
              <span className="text-ink-soft">{readingTitle(driver, key) ?? key}</span>
              <b>
                <TrailLine numbers={trails.get(key)?.numbers ?? []} /> <VeiledText text={textOf(reading, definition)} />
              </b>
              {trails.get(key)?.changedAt !== undefined && now > 0 && (
                <span className="w-full text-[13px] text-ink-soft">
                  changed {ageText(now - (trails.get(key)?.changedAt ?? now))} ago
                </span>
              )}
              {reading.freshness !== 'fresh' && (
                <span className="w-full hatch-rule px-1 text-[13px]">
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

function textOf({ value }: Reading, definition: DriverDocument['readings'][string] | undefined): string {
  if (definition?.value.type === 'time' && typeof value === 'number') return clockText(value);
  if (value === true) return 'yes';
  if (value === false) return 'no';
  return value === undefined ? '–' : valueWithUnit(definition?.value, value);
}

const width = 56;
const height = 16;

/** The last values of a number as a small line; nothing while it has not changed. */
function TrailLine({ numbers }: { readonly numbers: readonly number[] }) {
  if (numbers.length < 2) return null;
  const least = Math.min(...numbers);
  const range = Math.max(...numbers) - least || 1;
  const points = numbers.map((value, n) => {
    const x = ((n / (numbers.length - 1)) * width).toFixed(1);
    return `${x},${(height - 1 - ((value - least) / range) * (height - 2)).toFixed(1)}`;
  });
  return (
    <svg className="inline-block align-middle text-ink-soft" width={width} height={height} aria-hidden>
      <polyline points={points.join(' ')} fill="none" stroke="currentColor" strokeWidth="1.5" />
    </svg>
  );
}
