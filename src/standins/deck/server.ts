import { z } from 'zod';
import { encodeLine, LineFramer } from '../../core/wire';
import { readByHand, standinPage, TcpStandin, type Client } from '../kit';
import { DeckModel, timecode, type DeckState } from './model';

const framing = { ending: 'lf', encoding: 'utf-8', maxFrameBytes: 400 } as const;
const number = z.number();

const operation = z.discriminatedUnion('verb', [
  z.strictObject({ verb: z.literal('load'), clip: number.int() }),
  z.strictObject({ verb: z.literal('play'), speed: number.optional() }),
  z.strictObject({ verb: z.literal('pause') }),
  z.strictObject({ verb: z.literal('stop') }),
  z.strictObject({ verb: z.literal('loop'), on: z.boolean() }),
]);

/** The playout and replay deck: lines over TCP, each command answered in order, every change reported to everybody. */
export class DeckStandin extends TcpStandin {
  readonly title = 'Playout and replay deck';
  private readonly model = new DeckModel((before, now) => this.onChange(before, now));
  private frames = 0;
  /** The house frame in which it began to play. */
  private playsSince: number | undefined;

  page = (): string => standinPage({ tag: this.tag, title: this.title, css, body, script });

  protected own() {
    const { state } = this.model;
    return { ...state, timecode: timecode(state.position), left: leftOf(state), playsSince: this.playsSince };
  }

  protected byHand(asked: unknown): string | undefined {
    return readByHand(operation, asked, (order) => {
      switch (order.verb) {
        case 'load':
          return this.model.load(order.clip);
        case 'play':
          return this.model.play(order.speed);
        case 'pause':
          return this.model.pause();
        case 'stop':
          return this.model.stop();
        case 'loop':
          return this.model.setLoop(order.on);
      }
    });
  }

  protected override frame(): void {
    this.model.frame();
    this.frames += 1;
    // The time is told five times a second while it runs.
    if (this.frames % 5 === 0 && this.model.state.transport === 'playing') this.report(timeLine(this.model.state));
  }

  protected welcome(client: Client): (chunk: Uint8Array) => void {
    const framer = new LineFramer(framing);
    if (this.faults.taken) {
      say(client, '* held by another controller');
      client.end();
      return () => undefined;
    }
    say(client, `* ${this.faults.otherModel ? 'jukebox' : 'deck'} ready 1.2`);
    return (chunk) => {
      for (const frame of framer.push(chunk)) {
        if (frame.kind === 'overlong') say(client, '- 9 line too long');
        else this.onLine(client, frame.text);
      }
    };
  }

  private onLine(client: Client, line: string): void {
    const answer = (refusal: string | undefined) =>
      say(client, refusal === undefined ? '+' : `- ${codeOf(refusal)} ${refusal}`);
    const [verb = '', ...words] = line.trim().split(/\s+/);
    const numbers = words.map(Number);
    const [first = NaN, second = NaN] = numbers;
    const wants = (count: number) => words.length === count && numbers.every(Number.isFinite);
    const { model } = this;
    switch (verb) {
      case 'load':
        return answer(wants(1) && Number.isInteger(first) ? model.load(first) : 'load needs a number');
      case 'play':
        if (words.length === 0) return answer(model.play());
        return answer(
          wants(1) && first >= -400 && first <= 400 && first !== 0
            ? model.play(first)
            : 'play needs a speed from -400 to 400',
        );
      case 'pause':
        return answer(model.pause());
      case 'stop':
        return answer(model.stop());
      case 'jump': {
        const at = /^(\d{1,2}):(\d{2}):(\d{2}):(\d{2})$/.exec(words[0] ?? '');
        if (!at) return answer('jump needs a time such as 00:00:12:05');
        const [, h = 0, m = 0, s = 0, f = 0] = at.map(Number);
        return answer(model.jump(h * 3600 + m * 60 + s + f / 25));
      }
      case 'step':
        return answer(
          wants(1) && Number.isInteger(first) && Math.abs(first) <= 250
            ? model.step(first)
            : 'step needs up to 250 frames',
        );
      case 'loop':
        return answer(
          words[0] === 'on' || words[0] === 'off' ? model.setLoop(words[0] === 'on') : 'loop needs on or off',
        );
      case 'clips':
        if (!wants(2) || first < 1 || second < 1 || second > 50) return answer('clips needs a first and a count');
        say(client, `= clips ${model.state.clips.length}`);
        model.state.clips.slice(first - 1, first - 1 + second).forEach((clip, n) => {
          say(client, `= clip ${first + n} ${clip.seconds.toFixed(2)} ${clip.name}`);
        });
        return answer(undefined);
      case 'state':
        for (const report of reportsOf(model.state)) say(client, report);
        return answer(undefined);
      case 'ping':
        return answer(undefined);
      default:
        return answer('not understood');
    }
  }

