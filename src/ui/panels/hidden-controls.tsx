'use client';

import { formatLabel, labelNow } from '../../core/face';
import { controlsOf, type ControlRecord, type DeskView, type PageRecord } from '../../core/show';
import { driverOfDevice } from '../desk';
import { Checkbox } from '../kit';
import { useReadingsNowAndThen } from '../live';

interface Props {
  readonly pages: readonly PageRecord[];
  readonly show: DeskView;
  readonly hidden: readonly string[];
  readonly onChange: (to: readonly string[]) => void;
}

/** Which controls a panel does not show and may not press. */
export function HiddenControls({ pages, show, hidden, onChange }: Props) {
  const labelOf = useLabels(show);
  return (
    <div className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-x-6 gap-y-3.5 pt-3 pb-1.5">
      {pages.map((page) => (
        <fieldset key={page.id} className="grid content-start gap-1.5">
          <legend className="pb-1 font-bold">{page.data.name}</legend>
          {controlsOf(show.records, page.id).map((control) => (
            <Checkbox
              key={control.id}
              label={labelOf(control)}
              className="text-ink"
              checked={!hidden.includes(control.id)}
              onChange={(checked) =>
                onChange(checked ? hidden.filter((each) => each !== control.id) : [...hidden, control.id])
              }
            />
          ))}
        </fieldset>
      ))}
    </div>
  );
}

/** What a control is called: its label with the readings of now, or as it is written where a reading is not known. */
function useLabels(show: DeskView): (control: ControlRecord) => string {
  const devices = show.records.filter((record) => record.kind === 'device');
  const readings = useReadingsNowAndThen(
    devices.map(({ id }) => id),
    2000,
  );
  return ({ data }) => {
    const segments = labelNow(
      data,
      ({ device, key }) => readings.get(device)?.[key],
      (device) => driverOfDevice(show, device),
    );
    const text = segments.some(({ doubt }) => doubt === 'unknown')
      ? formatLabel(data.label, (id) => devices.find((device) => device.id === id)?.data.tag ?? 'SHOW')
      : segments.map((segment) => segment.text).join('');
    return text.trim() || data.type;
  };
}
