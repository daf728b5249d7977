export {
  areaAt,
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
export { inOrder, moveBy, placeFor, resizeTo, type Arrangement, type Placed } from './arrange';
export { emptyCells, isFree } from './cells';
export {
  clipText,
  deviceMentionSchema,
  guessDevices,
  mentionOf,
  pasteEdit,
  readClip,
  type Clip,
  type DeviceMention,
} from './clip';
export { findControls, retargetEdit, type Found } from './find';
export { legendOf, type LegendEntry } from './legend';
export { groupOffers, offersOf, searchOffers, type Offer, type OfferGroup } from './offers';
export {
  addControlEdit,
  addPageEdit,
  arrangeEdit,
  changeControlEdit,
  changeControlsEdit,
  changePageEdit,
  duplicatePageEdit,
  movePageEdit,
  removeControlsEdit,
  removePageEdit,
} from './page-edits';
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
  valueOfParam,
  withValue,
  type Countable,
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
  type ResponseGesture,
} from './control-edits';
export { planSeries, seriesOver, startSeries, type SeriesDraft, type SeriesPlan } from './series-plan';
export { echoOf, viewOf } from './view';
export { askOffers, type AskOffer } from './askables';
export {
  answered,
  askFor,
  changeAsked,
  checkAnswers,
  mostAsked,
  questionsOf,
  type Askable,
  type AnswerTakers,
} from './questions';
export { trialOf } from './trial';
export { kindsOf, type KindOffer } from './kinds';
export { contextKey, readContextKey, usualContext, withPick, withShift, type PageContext } from './context-key';
export { setBy } from './sets';
export { atLevel, changedAtLevel, changesAllLevels, inContext, pickedIn } from './context';
export {
  guessPatch,
  importEdit,
  moveKey,
  patchRows,
  type Moves,
  type PatchRow,
  type Placing,
  type StoredNumbers,
} from './import-pages';
export { pageFileOf, pageFileText, readPageFile, zoneFileOf, type PageFile } from './page-file';
export { columnName, sheetOf, type SheetRow } from './sheet';
export { firstTest, readingsToChoose, shapeOf, startValue, type ReadingChoices } from './reading-choice';
export { conditionText, readingName, ruleText } from './rule-text';
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
  type TestOp,
} from './rule-edits';
export { shownChoices, startShown, type ShownChoice } from './shown-choices';
export { pageToShow, panelPlace, type PanelPlace } from './panel-place';
