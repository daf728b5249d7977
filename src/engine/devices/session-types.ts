import type { CompiledDriver, DriverCommand, EncodedCommand, ReadingChange } from '../../core/driver';
import type { Scalar } from '../../core/result';
import type { Evidence, Link } from '../../core/session';
import type { LinkAddress } from './links';

/** What a session tells the engine. None of these may throw. */
export interface SessionHooks {
  readonly onLink: (link: Link) => void;
  /** Enters readings, after forgetting the members of the cleared families; returns the keys reported. */
  readonly onReadings: (changes: readonly ReadingChange[], clears: readonly string[]) => ReadonlySet<string>;
  readonly onWire: (dir: 'out' | 'in' | 'note', bytes: Uint8Array, note?: string) => void;
  /** What has been seen over the present connection has changed. */
  readonly onEvidence: (evidence: Evidence) => void;
  readonly freshReading: (key: string) => Scalar | undefined;
  /** Stops that are owed to this device have to go out now, before anything else. */
  readonly payOwed: () => void;
}

/** A command ready to go out. Without `encoded` its bytes are made when they are sent. */
export interface PreparedSend {
  readonly id: string;
  readonly command: DriverCommand;
  readonly given: Readonly<Record<string, Scalar>>;
  readonly encoded: EncodedCommand | undefined;
}

export interface SessionOptions extends LinkAddress {
  readonly driver: CompiledDriver;
  /** The gateway's tag, where the device is reached through one. */
  readonly through?: string;
}
