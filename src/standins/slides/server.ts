import { z } from 'zod';
import { HttpStandin, readByHand, standinPage, type HttpAnswer, type HttpAsked } from '../kit';
import { arrangements, decks, pictureTitles, screenSets, thumbnail, titleTemplates, tracks } from './library';
import { layers, SlidesModel, type SlidesState } from './model';
import { slidesBody, slidesCss, slidesScript } from './page';

const whole = z.number().int();
const by = <T extends z.ZodRawShape>(shape: T) => z.strictObject(shape);
const nothing = by({});

type Act = (model: SlidesModel, body: unknown) => string | undefined;
const act =
  <T>(schema: z.ZodType<T>, run: (model: SlidesModel, value: T) => string | undefined): Act =>
  (model, body) =>
    readByHand(schema, body, (value) => run(model, value));

/** What can be asked of it by POST. */
const routes: Readonly<Record<string, Act>> = {
  '/api/deck': act(by({ deck: whole }), (model, { deck }) => model.choose(deck)),
  '/api/slide': act(by({ slide: whole }), (model, { slide }) => model.goTo(slide)),
  '/api/next': act(nothing, (model) => model.step(1)),
  '/api/previous': act(nothing, (model) => model.step(-1)),
  '/api/clear': act(by({ layer: z.enum([...layers, 'all']) }), (model, { layer }) => model.clear(layer)),
  '/api/title': act(
    by({ title: whole, on: z.boolean(), seconds: z.number().min(0).max(600).default(0) }),
    (model, { title, on, seconds }) => model.showTitle(title, on, seconds),
  ),
  '/api/field': act(by({ title: whole, field: whole, text: z.string().max(120) }), (model, { title, field, text }) =>
    model.fill(title, field, text),
  ),
  '/api/picture': act(by({ picture: whole, on: z.boolean() }), (model, { picture, on }) =>
    model.showPicture(picture, on),
  ),
  '/api/message': act(by({ text: z.string().max(200) }), (model, { text }) => model.say(text)),
  '/api/set': act(by({ set: whole }), (model, { set }) => model.useSet(set)),
  '/api/arrangement': act(by({ arrangement: whole }), (model, { arrangement }) => model.arrange(arrangement)),
  '/api/play': act(by({ track: whole }), (model, { track }) => model.play(track)),
  '/api/pause': act(by({ on: z.boolean() }), (model, { on }) => model.pause(on)),
  '/api/stop': act(nothing, (model) => model.stop()),
  '/api/jump': act(by({ seconds: z.number().min(0) }), (model, { seconds }) => model.jump(seconds)),
};

const operation = z.union([
  by({ verb: z.literal('link'), on: z.boolean() }),
  by({ verb: z.literal('call'), path: z.string(), body: z.record(z.string(), z.unknown()).default({}) }),
]);

/** The slide and clip machine: JSON over HTTP, with a stream of events. */
export class SlidesStandin extends HttpStandin {
  readonly title = 'Slides and clips';
  private readonly model = new SlidesModel((before, now, passing) => this.onChange(before, now, passing));

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: slidesCss, body: slidesBody, script: slidesScript });

  protected own = () => ({
    ...this.model.state,
    library: { decks, titleTemplates, pictureTitles, screenSets, arrangements, tracks },
  });
  protected override greeting = (): string => JSON.stringify(statusOf(this.model.state));

  protected override frame(): void {
    this.model.frame();
  }

  protected byHand(asked: unknown): string | undefined {
    return readByHand(operation, asked, (order) => {
      if (order.verb === 'link') return this.model.link(order.on);
      const run = routes[order.path];
      return run ? run(this.model, order.body) : `there is nothing at ${order.path}`;
    });
  }

  protected answer({ method, path, body }: HttpAsked): HttpAnswer | 'events' {
    const { otherModel, taken } = this.faults;
    if (taken) return json(423, { error: 'the operator at the machine has locked it' });
    if (method === 'GET') {
      if (path === '/api/events') return 'events';
      if (path === '/api/identity') return json(200, { model: otherModel ? 'Ferryman' : 'Lockkeeper', version: '5.2' });
      if (path === '/api/status') return json(200, statusOf(this.model.state));
      if (path === '/api/library') return json(200, libraryNow());
      if (path === '/api/slides') return json(200, slidesNow(this.model.state));
    }
    const run = method === 'POST' ? routes[path] : undefined;
    if (!run) return json(404, { error: `there is nothing at ${method} ${path}` });
    let value: unknown;
    try {
      value = body === '' ? {} : JSON.parse(body);
    } catch {
      return json(400, { error: 'the body is not JSON' });
    }
    const refusal = run(this.model, value);
    return refusal === undefined ? json(200, { ok: true }) : json(409, { error: refusal });
  }

  private onChange(before: SlidesState, now: SlidesState, passing: boolean): void {
    if (!passing) {
      if (before.deck !== now.deck) this.push(JSON.stringify({ event: 'deck', deck: now.deck }));
      this.push(JSON.stringify(statusOf(now)));
    }
    this.tell();
  }
}

const libraryNow = () => ({
  decks: decks.map(({ name, kind }) => ({ name, kind })),
  titles: titleTemplates,
  pictures: pictureTitles,
  sets: screenSets,
  arrangements,
  tracks,
});

const slidesNow = ({ deck }: SlidesState) => ({
  deck,
  slides: (decks[deck - 1]?.items ?? []).map((item) => ({
    title: item.title,
    seconds: item.seconds,
    picture: thumbnail(deck - 1, item),
  })),
});

function statusOf(state: SlidesState) {
  const { deck, slide, title, texts, pictures, message, messageLinked, set, arrangement, track, sound } = state;
  const items = decks[deck - 1]?.items ?? [];
  const tenth = (seconds: number) => Math.round(seconds * 10) / 10;
  return {
    event: 'status',
    deck,
    slide,
    count: items.length,
    slideTitle: items[slide - 1]?.title ?? '',
    notes: items[slide - 1]?.notes ?? '',
    nextTitle: items[slide]?.title ?? '',
    clip: state.clipLeft > 0,
    clipLeft: tenth(state.clipLeft),
    title,
    texts: texts[title - 1] ?? [],
    titles: titleTemplates.map((_, n) => n + 1 === title),
    titleOffIn: tenth(state.titleOffIn),
    pictures,
    message,
    messageLinked,
    set,
    arrangement,
    sound: { track, state: sound, position: tenth(state.position), length: tracks[track - 1]?.seconds ?? 0 },
  };
}

const json = (status: number, value: unknown): HttpAnswer => ({
  status,
  body: JSON.stringify(value),
  type: 'application/json',
});
