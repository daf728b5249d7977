import { downCauses, type Link } from '../session';
import type { ConcernCode, HealthLimits } from '../show';
import type { AnswerSum } from './answer-series';

/** What is known of a device without asking it anything. */
export interface DeviceFacts {
  readonly id: string;
  readonly tag: string;
  readonly link: Link;
  /** When the link came into its state, in milliseconds since 1970. */
  readonly since: number;
  /** It was up at some time since the program started, so that being down is no matter of setting up. */
  readonly wasUp: boolean;
  /** Of the last minute, and of the last ten. */
  readonly minute: AnswerSum;
  readonly tenMinutes: AnswerSum;
  /** How quickly half of its answers came when all was well, in milliseconds, and when that was measured. */
  readonly usual?: { readonly ms: number; readonly from: 'line check' | 'start' };
  /** Times that the link dropped in the last ten minutes. */
  readonly drops: number;
  /** The gateway that it is reached through: what happens there is said there. */
  readonly gateway?: { readonly isLost: boolean; readonly drops: number };
  /** Commands that were sent to it in the last ten minutes, and how many of them failed. */
  readonly sent: number;
  readonly failed: number;
  /** When a command was sent to it last, and when it was heard last; in milliseconds since 1970, 0: never. */
  readonly sentAt: number;
  readonly heardAt: number;
  /** How far its clock is ahead of this computer's, in seconds. */
  readonly clockAhead?: number;
}

export interface ScreenFacts {
  /** Its name in the record. */
  readonly id: string;
  readonly delayMs?: number;
  /** Times that it had to connect again in the last ten minutes. */
  readonly cuts: number;
}

export interface ComputerFacts {
  /** Of the processors in use over half a minute, from 0 to 1. */
  readonly load: number;
  /** By how much the engine is late, at worst in one hundred turns, in milliseconds. */
  readonly lateMs: number;
  /** Of the memory that is free, from 0 to 1. */
  readonly free: number;
}

/** What something is about: a device by id, a screen by its name, or the computer. */
export interface ConcernSubject {
  readonly kind: 'device' | 'screen' | 'computer';
  readonly id: string;
  readonly name: string;
}

/** Something that is not as it should be. `rising`: on its way to a limit; `crossed`: beyond it. */
export interface Concern {
  readonly code: ConcernCode;
  readonly about: ConcernSubject;
  readonly level: 'rising' | 'crossed';
  /** How far it is beyond its limit, so that two of one kind can be compared: 1 is the limit. */
  readonly part: number;
  readonly text: string;
}

/** From this part of a limit on, something is on its way there. */
const risingFrom = 0.6;
/** The fewest answers that say how quickly a device answers, and the fewest questions that say what it misses. */
const fewestAnswers = 5;
const fewestQuestions = 20;
/** A device that has just been lost may be back at once. */
const lostAfterMs = 3000;

/** What is not as it should be at a device, worst first within its kind. */
export function deviceConcerns(facts: DeviceFacts, limits: HealthLimits, now: number): Concern[] {
  const { id, tag, link, since, minute, tenMinutes, usual, drops, gateway, sent, failed } = facts;
  const found = new Finder({ kind: 'device', id, name: tag }, limits);
  const { word } = link;
  if (word === 'off') return [];
  if (facts.wasUp && isLost(link) && !gateway?.isLost && now - since >= lostAfterMs)
    found.add('down', 1, `${tag} is ${word}${link.cause ? `: ${downCauses[link.cause].title}` : ''}.`);
  const own = drops - (gateway?.drops ?? 0);
  found.add('unsteady', own / limits.unsteady, `The link of ${tag} dropped ${times(own)} in ten minutes.`);
  if (word !== 'up') return found.all;

  const { half } = minute;
  if (usual && half !== undefined && minute.answers >= fewestAnswers && half - usual.ms >= limits.slowByMs) {
    // Two times slower is one step on the way from one to the limit.
    const part = (half / usual.ms - 1) / (limits.slow - 1);
    const when = usual.from === 'line check' ? 'at the line check' : 'at the start';
    const text = `${tag} answers ${factor(half / usual.ms)} slower than ${when}: ${msText(half)}, was ${msText(usual.ms)}.`;
    found.add('slow', part, text);
  }
  const quietMs = now - facts.sentAt;
  if (facts.sentAt > facts.heardAt && facts.heardAt > 0)
    found.add(
      'quiet',
      quietMs / 1000 / limits.quiet,
      `${tag} has sent nothing for ${Math.round((now - facts.heardAt) / 1000)} s, although a command was sent to it.`,
    );
  found.add('failing', failed / limits.failing, `${failed} of ${sent} commands to ${tag} failed in ten minutes.`);
  const asked = tenMinutes.answers + tenMinutes.missed;
  if (asked >= fewestQuestions)
    found.add(
      'missing',
      (100 * tenMinutes.missed) / asked / limits.missing,
      `${tag} left ${tenMinutes.missed} of ${asked} requests unanswered in ten minutes.`,
    );
  const ahead = facts.clockAhead ?? 0;
  found.add(
    'clock',
    Math.abs(ahead) / limits.clock,
    `The clock of ${tag} is ${Math.abs(Math.round(ahead * 10) / 10)} s ${ahead > 0 ? 'ahead of' : 'behind'} this computer.`,
  );
  return found.all;
}

export function screenConcerns({ id, delayMs = 0, cuts }: ScreenFacts, limits: HealthLimits): Concern[] {
  const found = new Finder({ kind: 'screen', id, name: id }, limits);
  found.add('screen-slow', delayMs / limits['screen-slow'], `${id}: the round trip takes ${msText(delayMs)}.`);
  found.add('screen-unsteady', cuts / limits['screen-unsteady'], `${id} reconnected ${times(cuts)} in ten minutes.`);
  return found.all;
}

export function computerConcerns({ load, lateMs, free }: ComputerFacts, limits: HealthLimits): Concern[] {
  const found = new Finder({ kind: 'computer', id: 'computer', name: 'This computer' }, limits);
  const percent = (share: number) => Math.round(share * 100);
  found.add('load', percent(load) / limits.load, `This computer is ${percent(load)} % busy.`);
  found.add('held-up', lateMs / limits['held-up'], `The engine is up to ${msText(lateMs)} late.`);
  found.add('memory', limits.memory / Math.max(0.1, 100 * free), `${percent(free)} % of the memory is free.`);
  return found.all;
}

class Finder {
  readonly all: Concern[] = [];

  constructor(
    private readonly about: ConcernSubject,
    private readonly limits: HealthLimits,
  ) {}

  add(code: ConcernCode, part: number, text: string): void {
    if (part < risingFrom || this.limits.off.includes(code)) return;
    this.all.push({ code, about: this.about, level: part >= 1 ? 'crossed' : 'rising', part, text });
  }
}

export const isLost = ({ word }: Link): boolean => word === 'down' || word === 'locked out' || word === 'occupied';

const times = (count: number): string => (count === 1 ? 'once' : count === 2 ? 'twice' : `${count} times`);

const factor = (times: number): string =>
  `${times < 10 ? (Math.round(times * 10) / 10).toString() : Math.round(times)} times`;

const msText = (ms: number): string => {
  if (ms >= 1000) return `${(ms / 1000).toFixed(1)} s`;
  return ms < 10 ? `${ms.toFixed(1)} ms` : `${Math.round(ms)} ms`;
};
