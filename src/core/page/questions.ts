import {
  checkValue,
  memberKey,
  splitSeveral,
  type DriverDocument,
  type DriverParameter,
  type ValueShape,
} from '../driver';
import type { Question } from '../live';
import { fail, ok, type Problem, type Result, type Scalar } from '../result';
import { sendsOfControl, valueNameOf, type ControlRecord, type MacroRecord, type SentArgument } from '../show';
import { sendsOf, withSendParam, type ResponseGesture } from './control-edits';
import { freeValueName, listedValues } from './series';

type Data = ControlRecord['data'];
type Asked = NonNullable<Data['responses']['asks']>;
type Readings = Readonly<Record<string, { readonly value?: Scalar }>>;

/** Where the things are that the answers are for. */
export interface AnswerTakers {
  readonly documentOf: (device: string) => DriverDocument | undefined;
  readonly readingsOf: (device: string) => Readings;
  readonly macroOf: (id: string) => MacroRecord | undefined;
}

const plainText: ValueShape = { type: 'text' };

/** What a control asks, each as the command or macro takes it that the answer is for. */
export function questionsOf(data: Data, takers: AnswerTakers): Question[] {
  return (data.responses.asks?.items ?? []).map(({ value, title, options }) => {
    const now = data.values[value];
    const taken = takerOf(data, value, takers);
    const own = options?.map((each) => ({ value: each, title: String(each) }));
    return {
      value,
      title,
      shape: taken?.shape ?? plainText,
      ...(own === undefined && taken?.takes ? { takes: taken.takes } : {}),
      ...(taken?.isOptional ? { isOptional: true as const } : {}),
      ...((own ?? taken?.options) ? { options: own ?? taken?.options } : {}),
      ...(now === undefined ? {} : { now }),
    };
  });
}

/** True when an argument is the value of that name. */
const isValue = (argument: SentArgument | undefined, name: string): boolean => valueNameOf(argument) === name;

type Taken = Pick<Question, 'shape' | 'options' | 'takes' | 'isOptional'>;

function takerOf(data: Data, name: string, { documentOf, readingsOf, macroOf }: AnswerTakers): Taken | undefined {
  for (const send of sendsOfControl(data)) {
    const id = Object.keys(send.params).find((each) => isValue(send.params[each], name));
    const param = id === undefined ? undefined : documentOf(send.device)?.commands[send.command]?.params[id];
    if (param) {
      const { value: shape, takes, optional } = param;
      const isOptional = optional && shape.type === 'text';
      return {
        shape,
        ...optionsOf(param, readingsOf(send.device)),
        ...(takes ? { takes } : {}),
        ...(isOptional ? { isOptional } : {}),
      };
    }
  }
  const { runs } = data.responses;
  const fed = Object.keys(runs?.params ?? {}).find((each) => isValue(runs?.params[each], name));
  const param = runs && macroOf(runs.macro)?.data.params.find((each) => each.name === fed);
  return param && takenAs(param.value);
}

function optionsOf(param: DriverParameter, readings: Readings): Pick<Question, 'options'> {
  const { value: shape, listFrom } = param;
  if (shape.type === 'choice') return { options: shape.choices.map(({ value, title }) => ({ value, title })) };
  if (shape.type === 'onOff') return { options: onOrOff };
  const listed = listFrom === undefined ? [] : listedValues(param, readings);
  if (listed.length === 0) return {};
  const nameOf = (value: Scalar) => String(readings[memberKey(listFrom ?? '', Number(value))]?.value ?? '');
  return {
    options: listed.map((value) => ({
      value,
      title: param.sends === 'value' ? String(value) : `${value} ${nameOf(value)}`.trim(),
    })),
  };
}

const onOrOff: Question['options'] = [
  { value: true, title: 'on' },
  { value: false, title: 'off' },
];

/** A parameter of a macro takes what its usual value is. */
const takenAs = (value: Scalar): Pick<Question, 'shape' | 'options'> =>
  typeof value === 'boolean'
    ? { shape: { type: 'onOff', on: 'on', off: 'off' }, options: onOrOff }
    : { shape: typeof value === 'number' ? { type: 'decimal' } : plainText };

/** The answers, or which of them will not do and why. */
export function checkAnswers(
  questions: readonly Question[],
  given: Readonly<Record<string, Scalar>>,
): Result<Readonly<Record<string, Scalar>>, Problem> {
  const answers: Record<string, Scalar> = {};
  for (const { value, title, shape, options, takes, isOptional } of questions) {
    const answer = given[value];
    if (answer === undefined || answer === '') {
      if (!isOptional) return fail({ path: value, message: `${title}: not answered yet.` });
      answers[value] = '';
      continue;
    }
    const isListed = (each: Scalar) => options === undefined || options.some((option) => option.value === each);
    const isOffered =
      takes === 'examples' || (takes === 'several' ? splitSeveral(String(answer)).every(isListed) : isListed(answer));
    const checked = isOffered ? checkValue(shape, answer) : fail('is none of what there is to choose from');
    if (!checked.ok) return fail({ path: value, message: `${title} ${checked.error}.` });
    answers[value] = checked.value;
  }
  return ok(answers);
}

/** The control as the answers make it. */
export const answered = (control: ControlRecord, answers: Readonly<Record<string, Scalar>>): ControlRecord => ({
  ...control,
  data: { ...control.data, values: { ...control.data.values, ...answers } },
});

/** What could be asked: a parameter of one of the control's commands, or of the macro that it begins. */
export type Askable =
  | { readonly of: 'send'; readonly gesture: ResponseGesture; readonly index: number; readonly param: string }
  | { readonly of: 'macro'; readonly param: string };

const startAsks: Asked = { mostMs: 30_000, items: [] };

/** Has a parameter asked for at the press; its present value is the first answer. */
export function askFor(data: Data, about: Askable, title: string, now: Scalar | undefined): Data {
  const { runs } = data.responses;
  const before =
    about.of === 'macro' ? runs?.params[about.param] : sendsOf(data, about.gesture)[about.index]?.params[about.param];
  const tied = valueNameOf(before);
  const value = tied ?? freeValueName(data, about.param);
  const start = tied === undefined ? (typeof before === 'object' ? now : (before ?? now)) : data.values[tied];
  const { mostMs, items } = data.responses.asks ?? startAsks;
  if (items.length >= mostAsked || items.some((each) => each.value === value)) return data;
  const fed =
    about.of === 'send'
      ? withSendParam(data, about.gesture, about.index, about.param, { value })
      : runs
        ? {
            ...data,
            responses: { ...data.responses, runs: { ...runs, params: { ...runs.params, [about.param]: { value } } } },
          }
        : data;
  const asks = { mostMs, items: [...items, { value, title: title.slice(0, 40) }] };
  return {
    ...fed,
    values: start === undefined ? fed.values : { ...fed.values, [value]: start },
    responses: { ...fed.responses, asks },
  };
}

/** The most questions at one press. */
export const mostAsked = 6;

/** Changes one question; `undefined` takes it out. What it was for keeps the value that stood there. */
export function changeAsked(data: Data, value: string, to: Asked['items'][number] | undefined): Data {
  const { asks, ...others } = data.responses;
  if (!asks) return data;
  const items = asks.items.flatMap((each) => (each.value !== value ? [each] : to ? [to] : []));
  return { ...data, responses: items.length > 0 ? { ...others, asks: { ...asks, items } } : others };
}
