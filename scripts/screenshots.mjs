// npm run screenshots: makes the pictures in docs/screenshots from the demo show.
import { ensureBuilt, ensureInstalled, become } from './lib.mjs';

ensureInstalled();
ensureBuilt();
become(['--import', 'tsx', 'e2e/screenshots.ts']);
