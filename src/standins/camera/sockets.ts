import { isInquiry } from '../../core/wire';
import type { CameraModel } from './model';
import { handle } from './protocol';

/** Where a camera's replies go, and with which number. */
type Reply = (payload: Uint8Array) => void;

/**
 * The two sockets of a camera: places where it keeps commands that it has acknowledged and is carrying out. A third command
 * that takes a while is refused until one is free; what is done at once needs one for a moment only.
 */
export class CameraSockets {
  private readonly running = new Map<number, Reply>();

  constructor(
    private readonly model: CameraModel,
    private readonly otherModel: () => boolean,
  ) {}

  /** Takes one payload, and says what a camera says. */
  take(payload: Uint8Array, say: Reply): void {
    // It answers as the camera that was spoken to: 90 for the address 1, A0 for 2.
    const from = (((payload[0] ?? 0) & 7) + 8) << 4;
    const reply: Reply = (said) => say(said[0] === 0x90 ? Uint8Array.of(from & 0xff, ...said.subarray(1)) : said);
    const last = payload[payload.length - 1];
    if (payload.length < 3 || last !== 0xff || (payload[0] ?? 0) < 0x80) return reply(error(0, 0x02));
    const second = payload[1] ?? 0;
    if (second >> 4 === 2 && payload.length === 3) return this.cancel(second & 15, reply);
    if (payload[0] === 0x88) return say(broadcast(payload));
    if (isInquiry(payload)) {
      const handled = handle(this.model, payload, this.otherModel(), () => undefined);
      if (handled.is === 'answer') reply(Uint8Array.from([0x90, 0x50, ...handled.data, 0xff]));
      else reply(error(0, handled.is === 'error' ? handled.code : 0x02));
      return;
    }
    // A drive, and above all its stop, is carried out even while both sockets are taken: it needs none for longer.
    const socket = this.running.has(1) ? 2 : 1;
    const isFull = this.running.size === 2;
    const isLong = takesLong(payload);
    if (isFull && isLong) return reply(error(0, 0x03));
    let over = false;
    const finished = (reached: boolean) => {
      over = true;
      if (this.running.get(socket) !== reply) return;
      this.running.delete(socket);
      reply(reached ? completion(socket) : error(socket, 0x04));
    };
    const handled = handle(this.model, payload, this.otherModel(), finished);
    if (handled.is === 'error') return reply(error(0, handled.code));
    reply(Uint8Array.of(0x90, 0x40 | socket, 0xff));
    if (handled.is === 'running' && !over) this.running.set(socket, reply);
    else reply(completion(socket));
  }

  private cancel(socket: number, reply: Reply): void {
    if (!this.running.has(socket)) return reply(error(socket, 0x05));
    this.model.cancel();
  }
}

/** Absolute moves, presets, one-push: what is acknowledged now and completed later. */
function takesLong(payload: Uint8Array): boolean {
  const [, , a = 0, b = 0] = payload;
  if (a === 0x06) return b >= 0x02 && b <= 0x05;
  return a === 0x04 && (b === 0x47 || b === 0x48 || b === 0x3f || b === 0x18);
}

/** A message to all comes back; the number of “address set” is then the one after this camera’s. */
const broadcast = (payload: Uint8Array): Uint8Array =>
  payload[1] === 0x30 ? Uint8Array.of(0x88, 0x30, (payload[2] ?? 0) + 1, 0xff) : payload;

const completion = (socket: number): Uint8Array => Uint8Array.of(0x90, 0x50 | socket, 0xff);
const error = (socket: number, code: number): Uint8Array => Uint8Array.of(0x90, 0x60 | socket, code, 0xff);
