import type { CompiledDriver, DeviceRequest, DriverCommand, EncodedCommand, ReadingChange } from '../../core/driver';
import type { Scalar } from '../../core/result';
import type { Evidence, Link } from '../../core/session';
import type { LinkAddress } from './links';

/** What a session tells the engine. None of these may throw. */
export interface SessionHooks {
  readonly onLink: (link: Link) => void;
  /** Enters readings, after forgetting the members of the cleared families; returns the keys reported. */
  readonly onReadings: (changes: readonly ReadingChange[], clears: readonly string[]) => ReadonlySet<string>;
  readonly onWire: (dir: 'out' | 'in' | 'note', bytes: Uint8Array, note?: string, about?: WireAbout) => void;
  /** What has been seen over the present connection has changed. */
  readonly onEvidence: (evidence: Evidence) => void;
  readonly freshReading: (key: string) => Scalar | undefined;
  /** Something that was sent was answered, after so many milliseconds. */
  readonly onAnswer: (ms: number) => void;
  /** So many things that were sent were not answered in time. */
  readonly onUnanswered: (count: number) => void;
  /** The device asks for something itself. */
  readonly onRequest: (request: DeviceRequest) => void;
  /** Stops that are owed to this device have to go out now, before anything else. */
  readonly payOwed: () => void;
}

/** What a frame on the wire belongs to. */
export interface WireAbout {
  /** The command or question, by name. */
  readonly name?: string | undefined;
  readonly press?: string | undefined;
  readonly prepared?: PreparedSend | undefined;
}

/** Told of one send on its way. None of these may throw. */
export interface SendWatch {
  /** The press that it is of. */
  readonly press?: string;
  /** It cannot leave at once: how many wait in front of it, the first few by name, and how many are not answered yet. */
  readonly onQueued?: (ahead: readonly string[], waiting: number, inFlight: number) => void;
  /** It waits for so many milliseconds, for what is said, before it is handed to the device. */
  readonly onHeld?: (ms: number, says: string) => void;
  /** Its bytes have left; secrets are masked. */
  readonly onBytes?: (bytes: Uint8Array) => void;
  /** The device has answered it. */
  readonly onAnswer?: (bytes: Uint8Array) => void;
  /** What it was to bring about is reported. */
  readonly onEffect?: (readings: readonly { readonly key: string; readonly value?: Scalar }[]) => void;
}

/** A command ready to go out. Without `encoded` its bytes are made when they are sent. */
export interface PreparedSend {
  readonly id: string;
  readonly command: DriverCommand;
  readonly given: Readonly<Record<string, Scalar>>;
  readonly encoded: EncodedCommand | undefined;
  /** Of continuous values with the same one only the newest counts; worked out from the parameters when absent. */
  readonly channel?: string;
  /** It ends this channel: a value of it that still waits must not follow. */
  readonly ends?: string;
}

export interface SessionOptions extends LinkAddress {
  readonly driver: CompiledDriver;
  /** The gateway's tag, where the device is reached through one. */
  readonly through?: string;
}
