import type { DriverDocument, OfferedStarter } from '../driver';
import { memberKey } from '../driver';
import type { Scalar } from '../result';
import type { Argument, ControlRecord, LabelSegment, Meaning } from './records';
import { resolveArgument } from './values';

/**
 * The simple form of a control: one command with its parameters, one lamp. What the form does not know (further sends,
 * further lamp rules) stays as it is.
 */
export interface ControlForm {
  readonly device: string;
  readonly command: string;
  readonly params: Readonly<Record<string, Scalar>>;
  readonly lamp: { readonly show: Meaning; readonly key: string; readonly to: Scalar } | null;
}

/** True for a control whose commands go on while it is held. */
export const isHeld = ({ responses }: ControlRecord['data']): boolean =>
  responses.tap.length === 0 && (responses.held?.length ?? 0) > 0;

/** What the form shows of a control. A control without a response has an empty command. */
export function formOf({ data }: ControlRecord): ControlForm {
  const [send] = isHeld(data) ? (data.responses.held ?? []) : data.responses.tap;
  const [rule] = data.lamps;
  const params: Record<string, Scalar> = {};
  for (const [name, argument] of Object.entries(send?.params ?? {})) {
    const value = resolveArgument(argument, data.values);
    if (value !== undefined) params[name] = value;
  }
  const lamp =
    rule && 'op' in rule.when && rule.when.op === 'equals'
      ? { show: rule.show, key: rule.when.reading.key, to: resolveArgument(rule.when.to, data.values) ?? '' }
      : null;
  return { device: send?.device ?? '', command: send?.command ?? '', params, lamp };
}

/**
 * The control with the form's content. A parameter that is a value of the control stays one, so that its label and its
 * lamp, which use the same value, go with it.
 */
export function withForm(control: ControlRecord, form: ControlForm, label: LabelSegment[]): ControlRecord {
  const { data } = control;
  const held = isHeld(data);
  const [first, ...otherSends] = held ? (data.responses.held ?? []) : data.responses.tap;
  const values: Record<string, Scalar> = { ...data.values };
  const params: Record<string, Argument> = {};
  const before = first?.device === form.device && first.command === form.command ? first.params : {};
  for (const [name, value] of Object.entries(form.params)) {
    const old = before[name];
    if (typeof old === 'object') {
      values[old.value] = value;
      params[name] = old;
    } else params[name] = value;
  }
  const tap = form.command ? [{ device: form.device, command: form.command, params }, ...otherSends] : otherSends;
  const responses = held ? { ...data.responses, held: tap } : { ...data.responses, tap };
  return { ...control, data: { ...data, label, values, responses, lamps: lampsWith(control, form, values) } };
}

function lampsWith(
  control: ControlRecord,
  form: ControlForm,
  values: Record<string, Scalar>,
): ControlRecord['data']['lamps'] {
  const [rule, ...others] = control.data.lamps;
  if (!form.lamp) return others;
  const { show, key, to } = form.lamp;
  const old = rule && 'op' in rule.when && rule.when.op === 'equals' ? rule.when : undefined;
  const tied = old && typeof old.to === 'object' && old.reading.key === key && old.reading.device === form.device;
  // The lamp is about the same value as the response: it stays tied to it, unless somebody set it apart.
  const wasSame = old && resolveArgument(old.to, control.data.values) === to;
  const same = tied && wasSame ? old.to : (tieOf(values, to) ?? to);
  const word = rule && rule.show === show ? rule.word : undefined;
  return [
    { when: { op: 'equals', reading: { device: form.device, key }, to: same }, show, ...(word ? { word } : {}) },
    ...others,
  ];
}

function tieOf(values: Record<string, Scalar>, to: Scalar): Argument | undefined {
  const name = Object.keys(values).find((each) => values[each] === to);
  return name === undefined ? undefined : { value: name };
}

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
): Pick<ControlRecord['data'], 'label' | 'values' | 'responses' | 'lamps'> {
  const command = document.commands[commandId];
  const values: Record<string, Scalar> = {};
  const params: Record<string, Argument> = {};
  let label: LabelSegment[] = [{ text: command?.title ?? 'New' }];
  for (const [name, param] of Object.entries(command?.params ?? {})) {
    const value = given[name] ?? param.default;
    if (param.optional && value === undefined) continue;
    values[name] = value ?? firstValue(param.value);
    params[name] = { value: name };
    if (param.listFrom) label = [{ reading: { device, key: memberKey(param.listFrom, `$${name}`) } }];
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
  { title, labelFrom, command, params, held, lamp }: OfferedStarter,
): Pick<ControlRecord['data'], 'label' | 'values' | 'responses' | 'lamps'> {
  const label: LabelSegment[] = labelFrom ? [{ reading: { device, key: labelFrom } }] : [{ text: title }];
  const send = { device, command, params: { ...params } };
  const lamps = lamp
    ? [
        {
          when: { op: 'equals' as const, reading: { device, key: lamp.reading }, to: lamp.to },
          show: lamp.show,
          ...(lamp.word === undefined ? {} : { word: lamp.word }),
        },
      ]
    : [];
  return { label, values: {}, responses: held ? { tap: [], held: [send] } : { tap: [send] }, lamps };
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
