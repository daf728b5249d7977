import type { DownCause, Link } from '../session';

/** What the probes have found out, one record a stage. Facts only; `judge.ts` says what they mean. */

export interface NetworkInterface {
  readonly name: string;
  readonly address: string;
  readonly prefix: number;
  readonly mac: string;
  /** Reaches this computer only. */
  readonly internal: boolean;
}

export interface Gateway {
  readonly address: string;
  readonly interface: string | undefined;
}

/** This computer on its networks. Gateways are `undefined` where the system does not tell. */
export interface Network {
  readonly interfaces: readonly NetworkInterface[];
  readonly gateways: readonly Gateway[] | undefined;
}

/** A serial or MIDI port of this computer. */
export interface LocalPortInfo {
  /** The path or name that opens it. */
  readonly path: string;
  /** The adapter's maker and serial number, where known, and its present name. */
  readonly title: string;
}

export type LookupError = 'not-found' | 'timed-out';
export type PortAnswer = 'open' | 'refused' | 'silent' | 'unreachable' | 'closed-at-once';

export interface AddressFinding {
  /** What is typed for the device. */
  readonly host: string;
  readonly addresses: readonly string[];
  readonly error: LookupError | undefined;
  readonly network: Network;
  /** Tags of other devices at the same address and port. */
  readonly sharedWith: readonly string[];
}

export interface RouteFinding {
  readonly address: string;
  readonly network: Network;
  /** Whether the router on the way responded; `not-asked` when there is none or the system cannot tell. */
  readonly router: 'answered' | 'silent' | 'not-asked';
  /** The own address that would be used; `undefined` when the system refuses to send there. */
  readonly from: string | undefined;
}

export interface ComputerFinding {
  readonly address: string;
  readonly kind: 'tcp' | 'udp';
  readonly network: Network;
  readonly ping: 'answered' | 'silent' | 'not-possible';
  /** Whether the address is known at the lowest level of the own subnet. */
  readonly neighbour: 'known' | 'missing' | 'not-told';
  readonly mac: string | undefined;
  readonly port: PortAnswer;
}

export interface PortFinding {
  readonly kind: 'tcp' | 'udp';
  readonly port: number;
  readonly answer: PortAnswer;
  /** Other ports of the same computer where a device of this driver answered. */
  readonly answersAt: readonly number[];
  /** Other ports that are open there. */
  readonly openPorts: readonly number[];
  /** Drivers of the same role that were answered at this very port, spoken to in another way. */
  readonly otherDrivers: readonly { readonly id: string; readonly title: string }[];
}

export interface ProtocolFinding {
  /** How far the try came. */
  readonly link: Link;
  readonly cause: DownCause | undefined;
  readonly understood: boolean;
  /** The first bytes that came. */
  readonly heard: Uint8Array;
  /** What the driver's greeting begins with, in plain text, where it does. */
  readonly greeting: string | undefined;
  /** Other drivers that were answered at this address and port. */
  readonly otherDrivers: readonly { readonly id: string; readonly title: string }[];
  /** How long the engine's own connection has been up, which made another one unnecessary. */
  readonly upForMs: number | undefined;
  readonly through: boolean;
  /** Whether the computer gave a sign of itself before. */
  readonly computerSeen: boolean;
  /** The line, for a device at a serial port. */
  readonly serial: SerialLine | undefined;
  /** A complete frame that matches no reply of the driver, if one arrived. */
  readonly unfit: string | undefined;
}

/** A serial line as the messages name it. */
export interface SerialLine {
  readonly path: string;
  /** As people write them: `9600 8N1`. */
  readonly settings: string;
}

export interface SignInFinding {
  readonly link: Link;
  /** The driver signs in at all. */
  readonly signsIn: boolean;
  readonly hasPassword: boolean;
  /** A complete frame that matches no reply of the driver, if one arrived. */
  readonly unfit: string | undefined;
}

export interface IdentityFinding {
  readonly model: string | undefined;
  readonly firmware: string | undefined;
  readonly knownModels: readonly string[] | undefined;
  readonly knownFirmwares: readonly string[] | undefined;
  /** What does not go with the driver, of the two. */
  readonly modelKnown: boolean;
  readonly firmwareKnown: boolean;
  /** Other drivers that are for this model. */
  readonly driversForModel: readonly { readonly id: string; readonly title: string }[];
  /** Options that the device says are other than they are set. */
  readonly options: readonly { readonly name: string; readonly title: string; readonly says: string | number }[];
  readonly helpersMissing: readonly string[];
  /** Seconds that its clock is ahead of this computer's, where it says so. */
  readonly clockAhead: number | undefined;
}

export interface RoundTripFinding {
  /** Milliseconds of each question that was answered. */
  readonly times: readonly number[];
  readonly lost: number;
  /** What came meanwhile and could not be read. */
  readonly unreadable: number;
  readonly through: boolean;
  /** The reason for the last refusal, if the question was refused. */
  readonly refusal: string | undefined;
  /** Nothing can be asked: bytes leave and nothing comes back, or the driver has no question. */
  readonly possible: boolean;
}

export interface ReportsFinding {
  /** Reports that came without having been asked for, and how long it was listened. */
  readonly unasked: number;
  readonly answers: number;
  /** The number of frames that match no reply of the driver, and the text of one of them if it is readable. */
  readonly unfitting: number;
  readonly unfit: string | undefined;
  /** Answers without a matching request. */
  readonly unmatched: number;
  readonly listenedMs: number;
  /** Whether the driver asks again and again. */
  readonly polls: boolean;
  readonly oneWay: boolean;
}

export interface SharedAddressFinding {
  readonly address: string;
  readonly delivery: 'one' | 'broadcast' | 'multicast';
  /** Tags of other devices that send the same there. */
  readonly sharedWith: readonly string[];
}