  private onChange(before: DeckState, now: DeckState): void {
    if (now.transport === 'playing' && before.transport !== 'playing') this.playsSince = this.houseFrame;
    const known = new Set(reportsOf(before));
    const jumped = before.transport !== 'playing' || now.transport !== 'playing';
    for (const line of reportsOf(now)) {
      if (known.has(line) || (!jumped && line.startsWith('! time '))) continue;
      this.report(line);
    }
    this.tell();
  }

  private report(line: string): void {
    for (const client of this.clients) say(client, line);
  }
}

const leftOf = ({ clips, loaded, position }: DeckState): number =>
  Math.max(0, (clips[loaded - 1]?.seconds ?? 0) - position);

const timeLine = (state: DeckState): string => `! time ${timecode(state.position)} ${leftOf(state).toFixed(2)}`;

function reportsOf(state: DeckState): string[] {
  const { loaded, transport, speed, loop, clips } = state;
  return [
    `! loaded ${loaded} ${clips[loaded - 1]?.name ?? ''}`,
    `! transport ${transport}`,
    `! speed ${speed}`,
    `! loop ${loop ? 'on' : 'off'}`,
    timeLine(state),
  ];
}

function codeOf(refusal: string): number {
  if (refusal === 'not understood') return 1;
  if (refusal === 'no clip loaded') return 3;
  return refusal.startsWith('no clip') ? 4 : 2;
}

function say(client: Client, line: string): void {
  const encoded = encodeLine(line, framing);
  if (encoded.ok) client.send(encoded.value);
}

const css = `.tc { font: 600 54px/1.1 monospace; } .out { display: grid; place-items: center; text-align: center; } .track { height: 8px; background: var(--field); margin: 10px 0; } .track i { display: block; height: 100%; background: #c9b79c; } .cols { display: grid; grid-template-columns: 1fr 1fr; gap: 24px; margin-top: 20px; } @media (max-width: 700px) { .cols { grid-template-columns: 1fr; } .tc { font-size: 36px; } }`;
const body = `<div class="cols"><div><div class="screen out"><div><p id="name"></p><div class="tc" id="tc"></div><p id="left"></p></div></div><div class="track"><i id="track"></i></div>
  <div class="acts"><button id="play">Play</button><button id="pause">Pause</button><button id="stop">Stop</button><button id="loop">Loop</button></div></div>
  <table><thead><tr><th>Clip</th><th>Name</th><th>Length</th></tr></thead><tbody id="clips"></tbody></table></div>`;
const script = `
let last = {};
for (const verb of ['play', 'pause', 'stop']) on(verb, 'click', () => op({ verb }));
on('loop', 'click', () => op({ verb: 'loop', on: !last.loop }));
draw = (s) => {
  last = s;
  const clip = s.clips[s.loaded - 1];
  $('name').textContent = clip ? s.loaded + ' ' + clip.name : 'no clip loaded'; $('tc').textContent = s.timecode;
  $('left').textContent = clip ? s.transport + ' at ' + s.speed + ' %, ' + s.left.toFixed(1) + ' s left' : '';
  $('track').style.width = clip ? s.position / clip.seconds * 100 + '%' : 0;
  $('loop').setAttribute('aria-pressed', String(s.loop)); $('play').setAttribute('aria-pressed', String(s.transport === 'playing'));
  show('clips', each(s.clips, (c, n) => '<tr aria-current="' + (s.loaded === n + 1) + '"><td><button' + does({ verb: 'load', clip: n + 1 }) + '>' + (n + 1) + '</button></td><td>' + safe(c.name) + '</td><td>' + c.seconds.toFixed(1) + ' s</td></tr>'));
};`;
