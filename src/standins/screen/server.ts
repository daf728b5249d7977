import { createHash, randomBytes } from 'node:crypto';
import { z } from 'zod';
import { encodeLine, LineFramer } from '../../core/wire';
import { readByHand, standinPage, TcpStandin, type Client, type StandinOptions } from '../kit';
import { inputs, parts, ScreenModel } from './model';
import { screenBody, screenCss, screenScript } from './page';
import { answerTo } from './protocol';

interface ScreenOptions extends StandinOptions {
  readonly name: string;
  readonly class: 1 | 2;
  /** True for one that is on from the start. */
  readonly isOn?: boolean;
}

/** What the screens of the demo ask for. */
export const screenPassword = 'slipway';
const framing = { ending: 'cr', encoding: 'utf-8', maxFrameBytes: 200 } as const;
/** A connection over which nothing comes is closed after this long (PJLink Class 1 specification, 5.2). */
const idleMs = 30_000;

const operation = z.discriminatedUnion('verb', [
  z.strictObject({ verb: z.literal('turn'), on: z.boolean() }),
  z.strictObject({ verb: z.literal('input'), id: z.enum(inputs.map(({ id }) => id)) }),
  z.strictObject({ verb: z.literal('mute'), isBlank: z.boolean().optional(), isMuted: z.boolean().optional() }),
  z.strictObject({ verb: z.literal('freeze'), on: z.boolean() }),
  z.strictObject({ verb: z.literal('health'), part: z.enum(parts), health: z.enum(['well', 'warning', 'error']) }),
]);

/** A screen that speaks PJLink: lines that end with CR, a digest before the first one, each answered before the next. */
export class ScreenStandin extends TcpStandin {
  readonly title = 'Screen';
  private readonly model: ScreenModel;
  private readonly idle = new Map<Client, NodeJS.Timeout>();

  constructor(private readonly screen: ScreenOptions) {
    super(screen);
    this.model = new ScreenModel(() => this.tell(), screen.isOn ?? false);
  }

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: screenCss, body: screenBody, script: screenScript });

  protected own() {
    // What every stand-in calls power is its plug.
    const { power: powerState, ...state } = this.model.state;
    return { ...state, powerState, name: this.screen.name, class: this.screen.class, inputs };
  }

  protected byHand(asked: unknown): string | undefined {
    return readByHand(operation, asked, (order) => {
      switch (order.verb) {
        case 'turn':
          return saidOf(this.model.setPower(order.on));
        case 'input':
          return saidOf(this.model.setInput(order.id));
        case 'mute': {
          const { isBlank, isMuted } = order;
          return saidOf(
            this.model.setMute({
              ...(isBlank === undefined ? {} : { isBlank }),
              ...(isMuted === undefined ? {} : { isMuted }),
            }),
          );
        }
        case 'freeze':
          return saidOf(this.model.setFrozen(order.on));
        case 'health':
          return void this.model.setHealth(order.part, order.health);
      }
    });
  }

  protected override frame(): void {
    this.model.frame();
  }

  protected override farewell(client: Client): void {
    clearTimeout(this.idle.get(client));
    this.idle.delete(client);
  }

  protected welcome(client: Client): (chunk: Uint8Array) => void {
    if (this.faults.taken) {
      client.end();
      return () => undefined;
    }
    const framer = new LineFramer(framing);
    const salt = randomBytes(4).toString('hex');
    let isKnown = false;
    say(client, `PJLINK 1 ${salt}`);
    this.stayAwake(client);
    return (chunk) => {
      this.stayAwake(client);
      for (const frame of framer.push(chunk)) {
        // A line longer than any command is none.
        if (frame.kind === 'overlong') continue;
        const digest = isKnown ? '' : this.digestOf(salt);
        if (!frame.text.startsWith(digest)) {
          say(client, 'PJLINK ERRA');
          client.end();
          return;
        }
        isKnown = true;
        const answer = answerTo(frame.text.slice(digest.length), this.model, this.label);
        if (answer !== undefined) say(client, answer);
      }
    };
  }

  private get label() {
    const { name, class: own } = this.screen;
    return { name, class: own, model: this.faults.otherModel ? 'Canvas 9' : own === 1 ? 'Quayside 1' : 'Quayside 2' };
  }

  /** MD5 over the random number and the password, in lower case (Class 1, 5.1). */
  private digestOf(salt: string): string {
    const password = this.faults.otherPassword ? `${screenPassword}-2` : screenPassword;
    return createHash('md5').update(`${salt}${password}`).digest('hex');
  }

  private stayAwake(client: Client): void {
    clearTimeout(this.idle.get(client));
    this.idle.set(
      client,
      setTimeout(() => client.end(), idleMs),
    );
  }
}

function say(client: Client, line: string): void {
  const bytes = encodeLine(line, framing);
  if (bytes.ok) client.send(bytes.value);
}

const saidOf = (refusal: ReturnType<ScreenModel['setPower']>): string | undefined =>
  refusal &&
  (refusal === 'time'
    ? 'Not possible while the screen is off, warming up or cooling down.'
    : 'There is no such input.');
