export {
  accountOf,
  drillResultSchema,
  faultAccountSchema,
  lifted,
  seen,
  type DrillEvent,
  type DrillResult,
  type FaultAccount,
} from './account';
