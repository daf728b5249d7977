import { accessList, slow } from './access';
import { clock, damage, fullDisk, twoCopies } from './folders';
import { codecs, doors } from './fuzz';
import { kills } from './kills';
import { crowd, faults } from './load';
import { finish, note } from './report';

/**
 * Attacks the built program on this computer, on loopback only, and prints what held.
 *
 *   npm run attack               all of it: 100 kills, 10 million inputs, an hour with a crowd (about an hour and a half)
 *   npm run attack -- 0.1        a tenth of everything
 *   npm run attack -- 1 kills    one part of it, by its name below
 */
const [scale = 1] = process.argv.slice(2, 3).map(Number);
const only = process.argv[3];
const times = (count: number) => Math.max(1, Math.round(count * scale));

const parts: Readonly<Record<string, () => void | Promise<void>>> = {
  access: accessList,
  copies: twoCopies,
  clock,
  damage,
  disk: fullDisk,
  kills: () => kills(times(100)),
  codecs: () => codecs(times(10_000_000)),
  doors: () => doors(times(200_000), times(20_000)),
  slow: () => slow(times(300)),
  faults,
  crowd: () => crowd(Math.max(1, 60 * scale)),
};

// What waits for a process that is gone must not end this one without a word.
const awake = setInterval(() => undefined, 1000);
for (const [name, attack] of Object.entries(parts)) {
  if (only !== undefined && only !== name) continue;
  try {
    await attack();
  } catch (error) {
    note(name, error instanceof Error ? (error.stack ?? error.message) : String(error), false);
  }
}
clearInterval(awake);
process.exit(finish() ? 0 : 1);
