import { readViscaReply } from './codec';

/** A request that a camera has not finished with. */
interface Waiting {
  readonly ref: number;
  readonly inquiry: boolean;
  /** The socket that the camera gave it, once it has. */
  socket: number | undefined;
}

interface ViscaAnswer {
  readonly ref: number;
  readonly how: 'accepted' | 'done' | 'refused';
  readonly code?: string;
}

const maxWaiting = 64;

/**
 * Which request a reply answers, where replies carry no number (the messages over a bare stream). A camera answers
 * inquiries in order, acknowledges commands in order, and completes them in any order by their socket.
 */
export class ViscaPending {
  private waiting: Waiting[] = [];

  begin(ref: number, inquiry: boolean): void {
    this.waiting.push({ ref, inquiry, socket: undefined });
    if (this.waiting.length > maxWaiting) this.waiting.shift();
  }

  forget(ref: number): void {
    this.waiting = this.waiting.filter((each) => each.ref !== ref);
  }

  /** The request that this reply is for; `undefined` when none waits for such a one. */
  match(payload: Uint8Array): ViscaAnswer | undefined {
    const reply = readViscaReply(payload);
    switch (reply.kind) {
      case 'ack': {
        const command = this.waiting.find((each) => !each.inquiry && each.socket === undefined);
        if (!command) return undefined;
        command.socket = reply.socket;
        return { ref: command.ref, how: 'accepted' };
      }
      case 'completion': {
        // Some settings are completed without an acknowledgement before.
        const command =
          this.waiting.find((each) => each.socket === reply.socket) ??
          this.waiting.find((each) => !each.inquiry && each.socket === undefined);
        return this.finish(command, 'done');
      }
      case 'information':
        return this.finish(
          this.waiting.find((each) => each.inquiry),
          'done',
        );
      case 'error': {
        const held = reply.socket > 0 ? this.waiting.find((each) => each.socket === reply.socket) : undefined;
        const oldest = this.waiting.find((each) => each.socket === undefined);
        return this.finish(held ?? oldest, 'refused', reply.code);
      }
      case 'other':
        return undefined;
    }
  }

  private finish(request: Waiting | undefined, how: 'done' | 'refused', code?: string): ViscaAnswer | undefined {
    if (!request) return undefined;
    this.forget(request.ref);
    return { ref: request.ref, how, code };
  }
}
