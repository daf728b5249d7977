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
  type SessionEffect,
  type SessionEvent,
  type SessionState,
  type SessionTimer,
} from './machine';
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
  type SendsState,
  type SendsStep,
} from './sends';
export { answeredBy, roundTripOf, withTrip, type Awaiting, type RoundTrips } from './answers';
export { readFrame, type FrameReading } from './read-frame';
export { gradeNames, gradesOf, gradeTitles, noEvidence, type Evidence, type Grades } from './grades';
export { isSameStop, oweLine, paidLine, readLedger, type OwedStop } from './ledger';
export { Outbox, type SendClass } from './outbox';
