import { z } from 'zod';
import {
  decodeOsc,
  encodeOsc,
  encodeSlip,
  messagesOf,
  SlipFramer,
  type OscArgument,
  type OscMessage,
} from '../../core/wire';
import { readByHand, standinPage, TcpStandin, type Client } from '../kit';
import { loudest, MixerModel, quietest, type MixerState } from './model';
import { mixerBody, mixerCss, mixerScript } from './page';

const operation = z.discriminatedUnion('verb', [
  z.strictObject({ verb: z.literal('level'), strip: z.number().int(), level: z.number().min(quietest).max(loudest) }),
  z.strictObject({ verb: z.literal('mute'), strip: z.number().int(), on: z.boolean() }),
  z.strictObject({ verb: z.literal('recall'), scene: z.number().int() }),
  z.strictObject({ verb: z.literal('main'), level: z.number().min(quietest).max(loudest) }),
]);

const longestMeters = 60;
const meterEveryFrames = 3;

/** The audio mixer: OSC over TCP in SLIP frames, every change reported to everybody, meters for those who asked. */
export class MixerStandin extends TcpStandin {
  readonly title = 'Audio mixer';
  private readonly model = new MixerModel((before, now) => this.onChange(before, now));
  /** Until when each controller wants meters. */
  private readonly metersUntil = new Map<Client, number>();
  private frames = 0;

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: mixerCss, body: mixerBody, script: mixerScript });
  protected own = () => ({ ...this.model.state, meters: this.model.meters });

  protected byHand(body: unknown): string | undefined {
    return readByHand(operation, body, (order) => {
      if (order.verb === 'level') return this.model.setStrip(order.strip, { level: order.level });
      if (order.verb === 'mute') return this.model.setStrip(order.strip, { muted: order.on });
      if (order.verb === 'main') return this.model.setMain({ level: order.level });
      return this.model.recall(order.scene);
    });
  }

  protected override frame(): void {
    this.model.frame();
    this.frames += 1;
    if (this.frames % meterEveryFrames !== 0) return;
    this.tell();
    const now = performance.now();
    for (const [client, until] of this.metersUntil) {
      if (now > until) this.metersUntil.delete(client);
      else say(client, message('/meters', ...this.model.meters.map((value): OscArgument => ({ type: 'f', value }))));
    }
  }

  protected welcome(client: Client): (chunk: Uint8Array) => void {
    const framer = new SlipFramer(4096);
    return (chunk) => {
      for (const frame of framer.push(chunk)) {
        if (frame.kind === 'dropped') continue;
        const packet = decodeOsc(frame.raw);
        if (!packet.ok) say(client, refusal('', 1, 'not OSC'));
        else for (const each of messagesOf(packet.value)) this.onMessage(client, each);
      }
    };
  }

  protected override farewell(client: Client): void {
    this.metersUntil.delete(client);
  }

  private onMessage(client: Client, { address, args }: OscMessage): void {
    if (address === '/hello') {
      if (this.faults.taken) return say(client, refusal(address, 9, 'another controller has the mixer'));
      return say(client, message('/hello', text(this.faults.otherModel ? 'Saltern 32' : 'Saltern 12'), text('4.0')));
    }
    if (this.faults.taken) return say(client, refusal(address, 9, 'another controller has the mixer'));
    if (address === '/ask') {
      for (const each of reportsOf(this.model.state)) say(client, each);
      return say(client, message('/told'));
    }
    const why = this.act(client, address, args);
    if (why !== undefined) say(client, refusal(address, why.startsWith('no') ? 3 : 2, why));
  }

  /** Does what a message asks; returns why not. */
  private act(client: Client, address: string, args: readonly OscArgument[]): string | undefined {
    const [first, second] = args;
    const number = first && (first.type === 'f' || first.type === 'i') ? first.value : undefined;
    const onOff = first?.type === 'T' ? true : first?.type === 'F' ? false : undefined;
    const words = first?.type === 's' ? first.value : undefined;
    const inRange = (level: number | undefined): level is number =>
      level !== undefined && level >= quietest && level <= loudest;
    const strip = /^\/strip\/(\d{2})\/(level|fade|mute|name)$/.exec(address);
    if (strip) {
      const n = Number(strip[1]);
      if (strip[2] === 'level')
        return inRange(number) ? this.model.setStrip(n, { level: number }) : 'a level is -90 to 10 dB';
      if (strip[2] === 'fade')
        return inRange(number) && isTime(second) ? this.model.fade(n, number, second.value) : aFade;
      if (strip[2] === 'mute')
        return onOff === undefined ? 'a mute is true or false' : this.model.setStrip(n, { muted: onOff });
      if (words === undefined || words.length > 16) return 'a name has at most 16 characters';
      return this.model.setStrip(n, { name: words });
    }
    switch (address) {
      case '/main/level':
        return inRange(number) ? this.model.setMain({ level: number }) : 'a level is -90 to 10 dB';
      case '/main/fade':
        return inRange(number) && isTime(second) ? this.model.fade(0, number, second.value) : aFade;
      case '/main/mute':
        return onOff === undefined ? 'a mute is true or false' : this.model.setMain({ muted: onOff });
      case '/scene/recall':
        return number === undefined ? 'a scene is a number' : this.model.recall(number);
      case '/scene/store':
        if (number === undefined || second?.type !== 's') return 'storing needs a number and a name';
        return this.model.store(number, second.value);
      case '/meters/send':
        if (number === undefined || number < 1 || number > longestMeters) return 'meters are sent for 1 to 60 seconds';
        this.metersUntil.set(client, performance.now() + number * 1000);
        return undefined;
      default:
        return `no such address ${address}`;
    }
  }

  private onChange(before: MixerState, now: MixerState): void {
    const known = new Set(reportsOf(before).map((each) => JSON.stringify(each)));
    for (const report of reportsOf(now)) {
      if (!known.has(JSON.stringify(report))) for (const client of this.clients) say(client, report);
    }
    this.tell();
  }
}

const longestFadeMs = 600_000;
const aFade = 'a fade is a level and a time of 0 to 600000 ms';
const isTime = (argument: OscArgument | undefined): argument is Extract<OscArgument, { type: 'i' }> =>
  argument?.type === 'i' && argument.value >= 0 && argument.value <= longestFadeMs;

const text = (value: string): OscArgument => ({ type: 's', value });
const truth = (on: boolean): OscArgument => ({ type: on ? 'T' : 'F' });
const message = (address: string, ...args: OscArgument[]): OscMessage => ({ kind: 'message', address, args });
const refusal = (address: string, code: number, why: string): OscMessage =>
  message('/refused', { type: 'i', value: code }, text(why), text(address));

function reportsOf({ strips, main, scenes, lastScene }: MixerState): OscMessage[] {
  return [
    ...strips.flatMap(({ name, level, muted }, n) => {
      const base = `/strip/${String(n + 1).padStart(2, '0')}`;
      return [
        message(`${base}/name`, text(name)),
        message(`${base}/level`, { type: 'f', value: level }),
        message(`${base}/mute`, truth(muted)),
      ];
    }),
    message('/main/level', { type: 'f', value: main.level }),
    message('/main/mute', truth(main.muted)),
    ...scenes.map(({ name }, n) => message(`/scene/${n + 1}/name`, text(name))),
    message('/scene/last', { type: 'i', value: lastScene }),
  ];
}

const say = (client: Client, said: OscMessage): void => client.send(encodeSlip(encodeOsc(said)));
