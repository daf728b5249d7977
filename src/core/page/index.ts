export { groupId, groupsOf } from './among';
export {
  areaBetween,
  boundsOf,
  cellsOf,
  contains,
  mostCells,
  overlaps,
  sameArea,
  zoneOf,
  type Area,
  type Cell,
} from './area';
export { inOrder, moveBy, placeFor, resizeTo, type Placed } from './arrange';
export { emptyCells, isFree } from './cells';
export {
  clipText,
  deviceMentionSchema,
  guessDevices,
  mentionOf,
  pasteEdit,
  readClip,
  type DeviceMention,
} from './clip';
export { sameControls } from './same-controls';
export { findControls, retargetEdit } from './find';
export { legendOf } from './legend';
export { offersOfPage, settableOn } from './page-offers';
export { groupOffers, offersOf, searchOffers, type Offer } from './offers';
export {
  addControlEdit,
  replaceControlEdit,
  addPageEdit,
  arrangeEdit,
  changeControlsEdit,
  changePageEdit,
  duplicatePageEdit,
  placePageEdit,
  removeControlsEdit,
  removePageEdit,
} from './page-edits';
export { cameraPageEdit, isSteered } from './camera-page';
export { cameraPagesEdit } from './camera-pages';
export { outsideOf, resizePageEdit, type Outside, type PageSize } from './resize-page';
export {
  countablesOf,
  countFrom,
  dealEdit,
  dealOnEdit,
  goneMembers,
  firstSend,
  listedValues,
  membersOf,
  missingValues,
  nextCells,
  seriesCells,
  withValue,
} from './series';
export { controlsOfZone, copyZoneEdit, putZoneEdit, removeZoneEdit } from './zones';
export {
  addSend,
  moveSend,
  paramNow,
  removeSend,
  replaceSend,
  gesturesOf,
  sendsOf,
  setHeld,
  setResponse,
  setKind,
  setParam,
  setRangeParam,
  setWait,
  withSendParam,
  type ResponseGesture,
} from './control-edits';
export { planSeries, seriesOver, startSeries, type SeriesDraft } from './series-plan';
export { viewOf } from './view';
export { askOffers } from './askables';
export { answered, askFor, changeAsked, checkAnswers, mostAsked, questionsOf } from './questions';
export { trialOf } from './trial';
export { kindsOf } from './kinds';
export {
  canBeContext,
  contextKey,
  readContextKey,
  usualContext,
  withPick,
  withShift,
  type PageContext,
} from './context-key';
export { isScreenKey, pageOfKey, setBy, type ScreenKey } from './sets';
export { calledAmong, readingsOfCall } from './called';
export {
  atLevel,
  changedAtLevel,
  changesAllLevels,
  drivingOther,
  inContext,
  namedByReadings,
  pickedIn,
} from './context';
export { sheetOf } from './sheet';
export { firstTest, namesDevices, readingsToChoose, shapeOf, startValue, type ReadingChoices } from './reading-choice';
export { conditionText, readingName } from './rule-text';
export {
  addRule,
  asKind,
  changeRule,
  conditionKinds,
  kindOf,
  moveRule,
  opsFor,
  opWords,
  removeRule,
  setWhen,
  shownCondition,
  tiedCondition,
  withOp,
  type ConditionKind,
} from './rule-edits';
export { shownChoices, startShown } from './shown-choices';
export { pageToShow, panelPlace } from './panel-place';
export { controlParts, hasPart, withPartOf, type ControlPart } from './control-parts';
