export { differManifests, type ShowDifference } from './difference';
export {
  applyEdit,
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
  pageDataSchema,
  recordSchema,
  type Among,
  type ControlRecord,
  type ControlType,
  type DeviceRecord,
  type Helper,
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
  type SnapshotRecord,
  type PresetRecord,
  type BindingRecord,
  type TieRecord,
  type VariableRecord,
  type WatchRecord,
  type InletRecord,
  type Tint,
  type Zone,
} from './records';
export {
  conditionSchema,
  isLive,
  mapArgumentReadings,
  valueNameOf,
  mapConditionArguments,
  readingsOfArgument,
  mapConditionReadings,
  readingsOfCondition,
  type Argument,
  type LiveArgument,
  type SentArgument,
  type Condition,
  type ReadingRef,
  type ReadingTest,
} from './conditions';
export { idSchema } from './reading-ref';
export { highestPreset, presetDataSchema, type PresetBoard, type PresetData } from './preset';
export { liveKinds } from './live-kinds';
export { menuKeyOf, stickSettings, usualSlow, zoomKeyOf, zoomPart, type Steering } from './steering';
export { bindingDataSchema, type BindingData, type EncoderCoding } from './binding';
export {
  inputNames,
  inputRecorded,
  inputTally,
  isEngineKey,
  isTallyKey,
  noPreset,
  presetCalled,
  presetMissed,
  presetReached,
  sourcesOf,
  tallyInputs,
  tallyRecorded,
  tallyState,
  withEngineReadings,
} from './engine-readings';
export { readingId, resolveArgument, resolveParams, resolveReading, type LookUp } from './values';
export { controlsOf, pagesOf } from './pages';
export { devicesOf, drivenBy, mapReadings, mapLevels, withDevices } from './retarget';
export { plainButton } from './plain-button';
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
export { firstSteps } from './first-steps';
export {
  deviceFormOf,
  roleFor,
  helpersOf,
  usualPort,
  deviceFormProblems,
  freeTag,
  signsIn,
  signsInByName,
  withDeviceForm,
  type DeviceForm,
} from './device-form';
export * from './own';
export { driverWords } from './driver-search';
export { usersOfDevice, usesOfRig, usersText, type DeviceUses } from './references';
export {
  changeDevicesEdit,
  dealDisplaysEdit,
  displayEdit,
  duplicateDeviceEdit,
  enterTableEdit,
  offAirEdit,
  requestRightsEdit,
  steeringEdit,
  removeDevicesEdit,
  shiftAddressesEdit,
  tieEdit,
} from './rig-edits';
export { readRigTable, rigTable, tableColumns } from './rig-table';
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
  pictureSchema,
  picturesOfControl,
  picturesOfRecord,
  pictureSize,
  pictureType,
  type Picture,
  type PictureType,
} from './picture';
export { meaningWords } from './meanings';
export { showLookup, type ShowLookup } from './show-lookup';
export * from './own-device';
export { addressKey, stillKey, type ShownSpec } from './shown';
export {
  drillFaults,
  drillFaultWords,
  drillSchema,
  drillSubject,
  type Drill,
  type DrillFault,
  type DrillStep,
} from './drills';
export {
  concernCodes,
  limitRanges,
  limitWords,
  usualLimits,
  type ConcernCode,
  type HealthLimits,
} from './health-limits';
export { hideOn, panelsHiding } from './hidden';
export { hasFixedName, nameOfRecord } from './record-name';
export { summaryOf, type EditSummary, type KindSummary } from './edit-summary';
export {
  changePanelEdit,
  newPanelEdit,
  panelHasPage,
  panelsOf,
  panelsReached,
  pathProblem,
  bindEdit,
  removeBindingEdit,
  removePanelEdit,
} from './panel-edits';
export {
  frameRateSchema,
  macroDataSchema,
  type FrameRate,
  type MacroData,
  type MacroDoes,
  type MacroSegment,
  type MacroSend,
  type MacroStep,
  type WayOn,
} from './macro';
export { maxShowFileBytes, type NotStaged, type StagedShow } from './staged';
export {
  glideCurves,
  longestGlideMs,
  mostSnapshots,
  snapshotDataSchema,
  snapshotPartSchema,
  type GlideCurve,
  type GlideTime,
  type SnapshotData,
  type SnapshotPart,
} from './snapshot';
export { tintSchema, tintTitles } from './tint';
export { longestVariableText, mostVariables, type VariableData, type VariableValue } from './variable';
export { mostPreRoll, type KeyWhen, type Schedule, type WatchData, type WatchWhen } from './watch';
export { longestInletText, mostDisplays, topicFilter, type InletData, type Trigger } from './inlet';
