import { shippedDrivers } from '../drivers';
import { checkerAt, Engine, pictureRelayAt, proberAt, rehearsalsAt, warmUp } from '../engine';
import type { HealthResponse } from '../core/live';
import { processLog } from '../log';
import { beChild, childVariables } from './child-messages';
import { serveControlLink } from './control-link';
import { certificate } from './certificate';
import { FrontDoor } from './front-door';
import { liveWriter } from './live-writer';
import { readSettings } from './settings';

/** The engine process: engine, front door and control link. As a spare it loads everything and waits until it is needed. */
const variable = (name: string): string => process.env[name] ?? '';

let running: { readonly engine: Engine; readonly door: FrontDoor } | undefined;
const log = processLog('engine');
let processes: HealthResponse['processes'] = [];
let failures: HealthResponse['failures'] = [];
let begin: () => void = () => undefined;
const begun = new Promise<void>((resolve) => (begin = resolve));
/** Requests for the stand-ins that wait for an answer. */
const wanting: ((why: string | undefined) => void)[] = [];
const tell = beChild(
  async () => {
    running?.door.close();
    await running?.engine.stop();
  },
  (message) => {
    if (message.type === 'begin') begin();
    else if (message.type === 'processes') {
      ({ processes, failures } = message);
      running?.engine.onFailures(failures);
    } else if (message.type === 'standins') {
      running?.engine.setStandinPages(message.on ? variable(childVariables.standinPages) : null);
      for (const answer of wanting.splice(0)) answer(message.why);
    }
  },
);
const wantStandins = (on: boolean): Promise<string | undefined> =>
  new Promise((resolve) => {
    wanting.push(resolve);
    tell({ type: 'want standins', on });
  });

const isSpare = variable(childVariables.spare) === '1';
const warm = warmUp(shippedDrivers, isSpare ? readDataDir() : undefined);
if (isSpare) {
  tell({ type: 'standing by' });
  await begun;
}
await run();

function readDataDir(): string | undefined {
  const settings = readSettings(process.env);
  return settings.ok ? settings.value.dataDir : undefined;
}

async function run(): Promise<void> {
  // Read only now: what was chosen at the desk may have changed while this process was a spare.
  const settings = readSettings(process.env);
  if (!settings.ok) throw new Error(settings.error.map((problem) => problem.message).join(' '));
  const { port, host, dataDir, accessKey, allowedHosts, keyOnLoopback, tls: given } = settings.value;
  const token = variable(childVariables.token);
  const engine = new Engine({
    dataDir,
    drivers: shippedDrivers,
    warm,
    writeLive: liveWriter(Number(variable(childVariables.nextPort)), token),
    killEngine: () => process.kill(process.pid, 'SIGKILL'),
    log,
    processes: () => processes,
    failures: () => failures,
    prober: proberAt(Number(variable(childVariables.proberPort)), token),
    pictures: pictureRelayAt(Number(variable(childVariables.picturesPort)), token, (why) =>
      log.error({ why }, 'The picture relay did not accept the list of pictures.'),
    ),
    rehearsals: rehearsalsAt(Number(variable(childVariables.rehearsalPort)), token),
    checker: checkerAt(Number(variable(childVariables.rehearsalPort)), token),
  });
  // Only what others can reach needs one.
  const reached = accessKey !== undefined && !['127.0.0.1', '::1'].includes(host);
  const tls = reached
    ? await certificate(dataDir, given, allowedHosts).catch((error: unknown) => error as Error)
    : undefined;
  const door = new FrontDoor({
    tls: tls instanceof Error ? undefined : tls,
    gate: { port, host, accessKey, allowedHosts, keyOnLoopback },
    engine,
    nextPort: Number(variable(childVariables.nextPort)),
    picturesPort: Number(variable(childVariables.picturesPort)),
    token,
    builtIn: variable(childVariables.mode) === 'dev' ? undefined : process.cwd(),
  });
  running = { engine, door };
  await engine.start();
  const controlPort = Number(variable(childVariables.controlPort));
  await serveControlLink(
    controlPort,
    token,
    () => engine.onShowChanged(),
    wantStandins,
    log.child({ part: 'control' }),
  );
  try {
    if (tls instanceof Error) throw tls;
    await door.listen();
    tell({ type: 'ready' });
  } catch (error) {
    const { message } = error as Error;
    const inUse = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
    tell({
      type: 'fatal',
      message: inUse
        ? `Port ${port} is in use by another program. Stop that, or choose another with PORT.`
        : error === tls
          ? message
          : `The front door could not listen on ${host}, port ${port}: ${String((error as NodeJS.ErrnoException).code)}.`,
    });
  }
}
