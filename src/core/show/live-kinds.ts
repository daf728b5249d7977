import type { RecordKind } from './records';

/**
 * Records that say what devices hold, such as the presets of a camera and snapshots, and what hands have at hand. They change while the show
 * runs and take effect at once, also while a revision is in service: they belong to no revision, gather in no draft, and Step back leaves
 * them as they are.
 */
export const liveKinds: ReadonlySet<RecordKind> = new Set<RecordKind>(['preset', 'snapshot', 'binding']);
