export { differManifests, type ShowDifference } from './difference';
export { applyEdit, editSchema, invertEdit, rebaseEdit, type Edit, type EditError, type RecordChange } from './edit';
export { canonicalJson } from './canonical';
export {
  argumentSchema,
  conditionSchema,
  idSchema,
  meaningSchema,
  meaningWords,
  recordSchema,
  tagSchema,
  type Argument,
  type Condition,
  type ControlRecord,
  type DeviceRecord,
  type LabelSegment,
  type LampRule,
  type Meaning,
  type PageRecord,
  type ReadingRef,
  type RecordKind,
  type RecordOf,
  type SendSpec,
  type ShowRecord,
  type TieRecord,
} from './records';
export { readingId, resolveArgument, resolveReading } from './values';
export { emptyCells, type Cell } from './cells';
export { formOf, isHeld, startOf, startOfStarter, withForm, type ControlForm } from './control-form';
export type { ActionResult, DeskView, DriversView } from './desk-view';
export { firstSteps, type FirstFacts, type FirstStep } from './first-steps';
export {
  addControlEdit,
  addPageEdit,
  changeControlEdit,
  changePageEdit,
  controlsOf,
  duplicatePageEdit,
  movePageEdit,
  pagesOf,
  removeControlEdit,
  removePageEdit,
} from './page-edits';
export {
  deviceFormOf,
  deviceFormProblems,
  type DeviceFormProblems,
  freeTag,
  signsIn,
  withDeviceForm,
  type DeviceForm,
} from './device-form';
export {
  addCommand,
  addReading,
  lineEndings,
  takesPayloads,
  withoutAddition,
  type TypedCommand,
  type TypedReading,
} from './own-command';
export { driverOfText, searchDrivers } from './driver-search';
export { usersOfDevice, usesOfRig, usersText, type DeviceUsers } from './references';
export {
  changeDevicesEdit,
  duplicateDeviceEdit,
  enterTableEdit,
  nextTag,
  removeDevicesEdit,
  shiftAddressesEdit,
  tieEdit,
} from './rig-edits';
export { maxTableRows, readRigTable, rigTable, tableColumns, type TableRow } from './rig-table';
export { loadEdit, readShowFile, showFileOf, withoutAddresses, type SealedSecrets, type ShowFile } from './show-file';
