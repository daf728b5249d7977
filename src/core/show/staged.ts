import type { Problem } from '../result';
import type { EditSummary } from './edit-summary';

/** The largest show file that is taken, in bytes. */
export const maxShowFileBytes = 200 * 1024 * 1024;

/** A show file that was read and waits for somebody to agree to what it would change. */
export interface StagedShow {
  readonly ok: true;
  readonly id: string;
  readonly name: string;
  readonly savedAt: string;
  /** What loading would change, with the addresses of this rig and with those of the file. */
  readonly summary: { readonly rig: EditSummary; readonly file: EditSummary };
  /** Devices that the file has elsewhere than this rig. */
  readonly addresses: readonly { readonly tag: string; readonly rig: string; readonly file: string }[];
  /** Its passwords are sealed under a passphrase. */
  readonly hasPasswords: boolean;
  readonly pictures: number;
  /** Drivers of the file: which are installed with it, and which stay because a newer one is installed here. */
  readonly drivers: { readonly installed: readonly string[]; readonly newerHere: readonly string[] };
}

export interface NotStaged {
  readonly ok: false;
  readonly message: string;
  readonly problems?: readonly Problem[];
}
