import { serveProber } from '../prober';
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
const server = await serveProber(Number(variable(childVariables.proberPort)), variable(childVariables.token));
tell({ type: 'ready' });
