import { startFleet } from '../standins';
import { beChild } from './child-messages';
import { readSettings } from './settings';

/** The stand-ins' process. */
const settings = readSettings(process.env);
if (!settings.ok) throw new Error(settings.error.map((problem) => problem.message).join(' '));
const { standinPortBase } = settings.value;

let stop = (): Promise<void> => Promise.resolve();
const tell = beChild(() => stop());
try {
  const fleet = await startFleet({ host: '127.0.0.1', portBase: standinPortBase });
  stop = fleet.stop;
  tell({ type: 'ready' });
} catch (error) {
  const inUse = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  tell({
    type: 'fatal',
    message: inUse
      ? `A port from ${standinPortBase} up is in use by another program. Stop that, or choose others with STANDIN_PORT_BASE.`
      : `The stand-ins could not start: ${String(error)}`,
  });
}
