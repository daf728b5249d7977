import { z } from 'zod';
import { encodeLine, LineFramer } from '../../core/wire';
import { readByHand, TcpStandin, type Client } from '../kit';
import { firmware, macros, pictures, SwitcherModel, type SwitcherCommand, type SwitcherState } from './model';
import { switcherBody, switcherCss, switcherScript } from './page';
import { standinPage } from '../kit';
import { outputPicture } from './picture';
import { fixedReports, hail, mixLine, parseRequest, reportsOf } from './protocol';

const framing = { ending: 'crlf', encoding: 'utf-8', maxFrameBytes: 512 } as const;
const whole = z.number().int();

const operation = z.discriminatedUnion('verb', [
  z.strictObject({ verb: z.literal('take'), input: whole }),
  z.strictObject({ verb: z.literal('ready'), input: whole }),
  z.strictObject({ verb: z.literal('cut') }),
  z.strictObject({ verb: z.literal('mix') }),
  z.strictObject({ verb: z.literal('rate'), frames: whole }),
  z.strictObject({ verb: z.literal('name'), input: whole, text: z.string().min(1) }),
  z.strictObject({ verb: z.literal('black'), on: z.boolean() }),
  z.strictObject({ verb: z.literal('key'), key: whole, on: z.boolean() }),
  z.strictObject({ verb: z.literal('keysource'), key: whole, input: whole }),
  z.strictObject({ verb: z.literal('aux'), aux: whole, input: whole }),
  z.strictObject({ verb: z.literal('still'), store: whole, picture: whole }),
  z.strictObject({ verb: z.literal('macro'), macro: whole }),
  z.strictObject({ verb: z.literal('box'), box: whole, on: z.boolean() }),
]);

/** The vision switcher on a real socket: many controllers at once, each told of every change, no matter who made it. */
export class SwitcherStandin extends TcpStandin {
  readonly title = 'Vision switcher';
  private readonly model = new SwitcherModel((before, now) => {
    if (now.program !== before.program) this.switchedAt = this.houseFrame;
    now.keys.forEach(({ on }, n) => {
      if (on && !before.keys[n]?.on) this.keyedAt[n] = this.houseFrame;
    });
    this.broadcast(before, now);
  });
  /** The house frame in which the program was switched last. */
  private switchedAt: number | undefined;
  /** By key, the house frame in which it was switched on last. */
  private readonly keyedAt: number[] = [];

  page(): string {
    const { tag, title } = this;
    return standinPage({ tag, title, css: switcherCss, body: switcherBody, script: switcherScript });
  }

  still = (view?: string): string => outputPicture(this.model.state, view === 'preview' ? 'preview' : 'program');

  /** Operates it by hand. Returns the reason when it refuses. */
  request(command: SwitcherCommand): string | undefined {
    return this.model.request(command)?.text;
  }

  protected byHand(body: unknown): string | undefined {
    return readByHand(operation, body, (command) => this.request(command));
  }

  protected own() {
    return {
      ...this.model.state,
      switchedAt: this.switchedAt,
      keyedAt: this.keyedAt,
      pictures,
      macros: macros.map(({ name }) => name),
    };
  }

  protected override frame(): void {
    this.model.frame();
  }

  protected welcome(client: Client): (chunk: Uint8Array) => void {
    const framer = new LineFramer(framing);
    if (this.faults.taken) {
      send(client, 'BUSY another controller');
      client.end();
      return () => undefined;
    }
    send(client, hail(this.faults.otherModel ? 'matrix' : 'switcher'));
    return (chunk) => {
      for (const frame of framer.push(chunk)) {
        if (frame.kind === 'overlong') send(client, 'FAIL 41 line too long');
        else if (frame.malformed) send(client, 'FAIL 11 not understood');
        else this.onLine(client, frame.text);
      }
    };
  }

  private onLine(client: Client, line: string): void {
    const request = parseRequest(line);
    if ('code' in request) return send(client, `FAIL ${request.code} ${request.text}`);
    if (request.verb === 'alive') return send(client, 'DONE');
    if (request.verb === 'ask') {
      for (const report of [...fixedReports(firmware), ...reportsOf(this.model.state)]) send(client, report);
      return send(client, 'DONE');
    }
    const refusal = this.model.request(request);
    send(client, refusal ? `FAIL ${refusal.code} ${refusal.text}` : 'DONE');
  }

  private broadcast(before: SwitcherState, now: SwitcherState): void {
    const known = new Set(reportsOf(before));
    const mixGoesOn = before.mixed !== null && now.mixed !== null;
    for (const line of reportsOf(now)) {
      if (known.has(line) || (mixGoesOn && line === mixLine(now))) continue;
      for (const client of this.clients) send(client, line);
    }
    this.tell();
  }
}

function send(client: Client, line: string): void {
  const encoded = encodeLine(line, framing);
  if (encoded.ok) client.send(encoded.value);
}
