// npm run attack: installs and builds what is missing, then attacks the program on this computer and prints what held.
import { become, ensureBuilt, ensureInstalled } from './lib.mjs';

ensureInstalled();
ensureBuilt();
become(['--import', 'tsx', 'attack/run.ts', ...process.argv.slice(2)]);
