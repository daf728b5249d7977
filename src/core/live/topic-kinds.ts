import type { Reading } from '../reading';
import { keptAsRun } from './as-run-class';
import type { GearBindings } from './bindings';
import type { BurnInView } from './burn-in';
import type { DrillsView } from './drills';
import type { DeviceHealth, HealthView, ScreenHealth } from './health';
import type { CheckItemView, LineCheckView, WalkQuestion, WalkRoundView } from './line-check';
import type {
  AccessView,
  AsRunRow,
  ClocksView,
  ControlView,
  FaceView,
  HeadView,
  LinkedView,
  MacroRunsView,
  OutputsView,
  PageLayout,
  PageView,
  PulseView,
  ReadingsView,
  RowsView,
  RunsView,
  RunView,
  ScreensView,
  ScreenView,
  StatusView,
  TallyView,
  WireRow,
} from './topics';
import { keptWire } from './wire-rows';

/** What has changed in a record by id. */
export interface MapDiff<T> {
  readonly put?: Readonly<Record<string, T>>;
  readonly drop?: readonly string[];
}

export type StatusDiff = Partial<Omit<StatusView, 'devices'>> & {
  readonly devices?: MapDiff<StatusView['devices'][string]>;
};

export interface PageDiff {
  readonly layout?: PageLayout;
  readonly controls?: MapDiff<ControlView>;
  readonly faces?: MapDiff<FaceView>;
}

type LineCheckDiff = Partial<Omit<LineCheckView, 'items'>> & { readonly items?: MapDiff<CheckItemView> };

type HealthDiff = Partial<Pick<HealthView, 'computer' | 'incidents'>> & {
  readonly devices?: MapDiff<DeviceHealth>;
  readonly charts?: MapDiff<HealthView['charts'][string]>;
  readonly screens?: MapDiff<ScreenHealth>;
};

/**
 * Who may follow a topic besides desks: `shared` everybody, `page` who has the page, `panel` the screens of that panel, `walk` phones for the
 * walk-round.
 */
type Readers = 'desk' | 'shared' | 'page' | 'panel' | 'walk';

interface TopicKind<Whole, Diff> {
  /** Lays a difference over the whole. */
  readonly apply: (whole: Whole, diff: Diff) => Whole;
  readonly readers: Readers;
  /** There is one topic for each id: `page:race`. */
  readonly hasId: boolean;
}

const kind = <Whole, Diff>(
  readers: Readers,
  apply: (whole: Whole, diff: Diff) => Whole,
  hasId = false,
): TopicKind<Whole, Diff> => ({ apply, readers, hasId });

const merge = <T extends object>(whole: T, diff: Partial<T>): T => ({ ...whole, ...diff });

function applyMap<T>(whole: Readonly<Record<string, T>>, diff: MapDiff<T> | undefined): Readonly<Record<string, T>> {
  if (!diff) return whole;
  const next = { ...whole, ...diff.put };
  for (const key of diff.drop ?? []) delete next[key];
  return next;
}

/**
 * All topics that `/live` has. A new one is entered here with its whole, its difference and who may follow it, and is served by the part of
 * the engine that owns it (`engine/screens/topic-book.ts`).
 */
