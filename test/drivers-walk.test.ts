import { monitorEventLoopDelay } from 'node:perf_hooks';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { compileDriver, type DriverCommand, type DriverDocument, type DriverParameter } from '../src/core/driver';
import type { Scalar } from '../src/core/result';
import { shippedDrivers } from '../src/drivers';
import type { StandinTag } from '../src/standins';
import { fleetDrivers, startFleetRig, type FleetRig } from './support/fleet';
import { runAsOne, until } from './support/rig';

/**
 * Every driver and every command, at the smallest, the largest and a middle value of each parameter, against the
 * stand-ins on real sockets: the outcome, the reading, and the stand-in's own state over HTTP.
 */

type State = Record<string, any>; // eslint-disable-line @typescript-eslint/no-explicit-any -- eight kinds of state, each looked into by its own row
type Params = Readonly<Record<string, Scalar>>;
type Check = (state: State, params: Params) => void;

const documents = new Map<string, DriverDocument>();
for (const document of shippedDrivers) {
  const compiled = compileDriver(document);
  if (!compiled.ok) throw new Error(JSON.stringify(compiled.error));
  documents.set(compiled.value.document.id, compiled.value.document);
}

const near = (value: number, wanted: Scalar | undefined, within: number): void =>
  expect(Math.abs(value - Number(wanted)), `${value} is near ${String(wanted)}`).toBeLessThanOrEqual(within);
const at = <T>(list: readonly T[], n: Scalar | undefined): T => list[Number(n) - 1] as T;

/** What is done first, so that the device can carry the command out: [command, params]. */
const before: Readonly<Record<string, readonly (readonly [string, Params])[]>> = {
  'ptz-camera focusNear': [['autoFocus', { on: false }]],
  'ptz-camera focusFar': [['autoFocus', { on: false }]],
  'ptz-camera focusTo': [['autoFocus', { on: false }]],
  'ptz-camera focusOnce': [['autoFocus', { on: false }]],
  'ptz-camera iris': [['exposure', { mode: 'manual' }]],
  'ptz-camera shutter': [['exposure', { mode: 'manual' }]],
  'ptz-camera gain': [['exposure', { mode: 'manual' }]],
  'ptz-camera focusInfinity': [['autoFocus', { on: false }]],
  'ptz-camera bright': [['exposure', { mode: 'bright' }]],
  'ptz-camera redGain': [['whiteBalance', { mode: 'manual' }]],
  'ptz-camera blueGain': [['whiteBalance', { mode: 'manual' }]],
  'ptz-camera menuEnter': [['menu', { on: true }]],
  'ptz-camera menuBack': [['menu', { on: true }]],
  'ptz-camera whiteBalanceOnce': [['whiteBalance', { mode: 'onePush' }]],
  'streaming-encoder stopStream': [['startStream', {}]],
  'streaming-encoder destination': [['stopStream', {}]],
  'streaming-encoder stopRecord': [['startRecord', {}]],
  'replay-deck play': [['load', { clip: 1 }]],
  'replay-deck pause': [['load', { clip: 2 }]],
  'replay-deck stop': [['load', { clip: 3 }]],
  'replay-deck jump': [['load', { clip: 1 }]],
  'replay-deck step': [['load', { clip: 1 }]],
};

/** For single values: a preset has to be stored before it can be recalled, a layer loaded before it can be filled. */
const beforeEach_: Readonly<Record<string, (params: Params) => readonly (readonly [string, Params])[]>> = {
  'ptz-camera nudge': ({ setting }) => [
    ['exposure', { mode: setting === 'bright' ? 'bright' : 'manual' }],
    ['whiteBalance', { mode: 'manual' }],
  ],
  'ptz-camera recall': ({ preset }) => [['store', { preset: preset ?? 0 }]],
  'audio-mixer recall': ({ scene }) => [['store', { scene: scene ?? 1, text: 'Walk' }]],
  'title-machine take': ({ layer }) => [['load', { layer: layer ?? 1, template: 2 }]],
  'title-machine out': ({ layer }) => [
    ['load', { layer: layer ?? 1, template: 2 }],
    ['take', { layer: layer ?? 1 }],
  ],
  'title-machine row': ({ layer }) => [['load', { layer: layer ?? 1, template: 2 }]],
  'title-machine field': ({ layer }) => [['load', { layer: layer ?? 1, template: 2 }]],
  'title-machine next': ({ layer }) => [['load', { layer: layer ?? 1, template: 2 }]],
};
const afterEach_: Readonly<Record<string, (params: Params) => readonly (readonly [string, Params])[]>> = {
  'title-machine take': ({ layer }) => [['out', { layer: layer ?? 1 }]],
  'ptz-camera move': () => [['stopMoving', {}]],
  'ptz-camera zoomIn': () => [['stopZoom', {}]],
  'ptz-camera zoomOut': () => [['stopZoom', {}]],
  'ptz-camera focusNear': () => [['stopFocus', {}]],
  'ptz-camera focusFar': () => [['stopFocus', {}]],
  'ptz-camera menu': () => [['menu', { on: false }]],
  'ptz-camera menuEnter': () => [['menu', { on: false }]],
  'ptz-camera menuBack': () => [['menu', { on: false }]],
  'relay-gateway horn': () => [['hornOff', {}]],
  'relay-gateway flagUp': () => [['flagUpStop', {}]],
  'relay-gateway flagDown': () => [['flagDownStop', {}]],
};

