import type { DriverDocument, OfferedStarter } from '../driver';
import { memberKey, splitKey } from '../driver';
import type { Scalar } from '../result';
import { mapConditionReadings, type Argument, type ReadingRef } from './conditions';
import type { ControlRecord, LabelSegment, SendSpec } from './records';

/** What a new control starts with. */
export type ControlStart = Pick<ControlRecord['data'], 'label' | 'values' | 'responses' | 'lamps'> &
  Partial<
    Pick<ControlRecord['data'], 'type' | 'tint' | 'icon' | 'range' | 'drive' | 'list' | 'presets' | 'shows' | 'sets'>
  >;

/** True for a control whose commands go on while it is held. */
export const isHeld = ({ responses }: ControlRecord['data']): boolean =>
  responses.tap.length === 0 && (responses.held?.length ?? 0) > 0;

/**
 * What a new control for a command starts with: a label with the name that the device lists, values that label,
 * response and lamp share, and a lamp on what confirms the command.
 */
export function startOf(
  document: DriverDocument,
  device: string,
  commandId: string,
  /** What the parameters shall be instead of their usual values. */
  given: Readonly<Record<string, Scalar>> = {},
): ControlStart {
  const command = document.commands[commandId];
  const values: Record<string, Scalar> = {};
  const params: Record<string, Argument> = {};
  let label: LabelSegment[] = [{ text: command?.title ?? 'New' }];
  for (const [name, param] of Object.entries(command?.params ?? {})) {
    const value = given[name] ?? param.default;
    if (param.optional && value === undefined) continue;
    values[name] = value ?? firstValue(param.value);
    params[name] = { value: name };
    if (param.listFrom && param.sends === 'index')
      label = [{ reading: { device, key: memberKey(param.listFrom, `$${name}`) } }];
  }
  const condition = command?.confirm?.by === 'readings' ? command.confirm.all[0] : undefined;
  const means = condition && document.readings[condition.reading]?.means;
  const equals = condition?.equals;
  const to: Argument | undefined =
    typeof equals === 'object' ? ('param' in equals ? { value: equals.param } : undefined) : equals;
  const lamps =
    condition && means && to !== undefined
      ? [{ when: { op: 'equals' as const, reading: { device, key: condition.reading }, to }, show: means }]
      : [];
  const sends = command ? [{ device, command: commandId, params }] : [];
  // What goes on until it is stopped is held, unless somebody wants it otherwise.
  return { label, values, responses: command?.stop ? { tap: [], held: sends } : { tap: sends }, lamps };
}

/** What a new control made of a starter has: its label, its one command, tapped or held, and its lamp. */
export function startOfStarter(
  device: string,
  { title, label: own, labelFrom, command, params, held, lamps: offered, picture, asks }: OfferedStarter,
  document: DriverDocument,
): ControlStart {
  const readingOf = (key: string): LabelSegment => ({ reading: { device, key } });
  const label: LabelSegment[] = own
    ? own.map((each) => (typeof each === 'string' ? { text: each } : readingOf(each.reading)))
    : [labelFrom ? readingOf(labelFrom) : { text: title }];
  const lamps = offered.map(({ reading, to, show, word }) => ({
    when: { op: 'equals' as const, reading: { device, key: reading }, to },
    show,
    ...(word === undefined ? {} : { word }),
  }));
  if (command === undefined) return { type: 'readout', label, values: {}, responses: { tap: [] }, lamps };
  const send = { device, command, params: { ...params } };
  const start = { label, values: {}, responses: held ? { tap: [], held: [send] } : { tap: [send] }, lamps };
  if (asks.length > 0) return withQuestions(start, send, asks, document);
  return picture === undefined ? start : withPicture(start, { device, key: picture });
}

/** A tap first asks for these parameters; each is a value of the control. */
function withQuestions(
  start: ControlStart,
  send: SendSpec,
  asks: readonly string[],
  { commands }: DriverDocument,
): ControlStart {
  const params = commands[send.command]?.params ?? {};
  const asked = asks.flatMap((name) => {
    const param = params[name];
    return param ? [{ name, title: param.title, value: firstValue(param.value), usual: param.default }] : [];
  });
  return {
    ...start,
    values: Object.fromEntries(
      asked.map(({ name, value, usual }) => {
        const given = send.params[name];
        return [name, typeof given === 'object' || given === undefined ? (usual ?? value) : given];
      }),
    ),
    responses: {
      tap: [
        {
          ...send,
          params: { ...send.params, ...Object.fromEntries(asked.map(({ name }) => [name, { value: name }])) },
        },
      ],
      asks: { mostMs: askedWithinMs, items: asked.map(({ name, title }) => ({ value: name, title })) },
    },
  };
}

/** Somebody types a name. */
const askedWithinMs = 120_000;

/** What shows a picture of its item counts with it: the item is a value that label, command, lamps and picture share. */
function withPicture(start: ControlStart, picture: ReadingRef): ControlStart {
  const { index } = splitKey(picture.key);
  const [send] = start.responses.tap;
  const name = Object.entries(send?.params ?? {}).find(([, value]) => value === index)?.[0];
  if (!send || index === undefined || name === undefined)
    return { ...start, shows: { kind: 'picture', reading: picture } };
  const counted = ({ device, key }: ReadingRef): ReadingRef => ({
    device,
    key: key.replace(`[${index}]`, `[$${name}]`),
  });
  return {
    values: { [name]: index },
    label: start.label.map((part) => ('reading' in part ? { reading: counted(part.reading) } : part)),
    responses: { tap: [{ ...send, params: { ...send.params, [name]: { value: name } } }] },
    lamps: start.lamps.map((lamp) => ({ ...lamp, when: mapConditionReadings(lamp.when, counted) })),
    shows: { kind: 'picture', reading: counted(picture) },
  };
}

function firstValue(shape: DriverDocument['commands'][string]['params'][string]['value']): Scalar {
  switch (shape.type) {
    case 'whole':
    case 'decimal':
      return typeof shape.min === 'number' ? Math.max(shape.min, 0) : 0;
    case 'time':
      return shape.min ?? 0;
    case 'colour':
      return '#808080';
    case 'payload':
    case 'text':
      return '';
    case 'choice':
      return shape.choices[0]?.value ?? '';
    case 'onOff':
      return false;
  }
}
