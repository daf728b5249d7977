// npm start: installs and builds what is missing, then runs the program with the show in DATA_DIR.
import { become, ensureBuilt, ensureInstalled } from './lib.mjs';

ensureInstalled();
ensureBuilt();
become(['dist/supervisor.js']);
