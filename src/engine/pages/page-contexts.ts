import { readingsOfFace, type FaceView } from '../../core/face';
import { lookNow, ReadingIndex } from '../../core/lamp';
import type { PageDiff, PageView } from '../../core/live';
import {
  canBeContext,
  inContext,
  namedByReadings,
  pickedIn,
  readContextKey,
  zoneOf,
  type PageContext,
} from '../../core/page';
import {
  drivenBy,
  readingId,
  type ControlRecord,
  type DeviceRecord,
  type PageRecord,
  type Zone,
} from '../../core/show';
import type { ReadingStore } from '../devices/readings';
import type { ShowChange } from '../parts';
import type { TopicBook } from '../topics/topic-book';
import type { RunningShow } from '../show/running-show';
import { markOf, type Context } from './context';
import { ContextFaces } from './context-faces';
import { PageViews } from './page-views';

const zoneMark = 'zone ';
/** A limit for all screens together, far above what a crew looks at: each costs memory and work. */
const mostContexts = 2000;

/**
 * The pages that somebody looks at, each in the contexts in which it is looked at: their faces and lamps are computed once a
 * context, for all screens together, and updated from the readings that they use.
 */
export class PageContexts {
  private readonly contexts = new Map<string, Context>();
  private readonly index = new ReadingIndex();
  /** What readings named last, by page and zone, of zones that keep it. */
  private readonly lastNamed = new Map<string, string>();
  private readonly faces: ContextFaces;
  private readonly views: PageViews;

  constructor(
    private readonly show: RunningShow,
    private readonly readings: ReadingStore,
    private readonly publishTo: (topic: `page:${string}`, diff: PageDiff) => void,
    topics: TopicBook,
    /** Told of each face that has changed with a reading. */
    private readonly onFace: (control: string, face: FaceView, before: FaceView | undefined) => void = () => undefined,
    pictureKey?: (name: string) => string | undefined,
  ) {
    this.faces = new ContextFaces(show, readings, (marks) => this.look(marks), pictureKey);
    this.views = new PageViews(show);
    topics.serve('page', {
      whole: (key) => this.open(key),
      canBe: (key) => this.canOpen(key),
      onUnused: (key) => this.close(key),
    });
  }

  onShow(change: ShowChange): void {
    if (change.kind === 'page') this.onPage(change.id, change.now);
    else if (change.kind === 'control') this.onControl(change.id, change.now, change.before);
    else if (change.kind === 'macro' || change.kind === 'snapshot') this.onMacro();
    else if (change.kind === 'tie') this.onTies();
    else if (change.kind === 'preset') this.onPreset();
    else if (change.kind === 'device' && change.now && change.before && !isShownAlike(change.now, change.before))
      this.onDevice(change.id);
  }

  private publish(key: string, diff: PageDiff): void {
    this.publishTo(`page:${key}`, diff);
  }

  /** True for a page in a context that there can be. A page that is not there can be waited for, in no context. */
  canOpen(key: string): boolean {
    const { page } = readContextKey(key);
    return canBeContext(this.show.pages.get(page)?.data, key);
  }

  /** The whole page in a context; `undefined` when there is none. From now on its differences are published. */
  open(key: string): PageView | undefined {
    const { page, context: asked } = readContextKey(key);
    const record = this.show.pages.get(page);
    if (!record) return undefined;
    let context = this.contexts.get(key);
    if (!context) {
      if (this.contexts.size >= mostContexts) return undefined;
      context = {
        key,
        page,
        asked,
        picked: new Map(),
        controls: new Map(),
        faces: new Map(),
        memories: new Map(),
      };
      this.contexts.set(key, context);
      this.pickAll(context, record);
      for (const control of this.show.controlsOf(page).values()) this.enter(context, record, control);
    }
    return { layout: this.views.layoutOf(record, context), ...this.allOf(context) };
  }

  /** Nobody looks at the page in this context any more. */
  close(key: string): void {
    const context = this.contexts.get(key);
    if (!context) return;
    for (const id of context.controls.keys()) this.forget(context, id);
    const { zones = [] } = this.show.pages.get(context.page)?.data ?? {};
    for (const zone of zones) this.index.remove(markOf(context, `${zoneMark}${zone.id}`));
    this.contexts.delete(key);
  }

  /** A control as it is in a context; as it is stored where nobody looks at it so. */
  controlIn(key: string | undefined, control: ControlRecord): ControlRecord {
    if (key === undefined) return control;
    const known = this.contexts.get(key)?.controls.get(control.id);
    if (known) return known;
    const { page, context: asked } = readContextKey(key);
    const record = this.show.pages.get(page);
    return record
      ? inContext(control, record, asked.shift, (zone) => this.pickOf(record, zone, asked), this.show)
      : control;
  }

