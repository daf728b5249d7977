import { createHash, randomBytes } from 'node:crypto';
import { z } from 'zod';
import { readByHand, standinPage, WebSocketStandin, type Client, type StandinOptions } from '../kit';
import { ComposerModel, longestTransitionMs, loudestDb, quietestDb, transitions, type ComposerState } from './model';
import { composerBody, composerCss, composerScript } from './page';
import type { ComposerPlace } from './place';

export const composerPassword = 'low-water-mark-3';
const otherPassword = 'spring-tide-8';

interface ComposerOptions extends StandinOptions {
  readonly place: ComposerPlace;
}

/** Codes of errors: those of JSON-RPC 2.0 (section 5.1), and its own. */
const codes = { parse: -32700, request: -32600, method: -32601, params: -32602, proof: -32001, refused: -32010 };

const whole = z.number().int();
const onOff = z.boolean();
const by = <T extends z.ZodRawShape>(shape: T) => z.strictObject(shape);

type Act = (model: ComposerModel, params: unknown) => string | undefined;
const act =
  <T>(schema: z.ZodType<T>, run: (model: ComposerModel, params: T) => string | undefined): Act =>
  (model, params) => {
    const read = schema.safeParse(params ?? {});
    return read.success ? run(model, read.data) : '';
  };

/** What can be called, with its parameters by name. */
const methods: Readonly<Record<string, Act>> = {
  'board.next': act(by({ board: whole }), (model, { board }) => model.ready(board)),
  'board.show': act(by({ board: whole }), (model, { board }) => model.show(board)),
  'board.go': act(by({}), (model) => model.go()),
  transition: act(by({ kind: z.enum(transitions), ms: whole.min(0).max(longestTransitionMs) }), (model, { kind, ms }) =>
    model.setTransition(kind, ms),
  ),
  feed: act(by({ feed: whole, on: onOff }), (model, { feed, on }) => model.setFeed(feed, on)),
  'feed.reload': act(by({ feed: whole }), (model, { feed }) => model.reload(feed)),
  'feed.restart': act(by({ feed: whole }), (model, { feed }) => model.restart(feed)),
  overlay: act(by({ overlay: whole, on: onOff }), (model, { overlay, on }) => model.setOverlay(overlay, on)),
  filter: act(by({ filter: whole, on: onOff }), (model, { filter, on }) => model.setFilter(filter, on)),
  'channel.level': act(
    by({ channel: whole, db: z.number().min(quietestDb).max(loudestDb) }),
    (model, { channel, db }) => model.setLevel(channel, db),
  ),
  'channel.tick': act(by({ channel: whole, by: whole.min(-60).max(60) }), (model, { channel, by }) =>
    model.tick(channel, by),
  ),
  'channel.mute': act(by({ channel: whole, on: onOff }), (model, { channel, on }) => model.setMute(channel, on)),
  'effect.play': act(by({ name: z.string().min(1).max(60) }), (model, { name }) => model.playEffect(name)),
  'effect.stop': act(by({}), (model) => model.playEffect('')),
  'program.start': act(by({ program: whole }), (model, { program }) => model.start(program)),
  stream: act(by({ on: onOff }), (model, { on }) => model.stream(on)),
  record: act(by({ on: onOff }), (model, { on }) => model.record(on)),
  camera: act(by({ on: onOff }), (model, { on }) => model.setCamera(on)),
};

const operation = z.union([
  by({ verb: z.enum(['freeze']), feed: whole }),
  by({ verb: z.literal('close'), program: whole }),
  by({ verb: z.literal('lose'), frames: whole.min(1).max(1000) }),
  by({ verb: z.literal('disk'), freeGb: z.number().min(0).max(10_000) }),
  by({ verb: z.literal('call'), method: z.string(), params: z.record(z.string(), z.unknown()).default({}) }),
]);

const request = z.looseObject({
  jsonrpc: z.literal('2.0'),
  method: z.string(),
  id: z.union([z.string(), z.number(), z.null()]).optional(),
});

/** The composer: JSON-RPC 2.0 over WebSocket. It greets with a salt, and serves who can prove that the password is known. */
export class ComposerStandin extends WebSocketStandin {
  readonly title = 'Composer';
  protected readonly path = '/control';
  private readonly model: ComposerModel;
  private readonly joined = new Set<Client>();

