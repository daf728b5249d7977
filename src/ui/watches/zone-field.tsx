'use client';

import { useSyncExternalStore } from 'react';
import type { DeskView } from '../../core/show';
import { useDesk } from '../desk';
import { Select } from '../kit';

const never = () => () => undefined;
/** What the server knows nothing of: the reader's own zone. */
const useOwnZone = (): string =>
  useSyncExternalStore(
    never,
    () => Intl.DateTimeFormat().resolvedOptions().timeZone,
    () => '',
  );

/** The time zone in which the schedule of the show counts. */
export function ZoneField({ show }: { readonly show: DeskView }) {
  const desk = useDesk();
  const own = useOwnZone();
  const record = show.records.find((each) => each.kind === 'show');
  if (record?.kind !== 'show') return null;
  const { zone } = record.data;
  const zones = [
    ...new Set([...(own === '' ? [] : [own]), ...Intl.supportedValuesOf('timeZone'), ...(zone ? [zone] : [])]),
  ];
  return (
    <Select
      label="Time zone"
      labelAt="before"
      className="text-[14px]"
      value={zone ?? ''}
      options={[
        { value: '', title: 'that of this computer' },
        ...zones.map((each) => ({ value: each, title: each.replaceAll('_', ' ') })),
      ]}
      onChoose={(to) => {
        const { zone: _, ...rest } = record.data;
        const data = to === '' ? rest : { ...rest, zone: to };
        void desk.edit({
          title: 'Time zone of the show',
          changes: [{ op: 'update', from: record, to: { ...record, data } }],
        });
      }}
    />
  );
}
