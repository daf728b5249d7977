import type { Server } from 'node:http';
import type { HealthResponse } from '../core/live';
import { shippedDrivers } from '../drivers';
import { checkerAt, Engine, pictureRelayAt, proberAt, rehearsalsAt, type WarmStart } from '../engine';
import type { Log } from '../log';
import { certificate } from './certificate';
import { childVariables, type ToChild } from './child-messages';
import { serveControlLink } from './control-link';
import { FrontDoor } from './front-door';
import { liveWriter } from './live-writer';
import { readSettings } from './settings';

interface EngineRunOptions {
  readonly processes: () => HealthResponse['processes'];
  readonly failures: () => HealthResponse['failures'];
  /** Asks the parent for the stand-ins, or for their end. It answers with a message, which goes to `onStandins`. */
  readonly askForStandins: (on: boolean) => void;
  readonly log: Log;
}

const variable = (name: string): string => process.env[name] ?? '';

/** The engine of a process, with its front door and its control link. It starts once and stops once. */
export class EngineRun {
  /** There as soon as there is something to tell it, before it has started. */
  engine: Engine | undefined;
  private door: FrontDoor | undefined;
  private control: Server | undefined;
  /** Requests for the stand-ins that wait for an answer: why not, or nothing. */
  private readonly wanting: ((why: string | undefined) => void)[] = [];

  constructor(private readonly options: EngineRunOptions) {}

  /**
   * Starts with the settings of the environment. Resolves with why the front door could not open, or with nothing.
   *
   * @param warm what was loaded ahead
   */
  async start(warm: WarmStart): Promise<string | undefined> {
    // Read only now: what was chosen at the desk may have changed while this process was a spare.
    const settings = readSettings(process.env);
    if (!settings.ok) throw new Error(settings.error.map((problem) => problem.message).join(' '));
    const { port, host, dataDir, accessKey, allowedHosts, keyOnLoopback, tls: given } = settings.value;
    const { log, processes, failures } = this.options;
    const token = variable(childVariables.token);
    const engine = new Engine({
      dataDir,
      drivers: shippedDrivers,
      warm,
      writeLive: liveWriter(Number(variable(childVariables.nextPort)), token),
      killEngine: () => process.kill(process.pid, 'SIGKILL'),
      log,
      processes,
      failures,
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
    this.door = new FrontDoor({
      tls: tls instanceof Error ? undefined : tls,
      gate: { port, host, accessKey, allowedHosts, keyOnLoopback },
      engine,
      nextPort: Number(variable(childVariables.nextPort)),
      picturesPort: Number(variable(childVariables.picturesPort)),
      token,
      builtIn: variable(childVariables.mode) === 'dev' ? undefined : process.cwd(),
    });
    this.engine = engine;
    await engine.start();
    this.control = await serveControlLink({
      port: Number(variable(childVariables.controlPort)),
      token,
      onShowChanged: () => engine.onShowChanged(),
      onStandins: (on) => this.wantStandins(on),
      onPicture: (device, still) => engine.takePicture(device, still),
      log: log.child({ part: 'control' }),
    });
    if (tls instanceof Error) return tls.message;
    try {
      await this.door.listen();
      return undefined;
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      return code === 'EADDRINUSE'
        ? `Port ${port} is in use by another program. Stop that, or choose another with PORT.`
        : `The front door could not listen on ${host}, port ${port}: ${String(code)}.`;
    }
  }

  /** What became of the stand-ins that were wanted, or not wanted any more. */
  onStandins({ on, why }: Extract<ToChild, { type: 'standins' }>): void {
    this.engine?.setStandinPages(on ? variable(childVariables.standinPages) : null);
    for (const answer of this.wanting.splice(0)) answer(why);
  }

  private wantStandins(on: boolean): Promise<string | undefined> {
    return new Promise((resolve) => {
      this.wanting.push(resolve);
      this.options.askForStandins(on);
    });
  }

  async stop(): Promise<void> {
    this.door?.close();
    this.control?.close();
    await this.engine?.stop();
  }
}
