export { computedFromOwn, withoutAddition } from './additions';
export {
  canSendAgain,
  commandTyped,
  confirmAfter,
  emptyCommand,
  nameProblem,
  putCommand,
  type OwnCommand,
  type OwnConfirm,
  type OwnValue,
} from './command';
export { copyAddition } from './copy';
export { emptyMessage, endingsFor, httpMethods, messageKinds, type HttpBody, type OwnMessage } from './message';
export {
  emptyReading,
  emptySource,
  putReading,
  readingTyped,
  sourceKinds,
  usualOnOff,
  type OwnReading,
  type OwnSource,
} from './reading';
export { contractNames, contractWords, sameAsOf, valuesInContract } from './same-as';
export { payloadShown } from './payload-shown';
export { unknownHoles } from './typed-text';
