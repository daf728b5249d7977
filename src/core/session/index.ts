export {
  acceptsPresses,
  causeOfSocketError,
  downCauses,
  isWell,
  whyUnreachable,
  type DownCause,
  type Link,
  type LinkWord,
} from './link';
export {
  initialSession,
  step,
  type OwnPurpose,
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
export { derive } from './derive';
export { gradeNames, gradesOf, gradeTitles, noEvidence, type Evidence, type GradeName, type Grades } from './grades';
export { isSameStop, oweLine, paidLine, readLedger, type OwedStop } from './ledger';
export { Outbox, type SendClass } from './outbox';
export { nextTurn, repeatAfterMs, type Repeat } from './turns';
