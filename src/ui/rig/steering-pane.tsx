'use client';

import { steeringEdit, usualSlow, zoomKeyOf, type DeviceRecord, type Steering } from '../../core/show';
import type { DriverDocument } from '../../core/driver';
import { useDesk } from '../desk';
import { NumberField, optionsFrom, Select, Switch } from '../kit';

interface Props {
  readonly device: DeviceRecord;
  readonly driver: DriverDocument;
}

/** How fast and how finely a device is driven, for every stick, rocker and piece of hand gear at once. */
export function SteeringPane({ device, driver }: Props) {
  return (
    <section aria-label={`Steering of ${device.data.tag}`} className="grid gap-4 pt-1 pb-4">
      <p className="text-[14px] text-ink-soft">
        These settings apply to every stick, rocker and piece of hand gear that drives {device.data.tag}. A control can
        have its own dead zone and curve. “Slow” is a key at each stick.
      </p>
      {Object.entries(driver.drives).map(([id, { title }]) => (
        <DriveFields key={id} device={device} driver={driver} drive={id} title={title} />
      ))}
    </section>
  );
}

const curveTitles = { '1': 'even', '2': 'finer near the centre', '3': 'much finer', '4': 'finest' };

function DriveFields({ device, driver, drive, title }: Props & { readonly drive: string; readonly title: string }) {
  const desk = useDesk();
  const now = device.data.steering?.[drive] ?? {};
  const set = (to: Partial<Steering>) => void desk.edit(steeringEdit(device, drive, to));
  const hasTwoAxes = !('more' in (driver.drives[drive] ?? {}));
  const zooms = zoomKeyOf(driver, drive) !== undefined;
  const percent = (
    label: string,
    key: 'topX' | 'topY' | 'slow' | 'atFullZoom' | 'dead',
    usual: number,
    min: number,
  ) => (
    <NumberField
      label={label}
      unit="%"
      min={min}
      max={key === 'dead' ? 60 : 100}
      step={5}
      value={Math.round((now[key] ?? usual) * 100)}
      onCommit={(to) => set({ [key]: to === Math.round(usual * 100) ? undefined : to / 100 })}
    />
  );
  return (
    <fieldset className="grid grid-cols-[repeat(auto-fill,minmax(9.5rem,1fr))] items-end gap-x-4 gap-y-2.5 border-t border-rule pt-2.5">
      <legend className="col-span-full float-left w-full font-semibold">{title}</legend>
      {percent(hasTwoAxes ? 'Fastest pan' : 'Fastest', 'topX', 1, 5)}
      {hasTwoAxes && percent('Fastest tilt', 'topY', 1, 5)}
      {percent('Slow', 'slow', usualSlow, 5)}
      {zooms && percent('At full zoom', 'atFullZoom', 1, 2)}
      {percent('Dead zone', 'dead', 0.1, 0)}
      <Select
        label="Curve"
        value={String(now.curve ?? 2)}
        options={optionsFrom(curveTitles)}
        onChoose={(curve) => set({ curve: curve === '2' ? undefined : Number(curve) })}
      />
      {hasTwoAxes && (
        <Switch
          label="Swap left and right"
          checked={now.flipX ?? false}
          onChange={(on) => set({ flipX: on || undefined })}
        />
      )}
      <Switch
        label="Swap up and down"
        checked={now.flipY ?? false}
        onChange={(on) => set({ flipY: on || undefined })}
      />
    </fieldset>
  );
}
