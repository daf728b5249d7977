import { drivenBy, tintSchema, type ControlRecord, type PageRecord, type Tint } from '../show';

interface LegendEntry {
  readonly tint: Tint;
  readonly text: string;
}

/** What the tints on a page stand for: what somebody wrote, else the tags of the devices that its controls drive. */
export function legendOf(
  page: PageRecord['data'],
  controls: Iterable<ControlRecord>,
  tagOf: (device: string) => string | undefined,
): LegendEntry[] {
  const devices = new Map<Tint, Set<string>>();
  for (const { data } of controls) {
    if (!data.tint) continue;
    const own = devices.get(data.tint) ?? new Set<string>();
    for (const device of drivenBy(data)) own.add(device);
    devices.set(data.tint, own);
  }
  return tintSchema.options.flatMap((tint) => {
    const own = devices.get(tint);
    if (!own) return [];
    const tags = [...own].flatMap((device) => tagOf(device) ?? []);
    return [{ tint, text: page.legend?.[tint] ?? (tags.join(', ') || 'shows only') }];
  });
}