  constructor(options: ComposerOptions) {
    super(options);
    this.model = new ComposerModel(options.place, (before, now) => this.onChange(before, now));
  }

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: composerCss, body: composerBody, script: composerScript });
  protected own = () => ({ ...this.model.state, place: this.model.place });

  protected override frame(): void {
    this.model.frame();
  }

  protected byHand(asked: unknown): string | undefined {
    return readByHand(operation, asked, (order) => {
      switch (order.verb) {
        case 'freeze':
          return this.model.freeze(order.feed);
        case 'close':
          return this.model.close(order.program);
        case 'disk':
          return this.model.leave(order.freeGb);
        case 'lose':
          return this.model.lose(order.frames);
        case 'call': {
          const refusal = methods[order.method]?.(this.model, order.params);
          return refusal === '' ? 'the parameters do not fit' : refusal;
        }
      }
    });
  }

  protected welcome(client: Client): (text: string) => void {
    if (this.faults.taken) {
      say(client, notice('busy', { by: 'the laptop in the boat house' }));
      client.end();
      return () => undefined;
    }
    const salt = randomBytes(9).toString('base64url');
    const program = this.faults.otherModel ? 'Tallow' : 'Lantern';
    say(client, notice('hello', { program, version: '3.1', salt }));
    return (text) => this.onText(client, text, salt);
  }

  private onText(client: Client, text: string, salt: string): void {
    let value: unknown;
    try {
      value = JSON.parse(text);
    } catch {
      return say(client, failure(null, codes.parse, 'this is not JSON'));
    }
    const read = request.safeParse(value);
    if (!read.success) return say(client, failure(null, codes.request, 'this is no request'));
    const { method, id, params } = read.data;
    // A notification is never answered, not even when it fails (JSON-RPC 2.0, section 4.1).
    const answer = (message: object) => id !== undefined && say(client, message);
    const done = (result: unknown) => answer({ jsonrpc: '2.0', id, result });
    if (method === 'join') {
      const proof = z.object({ proof: z.string() }).safeParse(params);
      if (!proof.success || proof.data.proof !== this.proofOf(salt))
        return void answer(failure(id ?? null, codes.proof, 'the proof is wrong'));
      this.joined.add(client);
      return void done({ place: this.model.place.name });
    }
    if (!this.joined.has(client)) return void answer(failure(id ?? null, codes.proof, 'join first'));
    if (method === 'ping') return void done('pong');
    if (method === 'lists' || method === 'state') {
      const { place, state } = this.model;
      for (const each of method === 'lists' ? listsOf(place) : reportsOf(state)) say(client, each);
      return void done({});
    }
    const run = methods[method];
    if (!run) return void answer(failure(id ?? null, codes.method, `there is no method ${method}`));
    const refusal = run(this.model, params);
    if (refusal === undefined) return void done({});
    answer(
      refusal === ''
        ? failure(id ?? null, codes.params, 'the parameters do not fit')
        : failure(id ?? null, codes.refused, refusal),
    );
  }

  private proofOf(salt: string): string {
    const password = this.faults.otherPassword ? otherPassword : composerPassword;
    return createHash('sha256').update(`${salt}${password}`).digest('hex');
  }

  private onChange(before: ComposerState, now: ComposerState): void {
    const known = new Set(reportsOf(before).map((each) => JSON.stringify(each)));
    const changed = reportsOf(now).filter((each) => !known.has(JSON.stringify(each)));
    const here = new Set(this.clients);
    for (const client of this.joined) {
      if (!here.has(client)) this.joined.delete(client);
      else for (const each of changed) say(client, each);
    }
    this.tell();
  }
}

const notice = (method: string, params: object): object => ({ jsonrpc: '2.0', method, params });
const failure = (id: string | number | null, code: number, message: string): object => ({
  jsonrpc: '2.0',
  id,
  error: { code, message },
});
const utf8 = new TextEncoder();
const say = (client: Client, message: object): void => client.send(utf8.encode(JSON.stringify(message)));

const listsOf = (place: ComposerPlace): object[] => [
  notice('boards', { names: place.boards }),
  notice('feeds', { feeds: place.feeds }),
  notice('overlays', { names: place.overlays }),
  notice('filters', { filters: place.filters }),
  notice('effects', { names: place.effects }),
  notice('channels', { names: place.channels }),
  notice('programs', { names: place.programs }),
];

function reportsOf(state: ComposerState): object[] {
  const { current, next, mixing, transition, ms, effect, stream, streamSeconds, record, recordSeconds } = state;
  const { camera, dropped, freeGb } = state;
  return [
    notice('board', { current, next, mixing }),
    notice('transition', { kind: transition, ms }),
    ...state.feeds.map((each, n) => notice('feed', { feed: n + 1, on: each !== 'off', state: each })),
    ...state.overlays.map((on, n) => notice('overlay', { overlay: n + 1, on })),
    ...state.filters.map((on, n) => notice('filter', { filter: n + 1, on })),
    ...state.channels.map(({ db, mute }, n) => notice('channel', { channel: n + 1, db, mute })),
    ...state.programs.map((each, n) => notice('program', { program: n + 1, state: each })),
    notice('effect', { name: effect }),
    notice('outputs', { stream, streamSeconds, record, recordSeconds, camera, dropped, freeGb }),
  ];
}
