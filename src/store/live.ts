import type { LiveChange } from '../core/live';
import { writeBinding } from './bindings';
import type { ShowDb } from './open';
import { writePreset } from './presets';

/** Writes what takes effect at once. Resolves with what is missing, as a sentence. */
export const writeLive = async (
  db: ShowDb,
  change: LiveChange,
  now: number,
  newId: (kind: 'preset' | 'binding') => string,
): Promise<string | undefined> =>
  'preset' in change ? writePreset(db, change.preset, now, newId) : writeBinding(db, change.binding, now, newId);
