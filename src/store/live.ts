import type { LiveChange } from '../core/live';
import { writeBinding } from './bindings';
import type { ShowDb } from './open';
import { writePreset } from './presets';
import { writeSnapshot } from './snapshots';

/** Writes what takes effect at once. Resolves with what is missing, as a sentence. */
export const writeLive = async (
  db: ShowDb,
  change: LiveChange,
  now: number,
  newId: (kind: 'preset' | 'binding' | 'snap') => string,
): Promise<string | undefined> => {
  if ('preset' in change) return writePreset(db, change.preset, now, newId);
  if ('snapshot' in change) return writeSnapshot(db, change.snapshot, now, newId);
  return writeBinding(db, change.binding, now, newId);
};
