import { decodeSaid, type CompiledDriver, type DecodedReply, type OwnMessage } from '../driver';
import type { Arrived } from '../wire';
import type { SessionState } from './machine';

/** What a session knows when a frame is read. `Request` is what it keeps of a question or command that has not been answered yet. */
interface FrameContext<Request> {
  readonly driver: CompiledDriver;
  readonly at: SessionState['at'];
  /** Requests are open whose time is over: where answers come in order, theirs may be missing. */
  readonly hasOverdue: boolean;
  readonly request: (ref: number) => Request | undefined;
  readonly oldest: Request | undefined;
  /** Which request a reply without a number answers. */
  readonly answered: (reply: DecodedReply) => Request | undefined;
}

export type FrameReading<Request> =
  /** The conversation cannot go on. `note` is what the wire says of the frame, and why. */
  | { readonly is: 'out of step'; readonly note: string }
  | {
      readonly is: 'read';
      readonly replies: readonly DecodedReply[];
      /** A reply of the driver fits, or the link itself knows it as an answer. */
      readonly isUnderstood: boolean;
      /** The request that it answers. */
      readonly answers: Request | undefined;
      /** It is an answer, but no request is waiting for one. */
      readonly isUnmatched: boolean;
      /** What the wire says beside the frame. */
      readonly note: string | undefined;
      /** The texts that the session's state goes by; an empty one is an answer without text. */
      readonly heard: readonly (string | undefined)[];
    };

const answersLost = 'Answers were lost while the device was silent; reconnecting.';

interface AskedFor {
  readonly name: string | undefined;
  readonly purpose: string | undefined;
  readonly member?: OwnMessage['member'];
}

/** Says what one frame from a device means in the session's state. Changes nothing. */
export function readFrame<Request extends AskedFor>(
  { driver, at, hasOverdue, request, oldest, answered }: FrameContext<Request>,
  frame: Arrived,
): FrameReading<Request> {
  if (frame.broken !== undefined) return { is: 'out of step', note: frame.broken };
  // From here on each answer would be taken for another's.
  if (at === 'silent' && hasOverdue) return { is: 'out of step', note: answersLost };
  const { answer, says } = frame;
  const asked = answer ? request(answer.ref) : driver.document.answers === 'in-order' ? oldest : undefined;
  const decoded = says.map((said) => decodeSaid(driver, said, asked?.name, asked?.member?.text));
  const replies = decoded.filter((reply) => reply !== undefined);
  const isUnderstood = answer !== undefined || replies.length > 0;
  const named = replies.find(({ ref }) => ref !== undefined)?.ref;
  const answering = replies.find(({ accepts, refuses }) => accepts || refuses);
  const unnamed = answer ? asked : answering && answered(answering);
  const answers = named === undefined ? unnamed : request(named);
  const isQuiet = decoded.length > 0 && decoded.every((reply) => reply?.quiet);
  const isUp = at === 'up' || at === 'silent';
  const unknown = isUp ? 'no reply of the driver fits' : undefined;
  const isAnswer = named !== undefined || (answering !== undefined && driver.document.answers === 'in-order');
  const isUnmatched = isUp && isAnswer && answers === undefined;
  const remark = !isUnderstood
    ? unknown
    : isUnmatched
      ? 'an answer to nothing that was asked'
      : isUp
        ? answers?.purpose
        : undefined;
  return {
    is: 'read',
    replies,
    isUnderstood,
    answers,
    isUnmatched,
    note: isQuiet ? 'report' : (frame.fault ?? remark),
    heard: heardIn(frame, at === 'signing in' || at === 'syncing', isUnderstood),
  };
}

/** While a connection comes about everything that is said counts, then only what is understood. */
function heardIn(
  { says, answer }: Arrived,
  isPassing: boolean,
  isUnderstood: boolean,
): readonly (string | undefined)[] {
  if (says.length > 0) return isPassing || isUnderstood ? says.map(({ text }) => text) : [];
  if (isPassing) return [answer ? '' : undefined];
  return isUnderstood ? [''] : [];
}
