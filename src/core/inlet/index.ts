export { changeInletEdit, inletsOf, newInletEdit, removeInletEdit } from './edits';
export { addressesOf, type Addressed } from './addresses';
export { answerLine, answerStatus, errorAnswer, type InletAnswer } from './answer';
export {
  messageText,
  pathText,
  requestOfLine,
  requestOfOsc,
  requestOfPath,
  valueOfText,
  type InletError,
  type InletRequest,
  type InletSubject,
  type Listable,
} from './request';
export {
  answerTopic,
  fitsFilter,
  isOwnTopic,
  onlineTopic,
  publishedTopic,
  requestOfTopic,
  requestTopic,
  topicText,
  usualBase,
  usualPublished,
} from './mqtt-topics';
export { DmxSources, sourceLostMs } from './dmx-sources';
export { umdShown, type UmdShown } from './umd-shown';
export { inletDocument } from './document';
export { inletOpenApi } from './openapi';
export { requestRows, speechWords } from './requests-table';
export { macroParamsOf } from './macro-params';
export { isNamed } from './names';
export { mayComeFrom, SourceBudget } from './sources';
export {
  learnEdit,
  mostTriggers,
  takenBy,
  triggersOf,
  unlearnEdit,
  type LearnedTrigger,
  type Learner,
} from './triggers';
