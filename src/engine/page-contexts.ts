import { readingsOfLabel, renderLabel } from '../core/face';
import { lampNow, ReadingIndex, readingsOfLamps } from '../core/lamp';
import type { ControlView, FaceView, PageDiff, PageLayout, PageView } from '../core/live';
import { readingId, type ControlRecord, type PageRecord } from '../core/show';
import type { ReadingStore } from './readings';
import type { RunningShow } from './running-show';

interface Context {
  readonly faces: Map<string, { readonly view: FaceView; readonly key: string }>;
}

/**
 * The pages that somebody looks at: their faces and lamps, computed once each, whoever looks, and brought up to date
 * from the readings that they use.
 */
export class PageContexts {
  private readonly contexts = new Map<string, Context>();
  private readonly index = new ReadingIndex();

  constructor(
    private readonly show: RunningShow,
    private readonly readings: ReadingStore,
    private readonly publish: (page: string, diff: PageDiff) => void,
    private readonly isRisky: (control: ControlRecord) => boolean,
  ) {}

  /** The whole page; `undefined` when there is none. From now on its differences are published. */
  open(page: string): PageView | undefined {
    const record = this.show.pages.get(page);
    if (!record) return undefined;
    let context = this.contexts.get(page);
    if (!context) {
      this.contexts.set(page, (context = { faces: new Map() }));
      for (const control of this.show.controlsOf(page).values()) this.enter(context, control);
    }
    return {
      layout: layoutOf(record),
      controls: Object.fromEntries([...this.show.controlsOf(page)].map(([id, control]) => [id, this.viewOf(control)])),
      faces: Object.fromEntries([...context.faces].map(([id, face]) => [id, face.view])),
    };
  }

  /** Nobody looks at the page any more. */
  close(page: string): void {
    for (const id of this.contexts.get(page)?.faces.keys() ?? []) this.index.remove(id);
    this.contexts.delete(page);
  }

  /** Readings of a device have changed: only the controls that use them are looked at. */
  onReadings(device: string, keys: readonly string[]): void {
    const touched = new Set<string>();
    for (const key of keys) for (const id of this.index.usersOf(readingId({ device, key }))) touched.add(id);
    const diffs = new Map<string, Record<string, FaceView>>();
    for (const id of touched) {
      const control = this.show.controls.get(id);
      const context = control && this.contexts.get(control.data.page);
      if (!control || !context || !this.refresh(context, control)) continue;
      const { page } = control.data;
      const faces = diffs.get(page) ?? {};
      diffs.set(page, faces);
      const face = context.faces.get(id);
      if (face) faces[id] = face.view;
    }
    for (const [page, put] of diffs) this.publish(page, { faces: { put } });
  }

  onPage(id: string, record: PageRecord | undefined): void {
    if (record && this.contexts.has(id)) this.publish(id, { layout: layoutOf(record) });
    if (!record) this.close(id);
  }

  onControl(id: string, now: ControlRecord | undefined, before: ControlRecord | undefined): void {
    const left = before && before.data.page !== now?.data.page ? before.data.page : undefined;
    const old = left === undefined ? undefined : this.contexts.get(left);
    if (left !== undefined && old) {
      old.faces.delete(id);
      this.index.remove(id);
      this.publish(left, { controls: { drop: [id] }, faces: { drop: [id] } });
    }
    const context = now && this.contexts.get(now.data.page);
    if (!now || !context) return;
    this.enter(context, now);
    const face = context.faces.get(id);
    this.publish(now.data.page, {
      controls: { put: { [id]: this.viewOf(now) } },
      faces: { put: face ? { [id]: face.view } : {} },
    });
  }

  /** A device is spoken to in another way: whether its controls are risky may be another. */
  onDevice(device: string): void {
    for (const page of this.contexts.keys()) {
      const own = [...this.show.controlsOf(page)].filter(([, { data }]) =>
        [...data.responses.tap, ...(data.responses.held ?? [])].some((send) => send.device === device),
      );
      if (own.length === 0) continue;
      this.publish(page, { controls: { put: Object.fromEntries(own.map(([id, each]) => [id, this.viewOf(each)])) } });
    }
  }

  private readonly documentOf = (id: string) => {
    const device = this.show.devices.get(id);
    return device && this.show.driverOf(device)?.document;
  };

  private viewOf(control: ControlRecord): ControlView {
    const { col, row, cols, rows, responses } = control.data;
    const holds = (responses.held?.length ?? 0) > 0;
    const pressable = holds || responses.tap.length > 0;
    return { col, row, cols, rows, pressable, guarded: pressable && this.isRisky(control), holds };
  }

  private enter(context: Context, control: ControlRecord): void {
    const { label, lamps, values } = control.data;
    const refs = [...readingsOfLabel(label, values, this.documentOf), ...readingsOfLamps(lamps, values)];
    this.index.put(control.id, refs);
    this.refresh(context, control);
  }

  /** Computes a face anew; true when it is another than before. */
  private refresh(context: Context, control: ControlRecord): boolean {
    const { label, lamps, values } = control.data;
    const readingNow = this.readings.get.bind(this.readings);
    const view: FaceView = {
      segments: renderLabel(label, values, readingNow, this.documentOf),
      lamp: lampNow(lamps, values, readingNow),
    };
    const key = JSON.stringify(view);
    if (context.faces.get(control.id)?.key === key) return false;
    context.faces.set(control.id, { view, key });
    return true;
  }
}

function layoutOf({ id, data }: PageRecord): PageLayout {
  const { name, columns, rows, note, zones } = data;
  return { id, name, columns, rows, note, zones };
}
