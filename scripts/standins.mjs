// npm run standins: the simulated devices alone, all or those that are named, to test this or other software with.
import { become, ensureBuilt, ensureInstalled } from './lib.mjs';

ensureInstalled();
ensureBuilt();
become(['dist/standins-main.js', ...process.argv.slice(2)]);
