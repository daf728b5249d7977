// npm run bench: installs and builds what is missing, then measures Sorrelfinch against the smallest program that does the same.
import { become, ensureBuilt, ensureInstalled } from './lib.mjs';

ensureInstalled();
ensureBuilt();
become(['--import', 'tsx', 'bench/run.ts', ...process.argv.slice(2)]);
