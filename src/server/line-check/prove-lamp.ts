import { expectationsOf, splitKey } from '../../core/driver';
import type { FaceView } from '../../core/face';
import { lookUpNow } from '../../core/lamp';
import { bringAbout, type CheckSend } from '../../core/line-check';
import {
  meaningWords,
  readingsOfCondition,
  resolveArgument,
  resolveParams,
  resolveReading,
  type ControlRecord,
  type LampRule,
} from '../../core/show';
import type { Scalar } from '../../core/result';
import type { PrivateRig } from './private-rig';
import { makeReady, type Seen } from './prove-command';

type Data = ControlRecord['data'];

/** How long a lamp may take to follow what a device reports. */
const followMs = 1500;
/** The same after a control's own commands, which may fade or move something. */
const ownMs = 3500;

interface RuleSeen {
  readonly is: 'lit' | 'wrong' | 'not possible';
  readonly text: string;
}

/**
 * Brings about what lights a control's lamp, rule by rule, and takes it back: the lamp has to light with the rule's meaning and go out again. Then
 * sends what a tap of the control sends: where the lamp is about that, it has to be lit afterwards.
 *
 * @param isNew the stand-ins are in their first state, in which lamps are dark that nothing could put out later
 */
export async function proveLamp(rig: PrivateRig, data: Data, isNew: boolean): Promise<Seen> {
  const rules = data.lamps.filter(({ show }) => show !== undefined);
  const devices = new Set(rules.flatMap((rule) => readingsOfCondition(rule.when).map(({ device }) => device)));
  for (const device of devices) {
    const notReached = rig.device(device) && rig.notReached(device);
    if (notReached !== undefined) return { state: 'unproved', text: notReached };
  }
  const position = await provePosition(rig, data);
  if (position?.is === 'wrong') return { state: 'failed', text: position.text };
  if (rules.length === 0)
    return { state: position ? 'passed' : 'unproved', text: position?.text ?? 'It shows no position.' };
  const early = isNew ? await proveOwn(rig, data, rules, false) : undefined;
  const seen: RuleSeen[] = [];
  for (const rule of rules) seen.push(await proveRule(rig, data, rule));
  const wrong = seen.find(({ is }) => is === 'wrong');
  if (wrong) return { state: 'failed', text: wrong.text };
  const lit = seen.filter(({ is }) => is === 'lit');
  const own = early ?? (await proveOwn(rig, data, rules, lit.length === 0));
  if (own?.is === 'wrong') return { state: 'doubtful', text: own.text };
  if (own?.is === 'lit' && lit.length === 0) return { state: 'passed', text: own.text };
  const open = seen.filter(({ is }) => is === 'not possible').map(({ text }) => text);
  if (lit.length === 0) return { state: 'unproved', text: open[0] ?? 'It has no lamp.' };
  // At new stand-ins it may be dark at first.
  if (own?.is === 'not possible' && !isNew) return { state: 'unproved', text: own.text };
  const count = lit.length === rules.length ? '' : ` (${lit.length} of ${rules.length} rules). ${open[0] ?? ''}`;
  return { state: 'passed', text: `${lit.map(({ text }) => text).join(' ')}${count}`.trim() };
}

/** Sends a value from the middle of a fader’s range, and looks whether the fader shows it. `undefined` where it could not be sent. */
async function provePosition(rig: PrivateRig, { range, ...rest }: Data): Promise<RuleSeen | undefined> {
  if (!range?.reading) return undefined;
  const { send, param, min } = range;
  const max = range.most ? Number(rig.valueNow(resolveReading(range.most, rest.values)) ?? range.max) : range.max;
  const shape = rig.documentOf(send.device)?.commands[send.command]?.params[param]?.value;
  const exact = min + (max - min) / 4;
  const value = shape?.type === 'decimal' ? exact : Math.round(exact);
  const params = { ...resolveParams(send.params, rest.values, lookUpIn(rig, rest.values)), [param]: value };
  const document = rig.documentOf(send.device);
  if (document) await makeReady(rig, document, send);
  const { outcome } = await rig.send({ device: send.device, command: send.command, params });
  if (outcome !== 'confirmed' && outcome !== 'sent') return undefined;
  const slack = (max - min) / 100;
  const shows = () => Math.abs((rig.face({ ...rest, range }).range?.value ?? Infinity) - value) <= slack;
  if (await rig.until(shows, ownMs)) return { is: 'lit', text: 'Its position follows its command.' };
  const now = rig.face({ ...rest, range }).range?.text ?? '–';
  return { is: 'wrong', text: `It was set to ${value}, but shows ${now}.` };
}

