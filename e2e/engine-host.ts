import { shippedDrivers } from '../src/drivers';
import { warmUp, type WarmStart } from '../src/engine';
import { processLog } from '../src/log';
import { beChild } from '../src/server/child-messages';
import { EngineRun } from '../src/server/engine-run';
import type { FromHost, ToHost } from './host-messages';

/**
 * One engine after another in one process: to load and compile it anew for each test would take more of the computer than most
 * tests do. An engine that leaves something behind fails the test after it.
 */
const none: never[] = [];
let run: EngineRun | undefined;
let warm: WarmStart | undefined;
const tell = beChild(
  async () => run?.stop(),
  (message) => {
    if (message.type === 'begin') void begin();
    else if (message.type === 'standins') run?.onStandins(message);
  },
);
const reply = (message: FromHost) => void process.send?.(message);

process.on('message', (message: ToHost) => {
  if (message.type === 'end') void end();
  if (message.type === 'prepare') prepare();
});
prepare();
tell({ type: 'standing by' });

function prepare(): void {
  warm = warmUp(shippedDrivers, process.env.DATA_DIR);
}

async function begin(): Promise<void> {
  run = new EngineRun({
    processes: () => none,
    failures: () => none,
    askForStandins: (on) => tell({ type: 'want standins', on }),
    log: processLog('engine'),
  });
  const fatal = await run.start(warm ?? warmUp(shippedDrivers, process.env.DATA_DIR));
  warm = undefined;
  tell(fatal === undefined ? { type: 'ready' } : { type: 'fatal', message: fatal });
}

async function end(): Promise<void> {
  await run?.stop();
  run = undefined;
  reply({ type: 'ended' });
}
