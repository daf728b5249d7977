export { computedBy, computedFrom } from './computed';
export { contractBridge, contractOf, isCountedIn, keyInDriver, unitOfKind, type ContractBridge } from './contract';
export { deviceRoles, type ContractKind } from './contract-tables';
export { fitsKind, kindText } from './check-contract';
export { checkNewDriver } from './check-new';
export { sentMeaning } from './sent-command';
export { sampleFrom, sampleProblems } from './samples';
export { askedParams } from './asked-params';
export { indexesOf, memberText } from './members';
export { compileDriver, compileParsed, parseDriver, type CompiledDriver, type CompiledStep } from './compile';
export type { OwnMessage } from './compile-own';
export { confirmQuestions, expectationsOf, isRepeatable, meets, type Expectation } from './confirm';
export { goesToMany, groupOf, placeOf } from './delivery';
export { decodeSaid, type DecodedReply, type DeviceRequest, type ReadingChange } from './decode';
export { encodeCommand, encodeOwn, isFixed, type EncodedCommand } from './encode';
export { identityReadings, identityRemark, whatItSays } from './identity';
export { commandsOfDrive, steer, type StickSettings } from './drive';
export { driverJsonSchema } from './json-schema';
export { asDriver, ownDriverId } from './as-driver';
export { saysJson } from './says-json';
export { optionProblems } from './option-problems';
export { documentFor, fitsOptions, optionsOf, optionTexts } from './options';
export { fitsHeard, probeOf } from './probe';
export { actOf } from './list-act';
export { celType, celValue } from './cel-value';
export { chosenBy, keepMapping, keepSendProblem } from './keeps';
export { joinSeveral, splitSeveral } from './several';
export { memberKey, splitKey } from './reading-key';
export {
  additionsSchema,
  type DriverAdditions,
  type DriverContract,
  type DriverCommand,
  type DriverDocument,
  type DriverKeep,
  type DriverKeepSend,
  type DriverList,
  type DriverReply,
  type DriverParameter,
  type DriverReading,
} from './schema';
export type { DriverSample } from './schema-samples';
export { scalarSchema, type ValueShape } from './schema-values';
export { signInOf } from './sign-in';
export { takesReading } from './step';
export {
  commandSentence,
  commandText,
  readingText,
  readingTitle,
  paramText,
  sentenceText,
  type SentencePart,
} from './sentence';
export { DriverShelf } from './shelf';
export { startersOf, type OfferedStarter } from './starters';
export { typedValue } from './typed-value';
export { frameMeaning } from './meaning';
export { schemaAt } from './schema-keys';
export { fillTemplate } from './template-fill';
export { checkValue, namedValues, valueText, valueWithUnit } from './values';