/** Commands whose moves take long: only as far as a test can wait. */
const limits: Readonly<Record<string, Readonly<Record<string, readonly Scalar[]>>>> = {
  'ptz-camera moveBy': { panSpeed: [24], tiltSpeed: [20], pan: [-10, 20, 0], tilt: [5, -3, 0] },
  'ptz-camera moveTo': { speed: [24, 18, 24], pan: [-170, 12.5, 170], tilt: [-30, 7, 90] },
  'streaming-encoder preset': { name: ['river-low', 'river-mid', 'river-high'] },
  'streaming-encoder destination': { url: ['', 'srt://a.example:1', 'srt://b.example:9000/x?y=1'] },
  'vision-switcher name': { text: ['A', 'Bank side', 'x'.repeat(20)] },
  'vision-switcher rate': { frames: [1, 60, 250] },
  'replay-deck load': { clip: [1, 6, 12] },
  'replay-deck play': { speed: [-400, 50, 400] },
  'replay-deck jump': { to: [0, 12.2, 42] },
  'results-board text': { text: ['', 'LANE 4', 'ÄÖÜß1234'] },
  'audio-mixer name': { text: ['', 'Umpire', 'x'.repeat(16)] },
  'audio-mixer store': { text: ['A', 'Evening', 'x'.repeat(16)] },
  'title-machine field': { text: ['', 'Müller, Stroke', 'x'.repeat(80)] },
};

