// npm run dev: everything from source with the demo show; the engine and the pages are loaded anew when they change.
import { become, ensureInstalled } from './lib.mjs';

ensureInstalled();
become(['--import', 'tsx', 'src/server/supervisor.ts', '--demo', '--dev'], {
  DATA_DIR: process.env.DATA_DIR || 'data/dev',
});
