// npm run demo: installs and builds what is missing, then runs the program with the demo show on the stand-ins.
import { become, ensureBuilt, ensureInstalled } from './lib.mjs';

ensureInstalled();
ensureBuilt();
become(['dist/supervisor.js', '--demo'], { DATA_DIR: process.env.DATA_DIR || 'data/demo' });
