import { readFileSync } from 'node:fs';
import { Cam } from 'onvif';
import { describe, expect } from 'vitest';
import { foreign, linkIs, printed, reading, saysOf, send, start, startPython, tested } from './support/foreign-end';
import type { Scalar } from '../src/core/result';
import cameraOnvif from '../src/drivers/camera-onvif.json';
import { OnvifCamera, onvifPassword, onvifUser } from '../src/standins/camera/onvif-camera';
import { HouseSync } from '../src/standins/kit';
import { controlRecord, pageRecord } from './support/records';
import { onTestFinished, TestClient, until, type TestRig } from './support/rig';

/** ONVIF with a camera in Python, written from the specifications. That camera itself is tried with the client of a package. */

const program = readFileSync(new URL('peers/onvif-camera.py', import.meta.url), 'utf8');
const user = 'operator';
const password = 'low "tide" & <reeds>';

interface CameraState {
  readonly pan: number;
  readonly tilt: number;
  readonly zoom: number;
  readonly speeds: Readonly<Record<'pan' | 'tilt' | 'zoom', number>>;
  readonly presets: readonly (readonly [token: string, name: string, at: { readonly pan: number }])[];
  readonly looks: Readonly<Record<string, unknown>>;
  readonly asked: readonly string[];
}

const stateOf = async (port: number) => (await (await fetch(`http://127.0.0.1:${port}/state`)).json()) as CameraState;
const startCamera = (settings: object = {}) => startPython(program, JSON.stringify(settings));
const driver = 'ptz-camera-onvif';

async function startUp(settings: object = {}, options: object = {}) {
  const camera = await startCamera(settings);
  const rig = await start(driver, camera.port, { user, role: 'camera', options }, password);
  await linkIs(rig, 'up');
  return { camera, rig, state: () => stateOf(camera.port) };
}

const signIns = ['token', 'digest'] as const;

/** The client of a package, signed in. */
const clientAt = (port: number, signIn: { readonly username: string; readonly password: string }) =>
  new Promise<Cam>((resolve, reject) => {
    const client: Cam = new Cam({ hostname: '127.0.0.1', port, ...signIn, timeout: 4000 }, (error) =>
      error ? reject(error) : resolve(client),
    );
  });
const ask = <Answer>(call: (done: (error: Error | null, answer: Answer) => void) => void) =>
  new Promise<Answer>((resolve, reject) => call((error, answer) => (error ? reject(error) : resolve(answer))));

describe('the cameras of these tests', () => {
  foreign.each(signIns)('the one in Python is understood by the client of a package, sign-in by %s', async (signIn) => {
    const { port } = await startCamera({ signIn, clock: 90 });
    const cam = await clientAt(port, { username: user, password });
    expect(Object.keys(await ask((done) => cam.getPresets({}, done)))).toEqual(['Finish & line', 'Pontoon']);
    expect((await ask<{ position: object }>((done) => cam.getStatus({}, done))).position).toMatchObject({
      x: 0.1,
      y: -0.2,
    });
    expect((await ask<{ brightness: number }>((done) => cam.getImagingSettings(done))).brightness).toBe(50);
    await ask((done) => cam.continuousMove({ x: 0.5, y: 0, zoom: 0, timeout: 20_000 }, done));
    await ask((done) => cam.stop({ panTilt: true, zoom: true }, done));
    expect((await stateOf(port)).asked).toEqual(['ContinuousMove', 'Stop']);
  });
});

/** The stand-in of a rehearsal, at a place of its own. */
async function startStandin() {
  const sync = new HouseSync(25);
  const startAt = { pan: 0, tilt: 0, zoom: 3000, focus: 0x0800 };
  const standin = new OnvifCamera({ tag: 'C9', sync, host: '127.0.0.1', port: 0, scene: 'Tower', startAt });
  onTestFinished(async () => {
    sync.stop();
    await standin.stop();
  });
  await standin.setPower(true);
  return standin;
}
const standinSignIn = { username: onvifUser, password: onvifPassword };

