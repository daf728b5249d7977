import type { Result } from '../../result';
import type { Json } from '../json';
import type { ModbusRequest } from '../modbus';
import type { OscMessage } from '../osc';
import type { DmxChange } from '../sacn';
import type { UmdLamp } from '../umd';

/** One thing to say to a device, with everything filled in. */
export type Outgoing =
  /** The bytes as they go out. */
  | { readonly kind: 'bytes'; readonly bytes: Uint8Array }
  | { readonly kind: 'osc'; readonly message: OscMessage }
  | { readonly kind: 'visca'; readonly payload: Uint8Array }
  | { readonly kind: 'modbus'; readonly request: ModbusRequest; readonly unit: number }
  | {
      readonly kind: 'umd';
      readonly screen: number;
      readonly display: number;
      readonly lamp: UmdLamp;
      readonly brightness: number;
      readonly text: string;
    }
  | { readonly kind: 'http'; readonly request: HttpOutgoing }
  | { readonly kind: 'mqtt'; readonly publication: MqttOutgoing }
  | { readonly kind: 'dmx'; readonly change: DmxChange };

/** A message to a topic (MQTT 5.0, 3.3). */
export interface MqttOutgoing {
  readonly topic: string;
  readonly payload: Uint8Array;
  readonly retain: boolean;
  /** Quality of service: at least once, or exactly once. 0 would not be acknowledged, so that nobody knew whether the broker has it. */
  readonly qos: 1 | 2;
}

export interface HttpOutgoing {
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** From the first slash, query included. */
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string | undefined;
  /** The body is the content of a SOAP body; the link puts the envelope round it, with the sign-in of that moment. */
  readonly soap?: { readonly namespaces: Readonly<Record<string, string>> };
}

/** What a frame says, in the form in which a driver's replies look at it. */
export type Said =
  /** A line, or bytes as capital hexadecimal digits. MQTT: what was published, and to which topic. */
  | { readonly kind: 'text'; readonly text: string; readonly topic?: string }
  /** JSON, or XML as `readXml` gives it. */
  | { readonly kind: 'json'; readonly text: string; readonly value: Json }
  /** A header of an HTTP response, its name in small letters. */
  | { readonly kind: 'header'; readonly name: string; readonly text: string }
  /** `text` is the address; the arguments are the groups `arg1`, `arg2` … */
  | { readonly kind: 'osc'; readonly text: string; readonly args: readonly string[] };

/** How a frame answers one of our requests: taken, carried out, or not. */
export interface Answer {
  readonly ref: number;
  readonly how: 'accepted' | 'done' | 'refused';
  /** The device's own number or word for the refusal. */
  readonly code?: string;
}

/** One frame that came in. */
export interface Arrived {
  readonly raw: Uint8Array;
  /** Usually one; a response that holds many values says many things. Nothing for a frame that could not be read. */
  readonly says: readonly Said[];
  readonly answer?: Answer;
  /** What was wrong with it. Such a frame is counted and shown, and has no effect. */
  readonly fault?: string;
  /** The device sent it by itself, beside the connection: it answers nothing. */
  readonly isNotification?: true;
  /** The link itself says what it sends now: nothing came from the device. */
  readonly isOwn?: true;
  /** The two ends are out of step: the connection has to begin anew. */
  readonly broken?: string;
}

/**
 * The conversation over one connection: cuts what comes in, remembers what was asked, and puts numbers on what goes out.
 * It does no I/O and reads no clock. One is made for each connection.
 */
export interface Exchange {
  /** The bytes for a message. `ref` is how the answer will name it. Fails with a sentence when it is not of this kind. */
  write(message: Outgoing, ref: number): Result<Uint8Array, string>;
  /** Takes what came: the next bytes of a stream, or one whole datagram. */
  read(chunk: Uint8Array): Arrived[];
  /** Where a pause of this many milliseconds ends a frame: the reader of the bytes then calls `flush`. */
  readonly silenceMs?: number;
  /** The frame that a pause has ended. */
  flush?(): Arrived[];
  /** The beginning of a frame that has not ended. */
  rest(): Uint8Array;
  /** Nobody waits for the answer to this request any more. */
  forget(ref: number): void;
}
