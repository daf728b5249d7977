import { serveProber } from '../prober';
import { processLog } from '../log';
import { beChild, childVariables } from './child-messages';

/** The prober's process: whatever may block on the network or on the system's own programs is kept away from the engine. */
const variable = (name: string): string => process.env[name] ?? '';
const tell = beChild(
  async () => {
    server.closeAllConnections();
    await new Promise((resolve) => server.close(resolve));
  },
  undefined,
  true,
);
const log = processLog('prober');
const server = await serveProber(Number(variable(childVariables.proberPort)), variable(childVariables.token), (cause) =>
  log.error({ cause }, 'A request of the engine could not be answered.'),
);
tell({ type: 'ready' });