describe('the stand-in', () => {
  foreign('is understood by the client of a package', async () => {
    const standin = await startStandin();
    const cam = await clientAt(standin.port, standinSignIn);
    expect(Object.keys(await ask((done) => cam.getPresets({ profileToken: 'main' }, done)))).toContain('Finish line');
    await ask((done) => cam.continuousMove({ profileToken: 'main', x: 0.5, y: 0, zoom: 0, timeout: 20_000 }, done));
    await until(
      () => standin.view,
      ({ moving }) => moving === true,
    );
    await ask((done) => cam.stop({ profileToken: 'main', panTilt: true, zoom: true }, done));
    await until(
      () => standin.view,
      ({ moving }) => moving === false,
    );
  });

  foreign('knows every command of the driver', async () => {
    const standin = await startStandin();
    const rig = await start(driver, standin.port, { user: onvifUser, role: 'camera' }, onvifPassword);
    await linkIs(rig, 'up');
    expect(await everyCommand(rig)).toEqual({});
    standin.setFaults({ otherPassword: true });
    await linkIs(rig, 'locked out');
  });
});

/** Sends every command of the driver once. Returns what was not confirmed, with its reason. */
async function everyCommand(rig: TestRig): Promise<Readonly<Record<string, string | undefined>>> {
  const given: Readonly<Record<string, Readonly<Record<string, Scalar>>>> = {
    recallToken: { token: String(reading(rig, 'presets[1].token')) },
    auxiliary: { command: 'tt:Wiper|On' },
  };
  const failed: Record<string, string | undefined> = {};
  // Whatever moves is stopped by the commands behind it.
  for (const [id, { params = {} }] of Object.entries(commands)) {
    const asked = Object.entries(params).flatMap(([name, { value, ...rest }]) =>
      rest.computed !== undefined || rest.optional || rest.default !== undefined
        ? []
        : [[name, middleOf(value)] as const],
    );
    const wanted = { ...Object.fromEntries(asked), ...given[id] };
    // A preset can only be stored when the head stands.
    if (id === 'store') for (const stop of ['stopMoving', 'stopZoom']) await send(rig, stop, {});
    const { outcome, reason } = await send(rig, id, wanted);
    if (outcome !== 'confirmed') failed[id] = `${outcome}: ${reason}`;
  }
  return failed;
}

const commands = cameraOnvif.commands as Readonly<
  Record<string, { readonly params?: Readonly<Record<string, Parameter>> }>
>;

interface Parameter {
  readonly value: {
    readonly type: string;
    readonly min?: number;
    readonly choices?: readonly { readonly value: string }[];
  };
  readonly computed?: string;
  readonly optional?: boolean;
  readonly default?: Scalar;
}
const middleOf = ({ type, min, choices }: Parameter['value']): Scalar =>
  type === 'onOff' ? true : type === 'choice' ? (choices?.[0]?.value ?? '') : Math.max(1, (min ?? 0) + 1);

