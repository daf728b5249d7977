import type { HealthResponse } from '../core/live';
import { shippedDrivers } from '../drivers';
import { warmUp } from '../engine';
import { processLog } from '../log';
import { beChild, childVariables } from './child-messages';
import { EngineRun } from './engine-run';
import { readSettings } from './settings';

/** The engine process: engine, front door and control link. As a spare it loads everything and waits until it is needed. */
let processes: HealthResponse['processes'] = [];
let failures: HealthResponse['failures'] = [];
let begin: () => void = () => undefined;
const begun = new Promise<void>((resolve) => (begin = resolve));
const run = new EngineRun({
  processes: () => processes,
  failures: () => failures,
  askForStandins: (on) => tell({ type: 'want standins', on }),
  log: processLog('engine'),
});
const tell = beChild(
  () => run.stop(),
  (message) => {
    if (message.type === 'begin') begin();
    else if (message.type === 'processes') {
      ({ processes, failures } = message);
      run.engine?.onFailures(failures);
    } else if (message.type === 'standins') run.onStandins(message);
  },
);

const isSpare = process.env[childVariables.spare] === '1';
const warm = warmUp(shippedDrivers, isSpare ? readDataDir() : undefined);
if (isSpare) {
  tell({ type: 'standing by' });
  await begun;
}
const fatal = await run.start(warm);
tell(fatal === undefined ? { type: 'ready' } : { type: 'fatal', message: fatal });

function readDataDir(): string | undefined {
  const settings = readSettings(process.env);
  return settings.ok ? settings.value.dataDir : undefined;
}