/** What the stand-in itself must be like afterwards. Every command of every driver has its row. */
const checks: Readonly<Record<string, Readonly<Record<string, Check>>>> = {
  'vision-switcher': {
    take: (s, p) => expect(s.program).toBe(p.input),
    ready: (s, p) => expect(s.preview).toBe(p.input),
    cut: (s) => expect(s.mixed).toBeNull(),
    auto: (s) => expect(s.mixed).not.toBeNull(),
    rate: (s, p) => expect(s.rate).toBe(p.frames),
    black: (s, p) => expect([s.blackWanted, s.black > 0]).toEqual([p.to === 'on', p.to === 'on']),
    key: (s, p) => expect(at<State>(s.keys, p.key).on).toBe(p.on),
    keySource: (s, p) => expect(at<State>(s.keys, p.key).source).toBe(p.input),
    aux: (s, p) => expect(at(s.aux, p.aux)).toBe(p.input),
    still: (s, p) => expect(at(s.stills, p.store)).toBe(p.picture),
    macro: (s, p) => expect(s.macro?.running).toBe(p.macro),
    box: (s, p) => expect(at<State>(s.boxes, p.box).on).toBe(p.on),
    boxSource: (s, p) => expect(at<State>(s.boxes, p.box).source).toBe(p.input),
    boxPlace: (s, p) => expect(at<State>(s.boxes, p.box)).toMatchObject({ x: p.x, y: p.y }),
    boxSize: (s, p) => expect(at<State>(s.boxes, p.box).size).toBe(p.size),
    boxCrop: (s, p) => expect(at<State>(s.boxes, p.box).crop).toEqual([p.left, p.top, p.right, p.bottom]),
    name: (s, p) => expect(at(s.names, p.input)).toBe(p.text),
    alive: (s) => expect(s.controllers).toBe(1),
  },
  'ptz-camera': {
    power: (s, p) => expect(s.awake).toBe(p.on),
    moveBy: (s) => expect(s.moving).toBe(false),
    resetHead: (s) => expect([s.pan, s.tilt]).toEqual([0, 0]),
    // This camera takes limits and has no more than its own.
    limit: (s) => expect(s.moving).toBe(false),
    clearLimit: (s) => expect(s.moving).toBe(false),
    digitalZoom: (s, p) => expect(s.picture.digitalZoom).toBe(Number(p.on)),
    focusInfinity: (s) => expect(s.focus).toBe(0),
    steadyFocus: (s, p) => expect(s.picture.steadyFocus).toBe(Number(p.on)),
    bright: (s, p) => expect(s.picture.bright).toBe(p.step),
    exposureCompensation: (s, p) => expect(s.picture.exposureCompensation).toBe(Number(p.on)),
    exposureCompensationTo: (s, p) => expect(s.picture.exposureCompensationStep).toBe(p.step),
    gainLimit: (s, p) => expect(s.picture.gainLimit).toBe(p.step),
    wideDynamic: (s, p) => expect(s.picture.wideDynamic).toBe(Number(p.on)),
    slowShutter: (s, p) => expect(s.picture.slowShutter).toBe(Number(p.on)),
    redGain: (s, p) => expect(s.picture.redGain).toBe(p.step),
    blueGain: (s, p) => expect(s.picture.blueGain).toBe(p.step),
    sharpness: (s, p) => expect(s.picture.sharpness).toBe(p.step),
    noiseReduction: (s, p) => expect(s.picture.noiseReduction).toBe(p.step),
    gamma: (s, p) => expect(s.picture.gamma).toBe(p.step),
    colourGain: (s, p) => expect(s.picture.colourGain).toBe(p.step),
    colourHue: (s, p) => expect(s.picture.colourHue).toBe(p.step),
    flip: (s, p) => expect(s.picture.flip).toBe(Number(p.on)),
    mirror: (s, p) => expect(s.picture.mirror).toBe(Number(p.on)),
    freeze: (s, p) => expect(s.picture.freeze).toBe(Number(p.on)),
    blackAndWhite: (s, p) => expect(s.picture.blackAndWhite).toBe(Number(p.on)),
    nightMode: (s, p) => expect(s.picture.nightMode).toBe(Number(p.on)),
    nudge: (s, p) => {
      const standard: Readonly<Record<string, number>> = { bright: 15, redGain: 128, blueGain: 128, sharpness: 6 };
      const setting = String(p.setting);
      if (p.way === 'reset' && setting in standard) expect(s.picture[setting]).toBe(standard[setting]);
      else expect(s.picture[setting] ?? s[setting] ?? s.picture.exposureCompensationStep).toBeGreaterThanOrEqual(0);
    },
    tallyGreen: (s, p) => expect(s.picture.tallyGreen).toBe(Number(p.on)),
    menuEnter: (s) => expect(s.menu).toBe(true),
    menuBack: (s) => expect(s.menu).toBe(true),
    remote: (s, p) => expect(s.picture.remote).toBe(Number(p.on)),
    move: (s) => expect(s.moving).toBe(true),
    stopMoving: (s) => expect(s.moving).toBe(false),
    moveTo: (s, p) => (near(s.pan, p.pan, 0.2), near(s.tilt, p.tilt, 0.2)),
    home: (s) => expect([s.pan, s.tilt]).toEqual([0, 0]),
    zoomIn: (s) => expect(s.moving || s.zoom === 0x4000).toBe(true),
    zoomOut: (s) => expect(s.moving || s.zoom === 0).toBe(true),
    stopZoom: (s) => expect(s.moving).toBe(false),
    zoomTo: (s, p) => near(s.zoom / 163.84, p.zoom, 0.2),
    focusNear: (s) => expect(s.moving || s.focus === 0x1000).toBe(true),
    focusFar: (s) => expect(s.moving || s.focus === 0).toBe(true),
    stopFocus: (s) => expect(s.moving).toBe(false),
    focusTo: (s, p) => near(s.focus / 40.96, p.focus, 0.2),
    autoFocus: (s, p) => expect(s.focusAuto).toBe(p.on),
    focusOnce: (s) => expect(s.focus).toBe(0x0800),
    exposure: (s, p) => expect(s.exposure).toBe(p.mode),
    iris: (s, p) => expect(s.iris).toBe(p.step),
    shutter: (s, p) => expect(s.shutter).toBe(p.step),
    gain: (s, p) => expect(s.gain).toBe(p.step),
    whiteBalance: (s, p) => expect(s.whiteBalance).toBe(p.mode),
    whiteBalanceOnce: (s) => expect(s.whiteBalance).toBe('onePush'),
    backlight: (s, p) => expect(s.backlight).toBe(p.on),
    recall: (s, p) => near(s.pan, s.presets[Number(p.preset)].pan, 0.01),
    store: (s, p) => expect(s.presets[Number(p.preset)]).toMatchObject({ pan: s.pan, zoom: s.zoom }),
    forget: (s, p) => expect(s.presets[Number(p.preset)]).toBeNull(),
    tally: (s, p) => expect(s.tally).toBe(p.on),
    menu: (s, p) => expect(s.menu).toBe(p.on),
    look: (s) => expect(s.power).toBe(true),
  },
  'streaming-encoder': {
    startStream: (s) => expect(s.stream).toBe('live'),
    stopStream: (s) => expect(s.stream).toBe('idle'),
    startRecord: (s) => expect(s.recording).toBe(true),
    stopRecord: (s) => expect(s.recording).toBe(false),
    bitrate: (s, p) => expect(s.wantedKbps).toBe(p.kbps),
    preset: (s, p) => expect(s.preset).toBe(p.name),
    destination: (s, p) => expect(s.destination).toBe(p.url),
    look: (s) => expect(s.power).toBe(true),
  },
  'replay-deck': {
    load: (s, p) => expect([s.loaded, s.transport]).toEqual([p.clip, 'cued']),
    play: (s, p) =>
      expect([s.transport === 'playing' || s.transport === 'ended', s.speed]).toEqual([true, p.speed ?? 100]),
    pause: (s) => expect(s.transport).toBe('paused'),
    stop: (s) => expect([s.transport, s.position]).toEqual(['cued', 0]),
    jump: (s, p) => near(s.position, p.to, 0.05),
    step: (s) => expect(s.transport).toBe('paused'),
    loop: (s, p) => expect(s.loop).toBe(p.on),
    list: (s) => expect(s.clips).toHaveLength(12),
  },
  'audio-mixer': {
    level: (s, p) => near(at<State>(s.strips, p.strip).level, p.level, 0.001),
    mute: (s, p) => expect(at<State>(s.strips, p.strip).muted).toBe(p.on),
    name: (s, p) => expect(at<State>(s.strips, p.strip).name).toBe(p.text),
    mainLevel: (s, p) => near(s.main.level, p.level, 0.001),
    mainMute: (s, p) => expect(s.main.muted).toBe(p.on),
    recall: (s, p) => expect(s.lastScene).toBe(p.scene),
    store: (s, p) => expect(at<State>(s.scenes, p.scene).name).toBe(p.text),
    hello: (s) => expect(s.controllers).toBe(1),
  },
  'title-machine': {
    load: (s, p) => expect(at<State>(s.layers, p.layer)).toMatchObject({ template: p.template, state: 'ready' }),
    queue: (s, p) => expect(at<State>(s.layers, p.layer).queued).toBe(p.template),
    row: (s, p) => expect(at<State>(s.layers, p.layer).texts[0]).toBe(at<State>(s.table, p.row)[0]),
    field: (s, p) => expect(at<State>(s.layers, p.layer).texts[Number(p.field) - 1]).toBe(p.text),
    take: (s, p) => expect(at<State>(s.layers, p.layer).state).toBe('on'),
    out: (s, p) => expect(at<State>(s.layers, p.layer).state).toBe('ready'),
    next: (s, p) => expect(at<State>(s.layers, p.layer).row).toBe(1),
    run: (s, p) => expect(s.lastFunction).toBe(p.function),
    look: (s) => expect(s.power).toBe(true),
  },
  'relay-gateway': {
    horn: (s) => expect(s.coils[0]).toBe(true),
    hornOff: (s) => expect(s.coils[0]).toBe(false),
    light: (s, p) => expect(s.coils[p.light === 'boat' ? 1 : 2]).toBe(p.on),
    flagUp: (s) => expect(s.coils[3]).toBe(true),
    flagUpStop: (s) => expect(s.coils[3]).toBe(false),
    flagDown: (s) => expect(s.coils[4]).toBe(true),
    flagDownStop: (s) => expect(s.coils[4]).toBe(false),
    hornLimit: (s, p) => near(s.holding[0] / 10, p.seconds, 0.06),
    look: (s) => expect(s.controllers).toBe(1),
  },
  'results-board': {
    text: (s, p) => expect(at(s.rows, p.row)).toBe(p.text),
    clear: (s, p) => expect(at(s.rows, p.row)).toBe(''),
    clearAll: (s) => expect(s.rows).toEqual(['', '', '', '', '', '']),
    brightness: (s, p) => expect(s.brightness).toBe(p.level),
    show: (s, p) => expect(s.shown).toBe(p.on),
    look: (s) => expect(s.power).toBe(true),
  },
};

