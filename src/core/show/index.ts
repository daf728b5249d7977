export { differManifests, type ShowDifference } from './difference';
export {
  applyEdit,
  cutTitle,
  editSchema,
  invertEdit,
  mostChanges,
  rebaseEdit,
  storedEditSchema,
  type Edit,
  type EditError,
  type RecordChange,
} from './edit';
export { canonicalJson } from './canonical';
export {
  controlDataSchema,
  meaningSchema,
  pageDataSchema,
  recordSchema,
  tagSchema,
  tintSchema,
  type ControlRecord,
  type ControlType,
  type DeviceRecord,
  type LabelSegment,
  type LampRule,
  type Meaning,
  type PageRecord,
  type RecordKind,
  type RecordOf,
  type SendSpec,
  type ShowRecord,
  type PanelRecord,
  type MacroRecord,
  type TieRecord,
  type Tint,
  type Zone,
} from './records';
export {
  argumentSchema,
  conditionSchema,
  mapConditionArguments,
  mapConditionReadings,
  readingsOfCondition,
  type Argument,
  type Condition,
  type ReadingRef,
  type ReadingTest,
} from './conditions';
export { idSchema } from './reading-ref';
export { readingId, resolveArgument, resolveParams, resolveReading } from './values';
export { controlsOf, pagesOf } from './pages';
export { devicesOf, drivenBy, mapReadings, withDevices } from './retarget';
export { mapSends, needsHolding, sendsOfControl } from './sends';
export { isHeld, startOf, startOfStarter, type ControlStart } from './control-start';
export {
  withNews,
  withPending,
  type ActionResult,
  type HistoryFigures,
  type DeskView,
  type DriversView,
  type ShowNews,
  type ShowNow,
} from './desk-view';
export { firstSteps, type FirstFacts, type FirstStep } from './first-steps';
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
export { deviceFields, usersOfDevice, usesOfRig, usersText, type DeviceUsers, type DeviceUses } from './references';
export {
  changeDevicesEdit,
  dealDisplaysEdit,
  displayEdit,
  duplicateDeviceEdit,
  enterTableEdit,
  nextTag,
  offAirEdit,
  removeDevicesEdit,
  shiftAddressesEdit,
  tieEdit,
} from './rig-edits';
export { maxTableRows, readRigTable, rigTable, tableColumns, type TableRow } from './rig-table';
export {
  addressesThatDiffer,
  loadEdit,
  sameDevice,
  type LoadedAddresses,
  readShowFile,
  showFileOf,
  withoutAddresses,
  type SealedSecrets,
  type ShowFile,
} from './show-file';
export {
  maxPictureBytes,
  pictureSchema,
  picturesOfControl,
  pictureSize,
  pictureType,
  type Picture,
  type PictureType,
} from './picture';
export { meaningWords } from './meanings';
export { ownDevice, ownDocument, ownId, withOwn } from './own-device';
export { stillKey, type ShownSpec } from './shown';
export { hideOn, panelsHiding } from './hidden';
export { nameOfRecord } from './record-name';
export { summaryOf, type AddressChange, type EditSummary, type KindSummary } from './edit-summary';
export {
  changePanelEdit,
  newPanelEdit,
  pagesOfPanel,
  panelHasPage,
  panelsOf,
  panelsReached,
  pathProblem,
  removePanelEdit,
} from './panel-edits';
export {
  frameRateSchema,
  macroDataSchema,
  type FrameRate,
  type MacroArgument,
  type MacroData,
  type MacroDoes,
  type MacroSegment,
  type MacroSend,
  type MacroStep,
  type WayOn,
} from './macro';
export { maxShowFileBytes, type NotStaged, type StagedShow } from './staged';
