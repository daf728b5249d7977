import { shippedDrivers } from '../drivers';
import { Engine, proberAt, rehearsalsAt } from '../engine';
import type { HealthResponse } from '../core/live';
import { beChild, childVariables } from './child-messages';
import { serveControlLink } from './control-link';
import { certificate } from './certificate';
import { FrontDoor } from './front-door';
import { readSettings } from './settings';

/** The engine process: engine, front door and control link. */
const variable = (name: string): string => process.env[name] ?? '';
const settings = readSettings(process.env);
if (!settings.ok) throw new Error(settings.error.map((problem) => problem.message).join(' '));
const { port, host, dataDir, accessKey, allowedHosts, keyOnLoopback, tls: given } = settings.value;
const token = variable(childVariables.token);

let processes: HealthResponse['processes'] = [];
const engine = new Engine({
  dataDir,
  drivers: shippedDrivers,
  log: (message) => console.error(`engine: ${message}`),
  processes: () => processes,
  prober: proberAt(Number(variable(childVariables.proberPort)), token),
  rehearsals: rehearsalsAt(Number(variable(childVariables.rehearsalPort)), token),
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
  token,
  builtIn: variable(childVariables.mode) === 'dev' ? undefined : process.cwd(),
});
const tell = beChild(
  async () => {
    door.close();
    await engine.stop();
  },
  (message) => {
    if (message.type === 'processes') processes = message.processes;
    else if (message.type === 'standins') {
      engine.setStandinPages(message.on ? variable(childVariables.standinPages) : null);
      for (const answer of wanting.splice(0)) answer(message.why);
    }
  },
);
/** Who waits for the stand-ins. */
const wanting: ((why: string | undefined) => void)[] = [];
const wantStandins = (on: boolean): Promise<string | undefined> =>
  new Promise((resolve) => {
    wanting.push(resolve);
    tell({ type: 'want standins', on });
  });

await engine.start();
await serveControlLink(Number(variable(childVariables.controlPort)), token, () => engine.onShowChanged(), wantStandins);
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