  /** True while one of its rules bars a control, as it is looked at in a context. */
  isBarred(key: string | undefined, control: ControlRecord): boolean {
    const { lamps, page, values } = control.data;
    if (!lamps.some(({ bars }) => bars)) return false;
    const known = this.contexts.get(key ?? page)?.faces.get(control.id);
    const { barred } = known?.view ?? lookNow(lamps, values, { ...this.faces.sources, now: Date.now() });
    return barred === true;
  }

  /** Readings of a device have changed: only the controls that use them are looked at. */
  onReadings(device: string, keys: readonly string[]): void {
    const touched = new Set<string>();
    for (const key of keys) for (const id of this.index.usersOf(readingId({ device, key }))) touched.add(id);
    this.look(touched);
  }

  stop(): void {
    this.faces.stop();
  }

  /** Computes controls and zones again, and publishes those that have changed. */
  private look(touched: ReadonlySet<string>): void {
    const diffs = new Map<Context, Record<string, FaceView>>();
    for (const each of touched) {
      const at = each.indexOf('|');
      const context = this.contexts.get(each.slice(0, at));
      const id = each.slice(at + 1);
      if (!context) continue;
      if (id.startsWith(zoneMark)) {
        this.repick(context, id.slice(zoneMark.length));
        continue;
      }
      const control = context.controls.get(id);
      const before = context.faces.get(id)?.view;
      const face = control && this.faces.refresh(context, control);
      if (!face) continue;
      this.onFace(id, face, before);
      const put = diffs.get(context) ?? {};
      diffs.set(context, put);
      put[id] = face;
    }
    for (const [{ key }, put] of diffs) this.publish(key, { faces: { put } });
  }

  private onPage(id: string, record: PageRecord | undefined): void {
    for (const context of this.contextsOf(id)) {
      if (!record) this.close(context.key);
      else this.renew(context, record);
    }
  }

  /** The ties have changed: what follows a switcher may drive another device. */
  private onTies(): void {
    for (const context of this.contexts.values()) {
      for (const zone of this.show.pages.get(context.page)?.data.zones ?? []) this.repick(context, zone.id);
    }
  }

  private onControl(id: string, now: ControlRecord | undefined, before: ControlRecord | undefined): void {
    if (before && before.data.page !== now?.data.page) {
      for (const context of this.contextsOf(before.data.page)) {
        context.faces.delete(id);
        context.controls.delete(id);
        this.forget(context, id);
        const layout = this.views.legendNews(context, now, before);
        this.publish(context.key, { controls: { drop: [id] }, faces: { drop: [id] }, ...layout });
      }
    }
    const page = now && this.show.pages.get(now.data.page);
    if (!now || !page) return;
    for (const context of this.contextsOf(page.id)) {
      this.enter(context, page, now);
      const face = context.faces.get(id);
      this.publish(context.key, {
        controls: { put: { [id]: this.views.viewOf(context.controls.get(id) ?? now) } },
        faces: { put: face ? { [id]: face.view } : {} },
        ...this.views.legendNews(context, now, before),
      });
    }
  }

  /** A preset was stored, changed or forgotten. */
  private onPreset(): void {
    for (const context of this.contexts.values()) {
      const own = [...context.controls.values()].filter(({ data }) => data.presets);
      for (const { id, data } of own)
        this.index.put(markOf(context, id), readingsOfFace(data, this.show.documentOf, this.faces.sources));
      if (own.length > 0) this.look(new Set(own.map(({ id }) => markOf(context, id))));
    }
  }

  /** A device is spoken to in another way, or is called otherwise: what its controls look like may be another. */
  onDevice(device: string): void {
    for (const context of this.contexts.values()) {
      const record = this.show.pages.get(context.page);
      if (!record) continue;
      // Under which names a zone drives a device goes with the drivers of both.
      const picking = record.data.zones.filter(({ pick }) => pick?.devices.includes(device));
      for (const zone of picking) this.renew(context, record, zone);
      const own = [...context.controls].filter(([, { data }]) => drivenBy(data).includes(device));
      if (own.length === 0) continue;
      this.publish(context.key, {
        controls: { put: Object.fromEntries(own.map(([id, each]) => [id, this.views.viewOf(each)])) },
        layout: this.views.layoutOf(record, context),
      });
    }
  }

  /** A macro is another: whether what begins it has to be meant may be so too. */
  private onMacro(): void {
    for (const context of this.contexts.values()) {
      // One that begins another which begins this one is another, too.
      const own = [...context.controls].filter(([, { data }]) => data.responses.runs !== undefined);
      if (own.length === 0) continue;
      this.publish(context.key, {
        controls: { put: Object.fromEntries(own.map(([id, each]) => [id, this.views.viewOf(each)])) },
      });
    }
  }

