import { z } from 'zod';
import { decodeOsc, encodeOsc, messagesOf, type OscArgument, type OscMessage } from '../../core/wire';
import { readByHand, standinPage, UdpStandin, type Peer } from '../kit';
import { functionNames, layerCount, table, templates, TitlesModel, type TitlesState } from './model';
import { titlesBody, titlesCss, titlesScript, titlesStill } from './page';

const whole = z.number().int();
const operation = z.discriminatedUnion('verb', [
  z.strictObject({ verb: z.literal('load'), layer: whole, template: whole }),
  z.strictObject({ verb: z.literal('take'), layer: whole }),
  z.strictObject({ verb: z.literal('out'), layer: whole }),
  z.strictObject({ verb: z.literal('next'), layer: whole }),
  z.strictObject({ verb: z.literal('row'), layer: whole, row: whole }),
  z.strictObject({ verb: z.literal('queue'), layer: whole, template: whole }),
  z.strictObject({ verb: z.literal('run'), function: whole }),
]);

const longestListening = 120;

/** The title machine: OSC in datagrams. Each sender gets its answer, and reports for as long as it asked to listen. */
/** A small picture of a template as a `data:` URL (RFC 2397): where its text will stand. */
const thumbnail = (n: number): string => {
  const bars = [
    'M20 118h150v26H20z',
    'M60 60h200v30H60z',
    'M0 130h320v24H0z',
    'M20 20h110v60H20z',
    'M190 110h110v40H190z',
    'M40 40h240v100H40z',
  ];
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 320 180"><path fill="#3d5a63" d="M0 0h320v180H0z"/><path fill="#e9e2d4" d="${bars[n % bars.length] ?? ''}"/></svg>`;
  return `data:image/svg+xml,${encodeURIComponent(svg)}`;
};

export class TitlesStandin extends UdpStandin {
  readonly title = 'Title machine';
  private readonly model = new TitlesModel((before, now) => this.onChange(before, now));
  /** By layer, the first house frame of its way in, when it was taken last. */
  private readonly begunAt: number[] = [];
  /** Until when each sender wants reports. */
  private readonly listening = new Map<string, number>();

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: titlesCss, body: titlesBody, script: titlesScript });
  still = (): string => titlesStill(this.model.state);
  protected own = () => ({ ...this.model.state, begunAt: this.begunAt, templates, table, functions: functionNames });

  protected byHand(body: unknown): string | undefined {
    return readByHand(operation, body, (order) => {
      if (order.verb === 'load') return this.model.load(order.layer, order.template);
      if (order.verb === 'row') return this.model.row(order.layer, order.row);
      if (order.verb === 'queue') return this.model.queue(order.layer, order.template);
      if (order.verb === 'run') return this.model.function(order.function);
      return this.model[order.verb](order.layer);
    });
  }

  protected override frame(): void {
    this.model.frame();
  }

  protected onDatagram(peer: Peer, bytes: Uint8Array): void {
    const packet = decodeOsc(bytes);
    if (!packet.ok) return;
    for (const message of messagesOf(packet.value)) this.onOsc(peer, message);
  }

  private onOsc(peer: Peer, { address, args }: OscMessage): void {
    // The first argument is the sender's own number for the message; the answer repeats it.
    const [id, ...rest] = args;
    if (id?.type !== 'i') return;
    if (this.faults.taken) return say(peer, '/titles/no', id, int(7), text('held by another controller'));
    const numbers = rest.flatMap((arg) => (arg.type === 'i' ? [arg.value] : []));
    const words = rest.flatMap((arg) => (arg.type === 's' ? [arg.value] : []));
    const why = this.act(peer, address, numbers, words);
    if (why === undefined) say(peer, '/titles/ok', id);
    else say(peer, '/titles/no', id, int(codeOf(why)), text(why));
  }

  private act(peer: Peer, address: string, numbers: readonly number[], words: readonly string[]): string | undefined {
    const [first = 0, second = 0] = numbers;
    const { model } = this;
    const onLayer = (act: () => string | undefined) =>
      first >= 1 && first <= layerCount ? act() : `no layer ${first}`;
    switch (address) {
      case '/titles/listen':
        if (first < 1 || first > longestListening) return 'listening lasts 1 to 120 seconds';
        this.listening.set(peer.key, performance.now() + first * 1000);
        return undefined;
      case '/titles/state':
        for (const report of reportsOf(model.state)) peer.send(encodeOsc(report));
        return undefined;
      case '/titles/identity':
        say(peer, '/titles/identity', text(this.faults.otherModel ? 'Reedbank 9' : 'Reedbank 3'), text('3.1'));
        return undefined;
      case '/titles/templates':
        templates.forEach(({ name, fields }, n) => {
          say(peer, '/titles/template', int(n + 1), text(name), int(fields.length), text(thumbnail(n)));
        });
        return undefined;
      case '/titles/table':
        table.forEach((cells, n) => say(peer, '/titles/row', int(n + 1), ...cells.map(text)));
        return undefined;
      case '/titles/functions':
        functionNames.forEach((name, n) => say(peer, '/titles/function', int(n + 1), text(name)));
        return undefined;
      case '/titles/load':
        return onLayer(() => model.load(first, second));
      case '/titles/queue':
        return onLayer(() => model.queue(first, second));
      case '/titles/row':
        return onLayer(() => model.row(first, second));
      case '/titles/field':
        return onLayer(() => model.field(first, second, words[0] ?? ''));
      case '/titles/take':
        return onLayer(() => model.take(first));
      case '/titles/out':
        return onLayer(() => model.out(first));
      case '/titles/next':
        return onLayer(() => model.next(first));
      case '/titles/run':
        return model.function(first);
      default:
        return `not known: ${address}`;
    }
  }

  private onChange(before: TitlesState, now: TitlesState): void {
    const known = new Set(reportsOf(before).map((each) => JSON.stringify(each)));
    now.layers.forEach(({ state }, n) => {
      if (state === 'coming' && before.layers[n]?.state !== 'coming') this.begunAt[n] = this.houseFrame;
    });
    const fresh = reportsOf(now).filter((each) => !known.has(JSON.stringify(each)));
    const at = performance.now();
    for (const peer of this.peers) {
      if ((this.listening.get(peer.key) ?? 0) < at) continue;
      for (const report of fresh) peer.send(encodeOsc(report));
    }
    this.tell();
  }
}

const text = (value: string): OscArgument => ({ type: 's', value });
const int = (value: number): OscArgument => ({ type: 'i', value });

function reportsOf({ layers, lastFunction }: TitlesState): OscMessage[] {
  const message = (address: string, ...args: OscArgument[]): OscMessage => ({ kind: 'message', address, args });
  return [
    ...layers.flatMap((layer, n) => {
      const at = int(n + 1);
      return [
        message('/titles/layer/state', at, text(layer.state)),
        message('/titles/layer/template', at, int(layer.template)),
        message('/titles/layer/row', at, int(layer.row)),
        message('/titles/layer/queued', at, int(layer.queued)),
        ...[0, 1, 2].map((field) =>
          message('/titles/layer/text', int((n + 1) * 10 + field + 1), text(layer.texts[field] ?? '')),
        ),
      ];
    }),
    message('/titles/ran', int(lastFunction)),
  ];
}

function codeOf(why: string): number {
  if (why.startsWith('no ')) return 2;
  if (why.startsWith('not known')) return 1;
  return why === 'nothing is loaded' ? 3 : why === 'the layer is on air' ? 4 : 5;
}

function say(peer: Peer, address: string, ...args: OscArgument[]): void {
  peer.send(encodeOsc({ kind: 'message', address, args }));
}
