import { z } from 'zod';
import {
  DigestGuard,
  HttpStandin,
  readByHand,
  standinPage,
  type HttpAnswer,
  type HttpAsked,
  type StandinOptions,
} from '../kit';
import { EncoderModel, presets, type EncoderState } from './model';
import { encoderPicture } from './picture';

export const encoderUser = 'operator';
export const encoderPassword = 'tide-table-7';
const otherPassword = 'ebb-and-flow-9';

interface EncoderOptions extends StandinOptions {
  readonly destination: string;
}

const on = z.strictObject({ on: z.boolean() });
const routes: Readonly<Record<string, (model: EncoderModel, body: unknown) => string | undefined>> = {
  'POST /v1/stream': (model, body) => readByHand(on, body, (value) => model.run(value.on)),
  'POST /v1/record': (model, body) => readByHand(on, body, (value) => model.record(value.on)),
  'PUT /v1/bitrate': (model, body) =>
    readByHand(z.strictObject({ kbps: z.number().int().min(200).max(20_000) }), body, ({ kbps }) =>
      model.setBitrate(kbps),
    ),
  'PUT /v1/preset': (model, body) =>
    readByHand(z.strictObject({ name: z.string() }), body, ({ name }) => model.choosePreset(name)),
  'PUT /v1/destination': (model, body) =>
    readByHand(z.strictObject({ url: z.string().max(200) }), body, ({ url }) => model.setDestination(url)),
};

const operation = z.discriminatedUnion('verb', [
  z.strictObject({ verb: z.literal('stream'), on: z.boolean() }),
  z.strictObject({ verb: z.literal('record'), on: z.boolean() }),
  z.strictObject({ verb: z.literal('input'), present: z.boolean() }),
  z.strictObject({ verb: z.literal('lose'), frames: z.number().int().min(1).max(1000) }),
]);

/** A streaming encoder: JSON over HTTP, signed in by Digest, with a stream of events. */
export class EncoderStandin extends HttpStandin {
  readonly title = 'Streaming encoder';
  private readonly guard: DigestGuard;
  private readonly model: EncoderModel;

  constructor(options: EncoderOptions) {
    super(options);
    this.guard = new DigestGuard(`encoder ${options.tag}`);
    this.model = new EncoderModel(options.destination, () => {
      this.push(JSON.stringify({ event: 'status', ...statusOf(this.model.state) }));
      this.tell();
    });
  }

  page = (): string => standinPage({ tag: this.tag, title: this.title, css, body, script });
  still = (): string => encoderPicture(this.model.state);
  protected own = () => ({ ...this.model.state, presets });
  protected override greeting = (): string => JSON.stringify({ event: 'status', ...statusOf(this.model.state) });

  protected override frame(): void {
    this.model.frame();
  }

  protected byHand(asked: unknown): string | undefined {
    return readByHand(operation, asked, (order) => {
      switch (order.verb) {
        case 'stream':
          return this.model.run(order.on);
        case 'record':
          return this.model.record(order.on);
        case 'input':
          return this.model.setInput(order.present);
        case 'lose':
          return this.model.loseFrames(order.frames);
      }
    });
  }

  protected answer({ method, path, headers, body }: HttpAsked): HttpAnswer | 'events' {
    const { otherPassword: changed, otherModel, taken } = this.faults;
    const password = changed ? otherPassword : encoderPassword;
    if (!this.guard.admits(headers.authorization, method, path, encoderUser, password)) {
      return { ...json(401, { error: 'sign in' }), headers: { 'www-authenticate': this.guard.challenge } };
    }
    if (taken) return json(423, { error: 'another controller holds the encoder' });
    const route = `${method} ${path}`;
    if (route === 'GET /v1/events') return 'events';
    if (route === 'GET /v1/status') return json(200, statusOf(this.model.state));
    if (route === 'GET /v1/identity') {
      return json(200, {
        model: otherModel ? 'Weir 40' : 'Millrace 20',
        firmware: '2.3.1',
        serial: `MR-${this.tag}-0417`,
      });
    }
    if (route === 'GET /v1/presets') return json(200, { presets });
    const act = routes[route];
    if (!act) return json(404, { error: `there is nothing at ${route}` });
    let value: unknown;
    try {
      value = JSON.parse(body);
    } catch {
      return json(400, { error: 'the body is not JSON' });
    }
    const refusal = act(this.model, value);
    return refusal === undefined ? json(200, { ok: true }) : json(409, { error: refusal });
  }
}

function statusOf(state: EncoderState) {
  const { stream, recording, kbps, wantedKbps, droppedFrames, streamSeconds, recordSeconds, destination } = state;
  return {
    stream: { state: stream, kbps, wanted: wantedKbps, dropped: droppedFrames, seconds: streamSeconds, destination },
    record: { on: recording, seconds: recordSeconds, freeGb: state.freeGigabytes },
    preset: state.preset,
    input: state.inputPresent,
  };
}

const json = (status: number, value: unknown): HttpAnswer => ({
  status,
  body: JSON.stringify(value),
  type: 'application/json',
});

const css = `.big { display: grid; grid-template-columns: repeat(auto-fit, minmax(200px, 1fr)); gap: 20px; margin: 24px 0; } .big b { display: block; font-size: 30px; font-weight: 600; } .bar { height: 10px; background: var(--field); } .bar i { display: block; height: 100%; background: #c9b79c; }`;
const body = `
  <div class="big"><div><span class="soft">Stream</span><b id="stream"></b></div><div><span class="soft">On air for</span><b id="time"></b></div>
    <div><span class="soft">Bitrate</span><b id="kbps"></b><div class="bar"><i id="bar"></i></div></div><div><span class="soft">Recording</span><b id="rec"></b></div></div>
  <dl id="facts"></dl>
  <div class="acts"><button id="go">Start stream</button><button id="record">Start recording</button><button id="lose">Lose 25 frames</button><button id="input">Pull the input</button></div>`;
const script = `
let last = {};
on('go', 'click', () => op({ verb: 'stream', on: last.stream === 'idle' || last.stream === 'failed' }));
on('record', 'click', () => op({ verb: 'record', on: !last.recording }));
on('lose', 'click', () => op({ verb: 'lose', frames: 25 }));
on('input', 'click', () => op({ verb: 'input', present: !last.inputPresent }));
draw = (s) => {
  last = s;
  $('stream').textContent = s.stream; $('time').textContent = clock(s.streamSeconds); $('kbps').textContent = s.kbps + ' kbit/s';
  $('bar').style.width = Math.min(100, s.kbps / s.wantedKbps * 100) + '%';
  $('rec').textContent = s.recording ? clock(s.recordSeconds) : 'off';
  $('go').textContent = s.stream === 'idle' || s.stream === 'failed' ? 'Start stream' : 'Stop stream';
  $('record').textContent = s.recording ? 'Stop recording' : 'Start recording';
  $('input').textContent = s.inputPresent ? 'Pull the input' : 'Plug the input in';
  show('facts', each([['Destination', s.destination || 'none'], ['Preset', s.preset], ['Wanted', s.wantedKbps + ' kbit/s'], ['Dropped frames', s.droppedFrames], ['Free on the card', s.freeGigabytes.toFixed(1) + ' GB'], ['Input', s.inputPresent ? 'picture present' : 'no picture']], ([k, v]) => '<dt>' + k + '</dt><dd>' + safe(v) + '</dd>'));
};`;