/** Smallest, middle and largest of a parameter; all of them where there are few. */
function valuesOf(param: DriverParameter, given: readonly Scalar[] | undefined): readonly Scalar[] {
  if (given) return given;
  const { value } = param;
  switch (value.type) {
    case 'whole':
    case 'decimal': {
      const [min, max] = [Number(value.min ?? 0), Number(value.max ?? 100)];
      const middle = value.type === 'whole' ? Math.round((min + max) / 2) : (min + max) / 2;
      return [...new Set([min, middle, max])];
    }
    case 'choice':
      return value.choices.map((choice) => choice.value);
    case 'onOff':
      return [true, false];
    case 'time':
      return [0, 10.4];
    default:
      return ['a', 'some text'];
  }
}

/** One set of parameters for each value of each parameter; the others are at their own values in turn. */
function sets(name: string, command: DriverCommand): Params[] {
  const values = Object.entries(command.params).map(
    ([id, param]) => [id, valuesOf(param, limits[name]?.[id])] as const,
  );
  const most = Math.max(1, ...values.map(([, list]) => list.length));
  return Array.from({ length: most }, (_, n) =>
    Object.fromEntries(values.map(([id, list]) => [id, list[Math.min(n, list.length - 1)] ?? list[0] ?? 0])),
  );
}

