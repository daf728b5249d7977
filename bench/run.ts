import { measureByItself } from './by-itself';
import { measureChangeCost } from './change-cost';
import { measureDecoding } from './decode';
import { measureEditor } from './editor';
import { measureFanOut } from './fan-out';
import { measureFirstLoad } from './first-load';
import { measureGlide } from './glide';
import { measureLanding } from './landing';
import { measureLevels } from './levels';
import { measureMacroEditor } from './macro-editor';
import { measureMacros } from './macro-time';
import { measureNetwork } from './network';
import { measureOneDevice } from './one-device';
import { endAll } from './processes';
import { measurePictures } from './pictures';
import { measureRecord } from './record';
import { measureSecure } from './secure';
import { measureWithCheck } from './with-check';
import { measureCrowd } from './with-crowd';

/**
 * Press to device byte, and report to panel message, through Sorrelfinch and through the smallest program that does the
 * same, in one run: idle, and with four page loads in flight; and what else must not be slow. The ratios count, not the milliseconds.
 *
 *   npm run bench                  5,000 events a run, five runs each, taken in turn
 *   npm run bench -- 1000 3        other numbers
 *   npm run bench -- 1000 3 crowd  one part of it, by its name below
 */
const [events = 5000, runs = 5] = process.argv.slice(2, 4).map(Number);
const only = process.argv[4];
const scale = { events, runs };
const wanted = (part: string) => only === undefined || only === part;

const parts: Readonly<Record<string, () => void | Promise<void>>> = {
  'fan-out': () => measureFanOut(scale),
  'change-cost': () => measureChangeCost(scale),
  secure: () => measureSecure(scale),
  macros: () => measureMacros(10),
  glide: measureGlide,
  'by-itself': () => measureByItself(scale),
  landing: measureLanding,
  levels: measureLevels,
  pictures: measurePictures,
  crowd: () => measureCrowd(scale),
  'line-check': () => measureWithCheck(scale),
  decoding: measureDecoding,
  network: measureNetwork,
  record: measureRecord,
  'first-load': measureFirstLoad,
  editor: measureEditor,
  'macro-editor': measureMacroEditor,
};

try {
  console.log(`${events} events a run, ${runs} runs in turn, the median of the runs; milliseconds.`);
  if (wanted('idle') || wanted('load')) await measureOneDevice(scale, wanted);
  for (const [name, measure] of Object.entries(parts)) if (wanted(name)) await measure();
} finally {
  await endAll();
}
process.exit(0);
