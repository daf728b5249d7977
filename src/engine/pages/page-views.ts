import type { ControlView, PageDiff, PageLayout } from '../../core/live';
import { legendOf, viewOf } from '../../core/page';
import type { ControlRecord, PageRecord } from '../../core/show';
import type { RunningShow } from '../show/running-show';
import type { Context } from './context';

/** What a screen is told of a page besides its faces. */
export class PageViews {
  constructor(private readonly show: RunningShow) {}

  readonly tagOf = (device: string): string | undefined => this.show.devices.get(device)?.data.tag;

  viewOf(control: ControlRecord): ControlView {
    return viewOf(control.data, {
      documentOf: this.show.documentOf,
      steeringOf: (device) => this.show.devices.get(device)?.data.steering,
      tagOf: this.show.pages.get(control.data.page)?.data.badges ? this.tagOf : () => undefined,
      macroOf: (id) => this.show.macros.get(id),
      isBlack: this.show.isBlack,
    });
  }

  /** The layout with its new legend, where a control that changed may have changed that. */
  legendNews(
    context: Context,
    now: ControlRecord | undefined,
    before: ControlRecord | undefined,
  ): Pick<PageDiff, 'layout'> {
    const record = this.show.pages.get(context.page);
    return record && (now?.data.tint ?? before?.data.tint) ? { layout: this.layoutOf(record, context) } : {};
  }

  layoutOf({ id, data }: PageRecord, context: Context): PageLayout {
    const { name, columns, rows, note, shifts = [] } = data;
    const zones = data.zones.map(({ pick, ...zone }) => {
      const devices = pick?.devices.flatMap((device) => {
        const record = this.show.devices.get(device);
        return record ? [{ id: device, tag: record.data.tag, name: record.data.name }] : [];
      });
      const now = context.picked.get(zone.id);
      return devices ? { ...zone, pick: { devices, now, follows: pick?.follow !== undefined } } : zone;
    });
    const legend = legendOf(data, context.controls.values(), this.tagOf);
    return { id, name, columns, rows, note, zones, legend, shifts };
  }
}
