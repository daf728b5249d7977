import { inputs, parts, type Refusal, type ScreenModel, type ScreenState } from './model';

/** What a screen says of itself, besides its state. */
interface ScreenLabel {
  readonly class: 1 | 2;
  readonly name: string;
  readonly model: string;
}

const powers = { off: '0', on: '1', cooling: '2', warming: '3' } as const;
const healths = { well: '0', warning: '1', error: '2' } as const;
const done = 'OK';
const errors = { unknown: 'ERR1', parameter: 'ERR2', time: 'ERR3' } as const;

/**
 * The answer of a screen to one line, without its ending. PJLink Class 1 specification (2013), 2 and 4; Class 2 specification (2017), 2 and 4. A line that
 * is no command at all has no answer.
 */
export function answerTo(line: string, model: ScreenModel, label: ScreenLabel): string | undefined {
  const [, ofClass = '', name = '', parameter = ''] = /^%([12])([0-9A-Z]{4}) (.+)$/.exec(line) ?? [];
  if (name === '') return undefined;
  const known = ofClass === '2' && label.class === 2 ? { ...classOne, ...classTwo } : ofClass === '1' ? classOne : {};
  const answer = known[name]?.(parameter, model, label) ?? errors.unknown;
  return `%${ofClass}${name}=${answer}`;
}

type Answer = (parameter: string, model: ScreenModel, label: ScreenLabel) => string;

const told = (refusal: Refusal | undefined): string => (refusal === undefined ? done : errors[refusal]);

/** A question only: any other parameter is wrong. */
const asked =
  (tell: (state: ScreenState, label: ScreenLabel) => string): Answer =>
  (parameter, { state }, label) =>
    parameter === '?' ? tell(state, label) : errors.parameter;

/** A question that a screen answers only while it is on. */
const whileOn =
  (tell: (state: ScreenState) => string): Answer =>
  (parameter, { state }) =>
    parameter !== '?' ? errors.parameter : state.power === 'on' ? tell(state) : errors.time;

const mutes: Readonly<Record<string, Parameters<ScreenModel['setMute']>[0]>> = {
  '10': { isBlank: false },
  '11': { isBlank: true },
  '20': { isMuted: false },
  '21': { isMuted: true },
  '30': { isBlank: false, isMuted: false },
  '31': { isBlank: true, isMuted: true },
};

const steps = (what: 'volume' | 'microphone'): Answer => {
  return (parameter, model) => {
    if (parameter !== '0' && parameter !== '1') return errors.parameter;
    return told(model.step(what, parameter === '1' ? 1 : -1));
  };
};

const signalOf = (id: string): string => inputs.find((input) => input.id === id)?.signal ?? '';

const classOne: Readonly<Record<string, Answer>> = {
  POWR: (parameter, model) => {
    if (parameter === '?') return powers[model.state.power];
    return parameter === '0' || parameter === '1' ? told(model.setPower(parameter === '1')) : errors.parameter;
  },
  INPT: (parameter, model) => {
    if (parameter !== '?') return told(model.setInput(parameter));
    return model.state.power === 'on' ? model.state.input : errors.time;
  },
  AVMT: (parameter, model) => {
    const { power, isBlank, isMuted } = model.state;
    if (parameter !== '?') return mutes[parameter] ? told(model.setMute(mutes[parameter])) : errors.parameter;
    if (power !== 'on') return errors.time;
    // Both, the picture only, the sound only, or neither (Class 1, 4.6).
    return isBlank && isMuted ? '31' : isBlank ? '11' : isMuted ? '21' : '30';
  },
  ERST: asked(({ health }) => parts.map((part) => healths[health[part]]).join('')),
  LAMP: asked(({ lampHours, power }) => `${lampHours} ${power === 'on' || power === 'warming' ? 1 : 0}`),
  INST: asked(() => inputs.map(({ id }) => id).join(' ')),
  NAME: asked((_state, { name }) => name),
  INF1: asked(() => 'Stand-in'),
  INF2: asked((_state, { model }) => model),
  INFO: asked(() => ''),
  CLSS: asked((_state, { class: own }) => String(own)),
};

const classTwo: Readonly<Record<string, Answer>> = {
  SNUM: asked(() => '2071A'),
  SVER: asked(() => '1.4'),
  // ? and the input, without a space (Class 2, 4.5).
  INNM: (parameter) =>
    inputs.find(({ id }) => parameter === `?${id}`)?.name ??
    (parameter.startsWith('?') ? errors.parameter : errors.unknown),
  IRES: whileOn(({ input }) => signalOf(input) || '-'),
  RRES: asked(() => '1920x1080'),
  FILT: asked(({ lampHours }) => String(lampHours)),
  RLMP: asked(() => 'L-40'),
  RFIL: asked(() => 'F-12'),
  SVOL: steps('volume'),
  MVOL: steps('microphone'),
  FREZ: (parameter, model) => {
    if (parameter === '?') return model.state.power === 'on' ? (model.state.isFrozen ? '1' : '0') : errors.time;
    return parameter === '0' || parameter === '1' ? told(model.setFrozen(parameter === '1')) : errors.parameter;
  },
};