async function proveRule(rig: PrivateRig, data: Data, rule: LampRule): Promise<RuleSeen> {
  const { show, word } = rule;
  const name = word ?? meaningWords[show ?? 'active'];
  const isLit = () => rig.face(data).lamp.show === show;
  const waitMs = followMs + longestWait(rule.when);
  // Already lit: it goes out first, so that it is seen to light.
  await bringTo(rig, data, rule, false);
  let wasLit = false;
  let lampThen: FaceView['lamp'] = { show: 'off' };
  const look = async () => {
    wasLit ||= await rig.until(isLit, waitMs);
    lampThen = rig.face(data).lamp;
  };
  const on = await bringTo(rig, data, rule, true, look);
  if (!on.ok) return { is: 'not possible', text: `“${name}” could not be brought about: ${on.error}` };
  if (!wasLit) {
    const earlier = data.lamps.slice(0, data.lamps.indexOf(rule)).some((other) => other.show === lampThen.show);
    if (earlier) return { is: 'not possible', text: `“${name}” is hidden by a rule before it.` };
    return { is: 'wrong', text: `What lights “${name}” was reported, but the lamp was ${lampWord(lampThen)}.` };
  }
  const off = await bringTo(rig, data, rule, false);
  if (!off.ok) return { is: 'lit', text: `${name} lit.` };
  const wentOut = await rig.until(() => !isLit(), waitMs);
  if (!wentOut && !othersShow(data, rule))
    return { is: 'wrong', text: `“${name}” stayed lit after what lights it was gone.` };
  return { is: 'lit', text: `${name} lit and went out.` };
}

/** True when another rule has the same meaning: then the lamp may stay lit for another reason. */
const othersShow = ({ lamps }: Data, rule: LampRule): boolean =>
  lamps.some((other) => other !== rule && other.show === rule.show);

/** Makes a rule's condition true or false, and looks before what goes on only for a while is stopped. */
async function bringTo(
  rig: PrivateRig,
  data: Data,
  rule: LampRule,
  isTrue: boolean,
  look?: () => Promise<void>,
): Promise<{ ok: true } | { ok: false; error: string }> {
  const steps = bringAbout(rule.when, isTrue, data.values, rig);
  if (!steps.ok) return steps;
  if (steps.value.length === 0) await look?.();
  for (const [n, step] of steps.value.entries()) {
    const isLast = n === steps.value.length - 1;
    const { outcome, reason } = await rig.send(step, isLast ? look : undefined);
    if (outcome !== 'confirmed' && outcome !== 'sent')
      return { ok: false, error: reason ?? `A command ended as ${outcome}.` };
  }
  return { ok: true };
}

/** Sends what a tap of the control sends, and looks whether its lamp lights. `undefined` where that says nothing about the lamp. */
async function proveOwn(
  rig: PrivateRig,
  data: Data,
  rules: readonly LampRule[],
  isOnlyProof: boolean,
): Promise<RuleSeen | undefined> {
  const sends = ownSends(rig, data);
  const isAbout = isAboutLamp(rig, data, rules, sends);
  if (isAbout === 'no' || (isAbout === 'perhaps' && !isOnlyProof)) return undefined;
  const isLit = () => rig.face(data).lamp.show !== 'off';
  let canGoOut = true;
  if (isLit()) for (const rule of rules) canGoOut &&= (await bringTo(rig, data, rule, false)).ok;
  // Lit all the time, it shows nothing of this command.
  if (!(await rig.until(() => !isLit(), canGoOut ? followMs : 0)))
    return { is: 'not possible', text: 'Its lamp could not be put out.' };
  const waitMs = ownMs + Math.max(0, ...rules.map(({ when }) => longestWait(when)));
  // It may be lit only while the command is under way: a transition, a restart.
  const watched = rig.watch(isLit);
  let wasLit = false;
  try {
    for (const send of sends) {
      const isSeen = () => watched.isSeen() || isLit();
      const look = async () => (wasLit ||= await rig.until(isSeen, send === sends.at(-1) ? waitMs : 0));
      let { outcome } = await rig.send(send, look);
      // An answer that came late, on a busy computer, says nothing of the lamp.
      if (outcome === 'late') ({ outcome } = await rig.send(send, look));
      if (outcome === 'late') return { is: 'not possible', text: 'Its own command was not confirmed in time.' };
      if (outcome !== 'confirmed' && outcome !== 'sent') return undefined;
    }
  } finally {
    watched.end();
  }
  if (wasLit) return { is: 'lit', text: 'Lit by its own command.' };
  const text =
    'Its own command was confirmed, but its lamp stayed dark: does it show another source than the one that it sends?';
  return { is: 'wrong', text };
}

