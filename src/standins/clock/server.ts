import { z } from 'zod';
import {
  answerTimers,
  changedReports,
  initialTimers,
  overlongLine,
  reportsOf,
  timeReport,
  viewTimers,
  type TimersState,
} from '../../core/timers';
import { encodeLine, LineFramer } from '../../core/wire';
import { readByHand, standinPage, TcpStandin, type Client } from '../kit';
import { clockBody, clockCss, clockScript } from './page';
import { regattaTimers } from './regatta';

const framing = { ending: 'lf', encoding: 'utf-8', maxFrameBytes: 4000 } as const;
const frameMs = 40;
const framesPerSecond = 25;

const operation = z.discriminatedUnion('verb', [
  z.strictObject({ verb: z.enum(['startNext', 'pause', 'resume', 'restart', 'stop']) }),
  z.strictObject({ verb: z.literal('start'), place: z.number().int() }),
  z.strictObject({ verb: z.literal('next'), place: z.number().int() }),
  z.strictObject({ verb: z.literal('add'), seconds: z.number().int() }),
  z.strictObject({ verb: z.literal('message'), text: z.string().max(120) }),
  /** One of the four keys under its display. */
  z.strictObject({ verb: z.literal('key'), key: z.number().int().min(1).max(4) }),
  /** For tests: what runs has so much left from now on. */
  z.strictObject({ verb: z.literal('leave'), seconds: z.number() }),
]);

/** The clock machine of the regatta: JSON lines over TCP, reports to everybody at each change and each second. */
export class ClockStandin extends TcpStandin {
  readonly title = 'Clocks';
  private timers: TimersState = initialTimers(regattaTimers);
  private frames = 0;

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: clockCss, body: clockBody, script: clockScript });

  protected own() {
    const { list, message, isRunning } = this.timers;
    const { phase, shown, next, leftMs, lengthMs } = viewTimers(this.timers, this.now);
    const placeOf = (id: string | undefined) => list.findIndex((each) => each.id === id) + 1;
    return {
      timers: list,
      state: phase,
      runs: isRunning,
      place: placeOf(this.timers.current),
      shown: shown?.name ?? '',
      speaker: shown?.speaker ?? '',
      next: placeOf(next?.id),
      nextName: next?.name ?? '',
      left: leftMs / 1000,
      length: lengthMs / 1000,
      message,
    };
  }

  protected byHand(asked: unknown): string | undefined {
    return readByHand(operation, asked, (order) => {
      if (order.verb === 'leave') {
        this.set({ ...this.timers, leftMs: order.seconds * 1000, at: this.now });
        return undefined;
      }
      if (order.verb === 'key') {
        this.tellAll([{ key: order.key }]);
        return undefined;
      }
      const { verb, ...rest } = order;
      const line = JSON.stringify({ n: 1, do: verb === 'start' ? 'startPlace' : verb, ...rest });
      const { state, lines } = answerTimers(this.timers, line, this.now, new Date());
      this.set(state);
      const refusal = lines.find((each): each is { readonly text: string } => 'no' in each);
      return refusal?.text;
    });
  }

  /** A timer runs by the house sync, as everything else here does. */
  private get now(): number {
    return this.houseFrame * frameMs;
  }

  protected override frame(): void {
    this.frames += 1;
    const { phase } = viewTimers(this.timers, this.now);
    const before = viewTimers(this.timers, this.now - frameMs).phase;
    const isSecond = this.frames % framesPerSecond === 0;
    if (isSecond) this.tellAll([timeReport(new Date())]);
    if (!this.timers.isRunning || (!isSecond && phase === before)) return;
    this.tellAll(reportsOf(this.timers, this.now).slice(0, 1));
    this.tell();
  }

  protected welcome(client: Client): (chunk: Uint8Array) => void {
    const framer = new LineFramer(framing);
    if (this.faults.taken) {
      say(client, { is: 'taken', by: 'the tablet of the race office' });
      client.end();
      return () => undefined;
    }
    say(client, { is: 'clocks', model: this.faults.otherModel ? 'Sundial' : 'Gnomon', firmware: '1.2' });
    return (chunk) => {
      for (const frame of framer.push(chunk)) {
        if (frame.kind === 'overlong') say(client, overlongLine());
        else this.onLine(client, frame.text);
      }
    };
  }

  private onLine(client: Client, line: string): void {
    const { state, lines } = answerTimers(this.timers, line, this.now, new Date());
    this.set(state);
    for (const each of lines) say(client, each);
  }

  private set(state: TimersState): void {
    if (state === this.timers) return;
    const before = this.timers;
    this.timers = state;
    this.tellAll(changedReports(before, state, this.now));
    this.tell();
  }

  private tellAll(messages: readonly object[]): void {
    for (const client of this.clients) for (const message of messages) say(client, message);
  }
}

function say(client: Client, message: object): void {
  const encoded = encodeLine(JSON.stringify(message), framing);
  if (encoded.ok) client.send(encoded.value);
}
