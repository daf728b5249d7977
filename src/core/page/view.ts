import { memberKey, namedValues, valueWithUnit, type DriverDocument, type ValueShape } from '../driver';
import type { ControlView } from '../live';
import { sendsOfMacro } from '../macro';
import { handlingOf } from '../press';
import {
  drivenBy,
  snapshotCalled,
  stickSettings,
  type ControlRecord,
  type DeviceRecord,
  type MacroRecord,
} from '../show';

interface Sources {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  /** How a device is set to be steered. */
  readonly steeringOf?: (device: string) => DeviceRecord['data']['steering'];
  /** The tag of a device, where the page shows tags. */
  readonly tagOf: (device: string) => string | undefined;
  /** The macros of the show: one that sends what is risky is begun as that would be sent. */
  readonly macroOf: (id: string) => MacroRecord | undefined;
  /** True for the number of a snapshot that would show only black: calling it up has to be confirmed. */
  readonly isBlack?: (snapshot: number) => boolean;
}

/** What a screen has to know of a control besides its face: its place, its kind, and how it wants to be handled. */
export function viewOf(
  data: ControlRecord['data'],
  { documentOf, steeringOf, tagOf, macroOf, isBlack }: Sources,
): ControlView {
  const { type, col, row, cols, rows, tint, icon, picture, sets } = data;
  const { pressable, sends, holds, guard, asks } = handlingOf(data, {
    isRisky: (send) => {
      if (documentOf(send.device)?.commands[send.command]?.risky) return true;
      const snapshot = snapshotCalled(send, data.values);
      return snapshot !== undefined && isBlack?.(snapshot) === true;
    },
    sendsOfMacro: (macro) => sendsOfMacro(macro, macroOf),
  });
  const badge = drivenBy(data).flatMap((device) => tagOf(device) ?? []);
  return {
    type,
    col,
    row,
    cols,
    rows,
    pressable,
    sends,
    guarded: guard !== undefined,
    ...(guard === 'twice' ? { twice: true as const } : {}),
    holds,
    ...(asks ? { asks: true as const } : {}),
    ...(tint ? { tint } : {}),
    ...(icon ? { icon } : {}),
    ...(picture ? { picture } : {}),
    ...(sets ? { sets } : {}),
    ...(badge.length > 0 ? { badge: badge.join(' ') } : {}),
    ...rangeView(data, documentOf),
    ...listView(data, documentOf),
    ...presetsView(data, documentOf),
    ...stickView(data, documentOf, steeringOf),
  };
}

function rangeView({ range }: ControlRecord['data'], documentOf: Sources['documentOf']): Pick<ControlView, 'range'> {
  if (!range) return {};
  const shape = documentOf(range.send.device)?.commands[range.send.command]?.params[range.param]?.value;
  const decimals = shape?.type === 'decimal' ? (shape.decimals ?? 2) : 0;
  const unit = shape && 'unit' in shape ? (shape.unit ?? '') : '';
  const { min, max, quicken = 1, jumps } = range;
  const step = 10 ** -decimals;
  const tick = range.tick ?? Math.max(step, (max - min) / 100);
  return {
    range: {
      min,
      max,
      step,
      unit,
      tick,
      quicken,
      ...(jumps ? { jumps } : {}),
      ...(shape?.type === 'time' ? { isTime: true } : {}),
      ...namesView(shape, min, max),
    },
  };
}

function namesView(shape: ValueShape | undefined, min: number, max: number): { names?: readonly string[] } {
  if (!shape || !Number.isInteger(min) || namedValues(shape).length === 0) return {};
  const count = Math.min(256, Math.floor(max) - min + 1);
  return { names: Array.from({ length: Math.max(0, count) }, (_, n) => valueWithUnit(shape, min + n)) };
}

function listView({ list }: ControlRecord['data'], documentOf: Sources['documentOf']): Pick<ControlView, 'list'> {
  const document = list && documentOf(list.device);
  const definition = document?.lists[list?.list ?? ''];
  if (!list || !definition) return {};
  const acts = definition.acts.map(({ title, command, params, ask }) => {
    const asked = ask === undefined ? undefined : document?.commands[command]?.params[ask]?.title;
    return {
      title,
      item: Object.values(params).some((param) => typeof param === 'object'),
      guarded: document?.commands[command]?.risky ?? false,
      ...(asked === undefined ? {} : { ask: asked }),
    };
  });
  return { list: { form: list.form, acts } };
}

function presetsView(
  { presets }: ControlRecord['data'],
  documentOf: Sources['documentOf'],
): Pick<ControlView, 'presets'> {
  if (!presets) return {};
  const { device, columns, recallsOnly } = presets;
  const of = device === undefined ? undefined : documentOf(device)?.presets;
  return {
    presets: {
      ...(columns === undefined ? {} : { columns }),
      // Where several cameras are mixed, nothing new is stored.
      stores: of !== undefined && !recallsOnly,
      changes: !recallsOnly,
      forgets: of?.forget !== undefined && !recallsOnly,
    },
  };
}

/** Which ways a stick goes, and how fast; a rocker goes one way only. */
function stickView(
  { drive }: ControlRecord['data'],
  documentOf: Sources['documentOf'],
  steeringOf: Sources['steeringOf'],
): Pick<ControlView, 'axes' | 'top'> {
  if (!drive) return {};
  const definition = documentOf(drive.device)?.drives[drive.drive];
  const axes = drive.axes ?? (definition && 'more' in definition ? 'along' : undefined);
  const { topX = 1, topY = 1 } = stickSettings(drive, steeringOf?.(drive.device)?.[drive.drive], { slow: false });
  const top = Math.round(100 * (axes !== undefined ? topX : Math.max(topX, topY)));
  return { ...(axes === undefined ? {} : { axes }), ...(top < 100 ? { top } : {}) };
}

/** The condition by which the driver knows that a command's parameter has its value: the reading, and the parameter that is its index. */
export function echoTest(
  document: DriverDocument,
  command: string,
  param: string,
): { readonly reading: string; readonly index?: string | undefined } | undefined {
  const confirm = document.commands[command]?.confirm;
  if (confirm?.by !== 'readings') return undefined;
  return confirm.all.find(({ equals }) => typeof equals === 'object' && 'param' in equals && equals.param === param);
}

/** The reading that shows the present value of a command's parameter, as the driver confirms it. */
export function echoOf(
  document: DriverDocument,
  command: string,
  param: string,
  values: Readonly<Record<string, unknown>>,
): string | undefined {
  const test = echoTest(document, command, param);
  if (!test) return undefined;
  if (test.index === undefined) return test.reading;
  return test.index in values ? memberKey(test.reading, `$${test.index}`) : undefined;
}