const walked: readonly StandinTag[] = ['SW1', 'C1', 'C4', 'E1', 'R1', 'A1', 'T1', 'G1', 'S1'];

describe('every command of every driver', () => {
  let f: FleetRig;
  let end: () => Promise<void>;
  const delay = monitorEventLoopDelay({ resolution: 20 });
  beforeAll(async () => {
    delay.enable();
    [f, end] = await runAsOne(() => startFleetRig(walked));
    for (const tag of walked) await f.linkIs(tag, 'up');
  });
  afterAll(() => end());

  const kinds = walked.map((tag) => ({ tag, kind: fleetDrivers[tag].replace(/-bare$/, '') }));
  const rows = kinds.flatMap(({ tag, kind }) =>
    Object.keys(documents.get(fleetDrivers[tag])?.commands ?? {}).map((command) => ({ tag, kind, command })),
  );

  it('has a row of its own', () => {
    const missing = rows.filter(({ kind, command }) => !checks[kind]?.[command]);
    expect(missing).toEqual([]);
  });

  it.each(rows)(
    '$tag $command',
    async ({ tag, kind, command }) => {
      const name = `${kind} ${command}`;
      const spec = documents.get(fleetDrivers[tag])?.commands[command];
      if (!spec) throw new Error(name);
      const all = async (list: readonly (readonly [string, Params])[]) => {
        for (const [id, params] of list)
          expect(await f.send(tag, id, params), `${id} before or after`).toMatchObject({ reason: undefined });
      };
      // C4 takes the same messages as C1 in another way: one value of each is enough.
      for (const params of sets(name, spec).slice(0, tag === 'C4' ? 1 : undefined)) {
        await all(before[name] ?? []);
        await all(beforeEach_[name]?.(params) ?? []);
        if (kind === 'vision-switcher')
          await until(
            () => f.state(tag),
            (s: State) => s.macro === null && s.mixed === null,
            12_000,
          );
        const result = await f.send(tag, command, params);
        const wanted = spec.confirm ? 'confirmed' : 'sent';
        expect({ params, outcome: result.outcome, reason: result.reason }).toEqual({
          params,
          outcome: wanted,
          reason: undefined,
        });
        if (spec.confirm?.by === 'readings') {
          for (const { reading, index, equals, within } of spec.confirm.all) {
            if (typeof equals !== 'object' || !('param' in equals) || params[equals.param] === undefined) continue;
            const key = index ? reading.replace('[]', `[${params[index]}]`) : reading;
            const now = f.reading(tag, key);
            if (within === undefined) expect(now, key).toBe(params[equals.param]);
            else near(Number(now), params[equals.param], within);
          }
        }
        const state = await until(
          () => f.state(tag),
          (s) => {
            try {
              checks[kind]?.[command]?.(s, params);
              return true;
            } catch {
              return false;
            }
          },
          1000,
        ).catch(() => f.state(tag));
        checks[kind]?.[command]?.(state, params);
        await all(afterEach_[name]?.(params) ?? []);
      }
    },
    60_000,
  );

  it('leaves no frame that could not be read', (context) => {
    // Engine and stand-ins share this process: while it stands still, answers come after their time and belong to nothing.
    const stoodStillMs = delay.max / 1e6;
    if (stoodStillMs > 200) return context.skip(`The machine stood still for ${Math.round(stoodStillMs)} ms.`);
    const faults = f.rig.engine.api.health().links.filter((link) => link.faults > 0);
    expect(faults.map(({ tag, faults: count }) => [tag, count])).toEqual([]);
  });
});