describe('ONVIF', () => {
  foreign('every command is one that the camera knows', async () => {
    const { rig } = await startUp();
    expect(await everyCommand(rig)).toEqual({ restart: expect.stringMatching(/^refused/) });
  });

  foreign.each([
    ['a token', { signIn: 'token', clock: 3700 }, { auth: 'token' }],
    ['HTTP Digest', { signIn: 'digest' }, { auth: 'digest' }],
    ['either, with a camera that takes tokens', { signIn: 'token' }, {}],
    ['either, with a camera that takes Digest', { signIn: 'digest' }, {}],
  ])('signs in by %s and knows the whole state when it is up', async (_by, settings, options) => {
    const { rig } = await startUp(settings, options);
    const says = (key: string) => reading(rig, key);
    expect([says('model'), says('firmware'), says('serial')]).toEqual(['Heron 3', '2.1.7', 'HX-0042']);
    expect([says('profile'), says('profileName'), says('videoSource')]).toEqual(['live', 'Live', 'src0']);
    expect([says('pan'), says('tilt'), says('zoom'), says('moving')]).toEqual([10, -20, 0, false]);
    expect([says('presets[1].name'), says('presets[2].token')]).toEqual(['Finish & line', 'tok12']);
    expect([says('autoFocus'), says('exposure'), says('brightness'), says('shutter')]).toEqual([
      true,
      'auto',
      50,
      20_000,
    ]);
    expect(says('stillPath')).toBe('/still.svg');
  });

  foreign('works with a camera that has only the newer media service', async () => {
    const { rig, state } = await startUp({ profileT: true });
    expect(reading(rig, 'profile')).toBe('live');
    expect(await send(rig, 'recall', { preset: 2 })).toMatchObject({ outcome: 'confirmed' });
    await until(state, ({ pan }) => pan === -0.5);
  });

  foreign.each(signIns)('is locked out by a wrong password, sign-in by %s', async (signIn) => {
    const { port } = await startCamera({ signIn });
    const rig = await start(driver, port, { user }, 'another');
    await linkIs(rig, 'locked out');
  });

  foreign('tells how far the clock of the camera is off, and signs in all the same', async () => {
    const { rig } = await startUp({ signIn: 'token', clock: -3700 });
    expect(Math.abs(Number(reading(rig, 'clockDifference')) + 3700)).toBeLessThanOrEqual(1);
    const lines = await tested(rig, { devices: ['D1'] });
    const identity = lines.find(({ stage }) => stage === 'identity')?.verdict;
    expect(identity).toMatchObject({ is: 'doubtful', trouble: 'clock-differs' });
    expect(lines.find(({ stage }) => stage === 'protocol')?.verdict.is).toBe('passed');
  });

  foreign('moves to a position, and is confirmed by where the camera says that it is', async () => {
    const { rig, state } = await startUp();
    expect(await send(rig, 'moveTo', { pan: -33.3, tilt: 12.5 })).toMatchObject({
      outcome: 'confirmed',
      why: 'reported',
    });
    await until(state, ({ pan, tilt }) => pan === -0.333 && tilt === 0.125);
    expect(await send(rig, 'zoomTo', { zoom: 40 })).toMatchObject({ outcome: 'confirmed' });
    expect(await send(rig, 'moveBy', { pan: 10, tilt: 0 })).toMatchObject({ outcome: 'confirmed', why: 'accepted' });
    await until(state, ({ pan, zoom }) => Math.abs(pan + 0.233) < 0.001 && zoom === 0.4);
  });

  foreign('recalls, replaces, adds and removes presets', async () => {
    const { rig, state } = await startUp({}, { positions: 'position' });
    expect(await send(rig, 'recall', { preset: 1 })).toMatchObject({ outcome: 'confirmed', why: 'reported' });
    await saysOf(rig, 'presets[1].reached', true);
    expect(reading(rig, 'presets[2].reached')).toBe(false);
    await until(state, ({ pan }) => pan === 0.5);
    await saysOf(rig, 'moving', false);
    expect(await send(rig, 'store', { preset: 2 })).toMatchObject({ outcome: 'confirmed' });
    expect(await send(rig, 'store', { preset: 3, name: 'Reeds & <wind>' })).toMatchObject({ outcome: 'confirmed' });
    await saysOf(rig, 'presets[3].name', 'Reeds & <wind>');
    expect((await state()).presets.map(([token, name, { pan }]) => [token, name, pan])).toEqual([
      ['tok7', 'Finish & line', 0.5],
      ['tok12', 'Pontoon', 0.5],
      ['tok22', 'Reeds & <wind>', 0.5],
    ]);
    expect(await send(rig, 'forget', { preset: 2 })).toMatchObject({ outcome: 'confirmed' });
    await saysOf(rig, 'presets[2].name', 'Reeds & <wind>');
    expect(reading(rig, 'presets[3].name')).toBeUndefined();
    const gone = await send(rig, 'recall', { preset: 3 });
    expect(gone).toMatchObject({ outcome: 'lost', why: 'bad-value' });
  });

  foreign('numbers presets by their tokens where that is wanted, so that they keep their numbers', async () => {
    const { rig, state } = await startUp({}, { numbering: 'token' });
    expect([reading(rig, 'presets[7].name'), reading(rig, 'presets[12].name')]).toEqual(['Finish & line', 'Pontoon']);
    await send(rig, 'forget', { preset: 7 });
    await until(
      () => reading(rig, 'presets[7].name'),
      (name) => name === undefined,
    );
    expect(await send(rig, 'recall', { preset: 12 })).toMatchObject({ outcome: 'confirmed' });
    await until(state, ({ pan }) => pan === -0.5);
  });

  foreign('sets the picture, and is confirmed by what the camera reports', async () => {
    const { rig, state } = await startUp();
    for (const [command, params] of [
      ['brightness', { level: 61.5 }],
      ['gain', { step: 12 }],
      ['whiteBalance', { mode: 'auto' }],
      ['backlight', { on: true }],
      ['autoFocus', { on: false }],
      ['irFilter', { mode: 'off' }],
    ] as const)
      expect([command, (await send(rig, command, params)).outcome]).toEqual([command, 'confirmed']);
    expect((await state()).looks).toMatchObject({
      Brightness: 61.5,
      'Exposure/Gain': 12,
      'Exposure/Mode': 'MANUAL',
      'BacklightCompensation/Mode': 'ON',
      'Focus/AutoFocusMode': 'MANUAL',
      IrCutFilter: 'OFF',
    });
    expect(await send(rig, 'contrast', { level: 180 })).toMatchObject({
      outcome: 'refused',
      reason: 'The camera does not take this value.',
    });
  });

  foreign('a command that this user may not send is refused, and the sign-in holds', async () => {
    const { rig } = await startUp({ signIn: 'token' });
    expect(await send(rig, 'restart', {})).toMatchObject({ outcome: 'refused' });
    expect(await send(rig, 'home', {})).toMatchObject({ outcome: 'confirmed' });
    expect(rig.engine.api.health().links[0]?.link.word).toBe('up');
  });

  foreign('writes what is typed as text, whatever is in it', async () => {
    const { rig, camera } = await startUp();
    await send(rig, 'auxiliary', { command: '</tptz:AuxiliaryData>&amp;"\u0001' });
    await printed(camera.lines, ['SendAuxiliaryCommand </tptz:AuxiliaryData>&amp;"']);
  });

  foreign('shows neither the password nor what stands for it on the wire', async () => {
    const { rig } = await startUp({ signIn: 'token' });
    const client = await TestClient.open(rig.url);
    const { rows } = await client.follow<{ rows: readonly { hex: string }[] }>('wire');
    const wire = rows.map(({ hex }) => Buffer.from(hex, 'hex').toString()).join('\n');
    expect(wire).toContain('GetDeviceInformation');
    expect(wire).not.toMatch(/PasswordDigest|UsernameToken|reeds/);
  });
});

