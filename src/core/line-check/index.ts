export {
  checkItemSchema,
  checkResultSchema,
  type CheckItem,
  type CheckResult,
  type CheckSend,
  type ItemKind,
  type Proof,
  type ProofBy,
} from './item';
export { contextsOf } from './contexts';
export { planLineCheck } from './plan';
export { itemOfSend } from './uses';
export { keysOfCommand, otherValues, putBackOf } from './put-back';
export { bringAbout } from './bring-about';
export {
  figuresOf,
  isCurrent,
  standingOf,
  standings,
  tellingOf,
  tellingResult,
  type Figures,
  type ItemResults,
  type Standing,
} from './standing';
export { figuresText, groupsOf, type CheckGroup } from './groups';
export { compareReports } from './compare';
export { checkReportSchema, reportCsv, reportOf, type CheckReport } from './report';
