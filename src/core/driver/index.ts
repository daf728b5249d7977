export { indexesOf } from './members';
export {
  compileDriver,
  type CompiledCommand,
  type CompiledDriver,
  type CompiledStep,
  type OwnMessage,
} from './compile';
export { expectationsOf, meets, type Expectation } from './confirm';
export { decodeSaid, type DecodedReply, type ReadingChange } from './decode';
export { encodeCommand, encodeOwn, isFixed, type EncodedCommand } from './encode';
export { identityReadings, identityRemark, whatItSays } from './identity';
export type { FilledMessage } from './message';
export { deadZone, steer, type Steering } from './drive';
export { driverJsonSchema } from './json-schema';
export { documentFor, type DocumentUse, type OptionValues } from './options';
export { fitsHeard, probeOf, type DriverProbe } from './probe';
export { actOf } from './list-act';
export { memberKey, splitKey } from './reading-key';
export {
  additionsSchema,
  driverDocumentSchema,
  type DriverAdditions,
  type DriverCommand,
  type DriverDocument,
  type DriverDrive,
  type DriverList,
  type DriverParameter,
  type DriverReading,
  type DriverStarter,
} from './schema';
export { scalarSchema, type ValueShape } from './schema-values';
export { DriverShelf } from './shelf';
export { startersOf, type OfferedStarter } from './starters';
export { fillTemplate, holesOf, parseTemplate, type TemplateError, type TemplatePart } from './template';
export { checkValue, fromWire, toWire, valueText } from './values';