describe('a held move over ONVIF', () => {
  const records = [
    pageRecord('page', 'Camera', { rows: 1 }),
    controlRecord('left', {
      col: 0,
      responses: { tap: [], held: [{ device: 'dev', command: 'move', params: { direction: 'left', panSpeed: 20 } }] },
    }),
  ];
  const startHeld = async (settings: object = {}, options: object = {}) => {
    const camera = await startCamera(settings);
    const rig = await start(driver, camera.port, { user, role: 'camera', options }, password, undefined, records);
    await linkIs(rig, 'up');
    return { camera, rig, client: await TestClient.open(rig.url), state: () => stateOf(camera.port) };
  };
  let count = 0;
  const hold = (client: TestClient) => {
    const id = `onvif-${(count += 1)}-press`;
    client.say({ t: 'press', id, page: 'page', control: 'left', gesture: 'hold' });
    return id;
  };
  const stands = ({ speeds }: CameraState) => Object.values(speeds).every((speed) => speed === 0);

  foreign('goes on while it is held, and stops with the hand', async () => {
    const { client, state } = await startHeld();
    const id = hold(client);
    const still = setInterval(() => client.say({ t: 'still', id }), 200);
    await until(state, ({ speeds }) => speeds.pan === -0.2);
    clearInterval(still);
    client.say({ t: 'release', id });
    await until(state, stands);
  });

  foreign('is stopped after it began, however short the press and however slow the camera', async () => {
    const { client, state, camera } = await startHeld({ slow: 0.3 });
    client.say({ t: 'release', id: hold(client) });
    await printed(camera.lines, ['ContinuousMove {"pan": -0.2, "tilt": 0.0}', 'Stop true false']);
    expect(stands(await state())).toBe(true);
  });

  foreign('is stopped by the next engine, which first has to ask where', async () => {
    const { rig, client, state } = await startHeld();
    hold(client);
    await until(state, ({ speeds }) => speeds.pan === -0.2);
    rig.crash();
    await rig.revive();
    await until(state, stands, 5000);
    expect((await state()).asked).toContain('Stop');
  });

  foreign('ends at the camera by itself when nobody can stop it', async () => {
    const { rig, client, state, camera } = await startHeld({}, { stopAfter: 1 });
    hold(client);
    await until(state, ({ speeds }) => speeds.pan === -0.2);
    rig.crash();
    await until(state, stands, 3000);
    expect(camera.lines).toContain('ended by itself pan');
  });
});
