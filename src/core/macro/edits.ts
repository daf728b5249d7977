import type { Edit, MacroData, MacroDoes, MacroRecord, MacroSegment, MacroStep, ShowRecord } from '../show';
import { msOfFrame, nearestFrame, type Rate } from './frames';

type NewId = (kind: 'mac' | 'seg' | 'step') => string;

export const macrosOf = (records: readonly ShowRecord[]): MacroRecord[] =>
  records
    .filter((record): record is MacroRecord => record.kind === 'macro')
    .sort((a, b) => a.data.order - b.data.order || (a.id < b.id ? -1 : 1));

/** A new macro with one segment, empty or with these steps. */
export function newMacroEdit(
  records: readonly ShowRecord[],
  newId: NewId,
  name: string,
  steps: MacroStep[] = [],
): Edit {
  const order = Math.max(0, ...macrosOf(records).map(({ data }) => data.order)) + 1;
  const data: MacroData = {
    name,
    order,
    note: '',
    params: [],
    again: 'ignore',
    whenDown: 'go on',
    segments: [{ id: newId('seg'), name: '', steps }],
  };
  const record: MacroRecord = { kind: 'macro', id: newId('mac'), version: 1, data };
  return { title: `New macro ${name}`, changes: [{ op: 'add', record }] };
}

export const changeMacroEdit = (from: MacroRecord, data: MacroData, what: string): Edit => ({
  title: `${what} of macro ${from.data.name}`,
  changes: [{ op: 'update', from, to: { ...from, data } }],
});

export const removeMacroEdit = (record: MacroRecord): Edit => ({
  title: `Remove macro ${record.data.name}`,
  changes: [{ op: 'remove', record }],
});

export function copyMacroEdit(records: readonly ShowRecord[], from: MacroRecord, newId: NewId): Edit {
  const order = Math.max(0, ...macrosOf(records).map(({ data }) => data.order)) + 1;
  const name = `${from.data.name} copy`.slice(0, 60);
  const record: MacroRecord = { kind: 'macro', id: newId('mac'), version: 1, data: { ...from.data, name, order } };
  return { title: `Copy macro ${from.data.name}`, changes: [{ op: 'add', record }] };
}

/** One segment changed. */
export const withSegment = (
  data: MacroData,
  id: string,
  change: (segment: MacroSegment) => MacroSegment,
): MacroData => ({
  ...data,
  segments: data.segments.map((segment) => (segment.id === id ? change(segment) : segment)),
});

/** Some of the steps changed, wherever they are. */
export const withSteps = (
  data: MacroData,
  ids: ReadonlySet<string>,
  change: (step: MacroStep) => MacroStep,
): MacroData => ({
  ...data,
  segments: data.segments.map((segment) => ({
    ...segment,
    steps: segment.steps.map((step) => (ids.has(step.id) ? change(step) : step)),
  })),
});

/** Moves steps together, by a number of milliseconds. */
export const nudged = (data: MacroData, ids: ReadonlySet<string>, byMs: number): MacroData =>
  withSteps(data, ids, (step) => ({ ...step, at: roundedMs(step.at + byMs) }));

/** One step at another time, in another segment, on another device. One that its segment has no room for stays. */
export function placedStep(
  data: MacroData,
  id: string,
  to: { readonly segment: string; readonly at: number; readonly device?: string },
): MacroData {
  const step = data.segments.flatMap(({ steps }) => steps).find((each) => each.id === id);
  const target = data.segments.find((segment) => segment.id === to.segment);
  if (!step || !target) return data;
  const moved = { ...step, at: roundedMs(to.at), does: onDevice(step.does, to.device) };
  if (target.steps.some((each) => each.id === id)) return withSteps(data, new Set([id]), () => moved);
  if (target.steps.length >= mostSteps) return data;
  return withSegment(withoutSteps(data, new Set([id])), to.segment, (segment) => ({
    ...segment,
    steps: [...segment.steps, moved],
  }));
}

/** The most steps of a segment. */
const mostSteps = 500;

/** The same command to another device. What goes to no device stays as it is. */
function onDevice(does: MacroDoes, device: string | undefined): MacroDoes {
  if (device === undefined) return does;
  if (does.is === 'send') return { ...does, send: { ...does.send, device } };
  if (does.is === 'pulse') return { ...does, on: { ...does.on, device }, off: { ...does.off, device } };
  return does;
}

export const withoutSteps = (data: MacroData, ids: ReadonlySet<string>): MacroData => ({
  ...data,
  segments: data.segments.map((segment) => ({ ...segment, steps: segment.steps.filter(({ id }) => !ids.has(id)) })),
});

/** Copies steps to a later time, each into the segment of its original. @returns the data and the new ids */
export function copiedSteps(
  data: MacroData,
  ids: ReadonlySet<string>,
  byMs: number,
  newId: NewId,
): { readonly data: MacroData; readonly ids: readonly string[] } {
  const made: string[] = [];
  const segments = data.segments.map((segment) => {
    const copies = segment.steps
      .filter(({ id }) => ids.has(id))
      .map((step) => ({ ...step, id: newId('step'), at: roundedMs(step.at + byMs) }));
    made.push(...copies.map(({ id }) => id));
    return copies.length > 0 ? { ...segment, steps: [...segment.steps, ...copies] } : segment;
  });
  return { data: { ...data, segments }, ids: made };
}

/** A segment earlier or later in the row. */
export function movedSegment(data: MacroData, id: string, by: -1 | 1): MacroData {
  const at = data.segments.findIndex((segment) => segment.id === id);
  const to = at + by;
  if (at === -1 || to < 0 || to >= data.segments.length) return data;
  const segments = [...data.segments];
  const [moved] = segments.splice(at, 1);
  if (moved) segments.splice(to, 0, moved);
  return { ...data, segments };
}

/** To a tenth of a millisecond: no device acts more exactly, and frames at 59.94 stay where they are. */
export const roundedMs = (ms: number): number => Math.round(ms * 10) / 10;

/**
 * Where a dragged step comes to lie: on another step or the zero point that is near, else on the nearest frame.
 * @param near how near counts, in milliseconds
 */
export function snapped(ms: number, marks: readonly number[], near: number, rate: Rate): number {
  const nearest = marks.reduce<number | undefined>(
    (best, mark) =>
      Math.abs(mark - ms) <= near && (best === undefined || Math.abs(mark - ms) < Math.abs(best - ms)) ? mark : best,
    undefined,
  );
  return nearest ?? roundedMs(msOfFrame(nearestFrame(ms, rate), rate));
}
