export { compileDriver, type CompiledDriver } from './compile';
export { expectationsOf, type Expectation } from './confirm';
export { decodeReply, type DecodedReply, type ReadingChange } from './decode';
export { encodeCommand, encodeDriverLine, type EncodedCommand } from './encode';
export { memberKey, splitKey } from './reading-key';
export {
  driverDocumentSchema,
  scalarSchema,
  type DriverCommand,
  type DriverDocument,
  type DriverReading,
  type ValueShape,
} from './schema';
export { fillTemplate, holesOf, parseTemplate, type TemplateError, type TemplatePart } from './template';
export { checkValue, fromWire, toWire } from './values';
