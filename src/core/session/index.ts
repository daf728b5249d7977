export { acceptsPresses, causeOfSocketError, downCauses, type DownCause, type Link, type LinkWord } from './link';
export {
  initialSession,
  step,
  type SessionContext,
  type SessionEffect,
  type SessionEvent,
  type SessionState,
  type SessionStep,
  type SessionTimer,
} from './machine';
export { worstOutcome, type FinalOutcome, type Outcome, type PendingOutcome } from './outcome';
export { retryDelayMs } from './retry';
export {
  begin,
  beginOwn,
  expectedValue,
  nextDeadline,
  noSends,
  onAnswer,
  onLost,
  onReadings,
  onTime,
  type OpenSend,
  type SendResult,
  type SendsState,
} from './sends';