export const topicKinds = {
  status: kind<StatusView, StatusDiff>('shared', (whole, { devices, ...rest }) => ({
    ...whole,
    ...rest,
    devices: applyMap(whole.devices, devices),
  })),
  tally: kind<TallyView, { readonly devices: MapDiff<TallyView['devices'][string]> }>('shared', (whole, diff) => ({
    devices: applyMap(whole.devices, diff.devices),
  })),
  clocks: kind<ClocksView, MapDiff<ClocksView[string]>>('shared', applyMap),
  outputs: kind<OutputsView, MapDiff<OutputsView[string]>>('shared', applyMap),
  runs: kind<RunsView, MapDiff<RunView>>('shared', applyMap),
  head: kind<HeadView, HeadView>('desk', merge),
  pulse: kind<PulseView, PulseView>('desk', merge),
  access: kind<AccessView, AccessView>('desk', merge),
  screens: kind<ScreensView, MapDiff<ScreenView>>('desk', applyMap),
  'line-check': kind<LineCheckView, LineCheckDiff>('desk', (whole, { items, ...rest }) => ({
    ...whole,
    ...rest,
    items: applyMap(whole.items, items),
  })),
  'walk-round': kind<WalkRoundView, { readonly questions: MapDiff<WalkQuestion> }>('walk', (whole, diff) => ({
    questions: applyMap(whole.questions, diff.questions),
  })),
  drills: kind<DrillsView, DrillsView>('desk', merge),
  'burn-in': kind<BurnInView, BurnInView>('desk', merge),
  health: kind<HealthView, HealthDiff>('desk', (whole, { devices, charts, screens, ...rest }) => ({
    ...whole,
    ...rest,
    devices: applyMap(whole.devices, devices),
    charts: applyMap(whole.charts, charts),
    screens: applyMap(whole.screens, screens),
  })),
  wire: kind<RowsView<WireRow>, RowsView<WireRow>>('desk', (whole, { rows }) => ({
    rows: keptWire([...whole.rows, ...rows]),
  })),
  'as-run': kind<RowsView<AsRunRow>, RowsView<AsRunRow>>('desk', (whole, { rows }) => ({
    rows: keptAsRun([...whole.rows, ...rows]),
  })),
  /** The id may carry a context: see `contextKey`. */
  page: kind<PageView, PageDiff>(
    'page',
    (whole, diff) => ({
      layout: diff.layout ?? whole.layout,
      controls: applyMap(whole.controls, diff.controls),
      faces: applyMap(whole.faces, diff.faces),
    }),
    true,
  ),
  gear: kind<GearBindings, GearBindings>('shared', merge),
  linked: kind<LinkedView, LinkedView>('panel', merge, true),
  macro: kind<MacroRunsView, Partial<MacroRunsView>>('desk', merge, true),
  readings: kind<ReadingsView, MapDiff<Reading>>('desk', applyMap, true),
};

type TopicKinds = typeof topicKinds;
export type TopicKindName = keyof TopicKinds;
type WithId = 'page' | 'linked' | 'macro' | 'readings';
/** What a topic of a kind is called on the line: `status`, `page:race`. */
type NameOf<K extends TopicKindName> = K extends WithId ? `${K}:${string}` : K;
export type TopicName = { [K in TopicKindName]: NameOf<K> }[TopicKindName];
type KindOf<N extends TopicName> = N extends `${infer K extends WithId}:${string}`
  ? K
  : N extends TopicKindName
    ? N
    : never;

export type WholeOf<K extends TopicKindName> = Parameters<TopicKinds[K]['apply']>[0];
type DiffOfKind<K extends TopicKindName> = Parameters<TopicKinds[K]['apply']>[1];
export type WholeNamed<N extends TopicName> = WholeOf<KindOf<N>>;
type DiffOf<N extends TopicName> = DiffOfKind<KindOf<N>>;

/** Sends a difference to everybody who follows a topic. */
export type Publish = <N extends TopicName>(topic: N, diff: DiffOf<N>) => void;

/** The kind and the id of a topic; `undefined` for a name that no topic can have. The id is empty where its kind has none. */
export function readTopic(name: string): { readonly kind: TopicKindName; readonly id: string } | undefined {
  const at = name.indexOf(':');
  const found = at === -1 ? name : name.slice(0, at);
  if (!Object.hasOwn(topicKinds, found)) return undefined;
  const known = found as TopicKindName;
  const id = at === -1 ? '' : name.slice(at + 1);
  return topicKinds[known].hasId === (id !== '') ? { kind: known, id } : undefined;
}

/** The page that a topic is about, without its context; `undefined` for topics that are about none. */
export const pageOfTopic = (name: string): string | undefined =>
  name.startsWith('page:') ? name.slice('page:'.length).split(';', 1)[0] : undefined;

/** The whole of a topic after a difference. A topic that is not known stays as it is. */
export function applyDiff(name: string, whole: unknown, diff: unknown): unknown {
  const topic = readTopic(name);
  if (!topic) return whole;
  // Both come from the engine under this name, which typed them when it published them.
  return (topicKinds[topic.kind].apply as (whole: unknown, diff: unknown) => unknown)(whole, diff);
}
