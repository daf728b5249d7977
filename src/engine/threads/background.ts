import { setPriority } from 'node:os';

/**
 * Lets this thread give way to the live one. Only on Linux does a priority belong to a thread; elsewhere it would lower
 * the whole process.
 */
export function runInBackground(): void {
  if (process.platform !== 'linux') return;
  try {
    setPriority(0, 10);
  } catch {
    // Not allowed here: it works all the same, only less politely.
  }
}
