export { changeInletEdit, inletsOf, newInletEdit, removeInletEdit } from './edits';
export {
  inletWords,
  messageText,
  requestOfLine,
  requestOfOsc,
  valueOfText,
  type InletError,
  type InletRequest,
} from './request';
export { mayComeFrom, SourceBudget } from './sources';