/** What a tap of a plain button sends; nothing for controls of which a tap does not do the same each time. */
function ownSends(rig: PrivateRig, { type, responses, values }: Data): CheckSend[] {
  const { tap, turns, held, asks } = responses;
  if (type !== 'button' || turns || held || asks) return [];
  const lookUp = lookUpIn(rig, values);
  return tap.map(({ device, command, params }) => ({ device, command, params: resolveParams(params, values, lookUp) }));
}

/**
 * Whether a lamp is about what the control sends: `yes` where it tests the kind of reading that the command changes, or another reading of the
 * device for the same number or text; `perhaps` where it is only about the same device.
 */
function isAboutLamp(
  rig: PrivateRig,
  data: Data,
  rules: readonly LampRule[],
  sends: readonly CheckSend[],
): 'yes' | 'perhaps' | 'no' {
  const tested = rules.flatMap(({ when }) => readingsOfCondition(when).map((ref) => resolveReading(ref, data.values)));
  const families = new Set(tested.map(({ key }) => splitKey(key).family));
  const wanted = new Set(rules.flatMap(({ when }) => comparedWith(when, data.values)));
  const devices = new Set(tested.map(({ device }) => device));
  for (const { device, command: id, params } of sends) {
    const command = rig.documentOf(device)?.commands[id];
    const readingNow = (key: string) => rig.valueNow({ device, key });
    const expected = command && expectationsOf(command, params, readingNow);
    for (const { key, equals } of expected ?? []) {
      if (families.has(splitKey(key).family)) return 'yes';
      if (devices.has(device) && equals !== undefined && typeof equals !== 'boolean' && wanted.has(equals))
        return 'yes';
    }
  }
  return sends.some(({ device }) => devices.has(device)) ? 'perhaps' : 'no';
}

/** The values that a condition compares readings with. */
function comparedWith(condition: LampRule['when'], values: Data['values']): Scalar[] {
  if ('cel' in condition) return [];
  if ('not' in condition) return comparedWith(condition.not, values);
  if ('lasting' in condition) return comparedWith(condition.lasting, values);
  if ('all' in condition) return condition.all.flatMap((part) => comparedWith(part, values));
  if ('any' in condition) return condition.any.flatMap((part) => comparedWith(part, values));
  if (!('to' in condition)) return [];
  return (Array.isArray(condition.to) ? condition.to : [condition.to]).flatMap(
    (argument) => resolveArgument(argument, values) ?? [],
  );
}

/** How long a condition has to last before it counts, in milliseconds. */
function longestWait(condition: LampRule['when']): number {
  if ('lasting' in condition) return condition.forMs + longestWait(condition.lasting);
  if ('not' in condition) return longestWait(condition.not);
  if ('all' in condition) return Math.max(...condition.all.map(longestWait));
  if ('any' in condition) return Math.max(...condition.any.map(longestWait));
  return 0;
}

const lampWord = (lamp: FaceView['lamp']): string =>
  lamp.show === 'off' ? 'dark' : 'word' in lamp ? lamp.word : lamp.show;

const lookUpIn = ({ valueNow, documentOf }: PrivateRig, values: Data['values']) =>
  lookUpNow(values, { fresh: (ref) => valueNow(ref), documentOf });