  private contextsOf(page: string): Context[] {
    return [...this.contexts.values()].filter((context) => context.page === page);
  }

  private pickOf({ id: page }: PageRecord, zone: Zone, asked: PageContext): string | undefined {
    const sources = [[...this.show.ties.values()], this.readings.get.bind(this.readings), this.views.tagOf] as const;
    const kept = `${page} ${zone.id}`;
    const named = zone.pick?.whenNone === 'last' ? namedByReadings(zone.pick, ...sources) : undefined;
    if (named !== undefined) this.lastNamed.set(kept, named);
    return pickedIn(zone, asked, ...sources, this.lastNamed.get(kept));
  }

  /** Looks what every zone drives, and watches what they follow. */
  private pickAll(context: Context, record: PageRecord): void {
    context.picked.clear();
    for (const zone of record.data.zones) {
      const picked = this.pickOf(record, zone, context.asked);
      if (picked !== undefined) context.picked.set(zone.id, picked);
      const follow = zone.pick?.follow;
      this.index.put(markOf(context, `${zoneMark}${zone.id}`), follow ?? []);
    }
  }

  /** What a zone follows has changed: where it drives another device now, its controls are about that one. */
  private repick(context: Context, zoneId: string): void {
    const record = this.show.pages.get(context.page);
    const zone = record?.data.zones.find(({ id }) => id === zoneId);
    const picked = record && zone && this.pickOf(record, zone, context.asked);
    if (!record || !zone || picked === context.picked.get(zoneId)) return;
    this.renew(context, record, zone);
  }

  /** Everything of a page in a context, or of one of its zones, anew. */
  private renew(context: Context, record: PageRecord, only?: Zone): void {
    this.pickAll(context, record);
    const own = [...this.show.controlsOf(context.page).values()].filter(
      ({ data }) => !only || zoneOf(record.data.zones, data)?.id === only.id,
    );
    for (const control of own) this.enter(context, record, control);
    const { controls, faces } = this.allOf(context);
    const pick = <T>(all: Readonly<Record<string, T>>) =>
      Object.fromEntries(own.flatMap(({ id }) => (all[id] === undefined ? [] : [[id, all[id]]])));
    this.publish(context.key, {
      layout: this.views.layoutOf(record, context),
      controls: { put: pick(controls) },
      faces: { put: pick(faces) },
    });
  }

  private allOf(context: Context): Pick<PageView, 'controls' | 'faces'> {
    return {
      controls: Object.fromEntries([...context.controls].map(([id, control]) => [id, this.views.viewOf(control)])),
      faces: Object.fromEntries([...context.faces].map(([id, face]) => [id, face.view])),
    };
  }

  /** The macros that run now. */
  setRunning(macros: ReadonlySet<string>): void {
    const changed = this.faces.setRunning(macros);
    if (changed.size === 0) return;
    for (const context of this.contexts.values()) {
      const own = [...context.controls.values()].filter(({ data }) => changed.has(data.responses.runs?.macro ?? ''));
      const put = own.flatMap((control) => {
        const face = this.faces.refresh(context, control);
        return face ? [[control.id, face] as const] : [];
      });
      if (put.length > 0) this.publish(context.key, { faces: { put: Object.fromEntries(put) } });
    }
  }

  /** When what a control has done to a target is turned off; `undefined` when it is not any more. */
  setOff(control: string, target: string, at: number | undefined): void {
    this.faces.setOff(control, target, at);
    for (const context of this.contexts.values()) {
      const own = context.controls.get(control);
      const face = own && this.faces.refresh(context, own);
      if (face) this.publish(context.key, { faces: { put: { [control]: face } } });
    }
  }

  private enter(context: Context, page: PageRecord, stored: ControlRecord): void {
    const control = inContext(stored, page, context.asked.shift, (zone) => context.picked.get(zone.id), this.show);
    context.controls.set(control.id, control);
    context.memories.delete(control.id);
    this.index.put(markOf(context, control.id), readingsOfFace(control.data, this.show.documentOf, this.faces.sources));
    this.faces.refresh(context, control);
  }

  private forget(context: Context, id: string): void {
    this.index.remove(markOf(context, id));
    this.faces.forget(context, id);
  }
}

/** True when what pages show of a device besides its readings has not changed. */
const isShownAlike = ({ data: now }: DeviceRecord, { data: before }: DeviceRecord): boolean =>
  now.tag === before.tag &&
  now.name === before.name &&
  JSON.stringify(now.steering) === JSON.stringify(before.steering);
