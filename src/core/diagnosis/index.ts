export { besideText } from './beside';
export type {
  AddressFinding,
  ComputerFinding,
  Gateway,
  IdentityFinding,
  LookupError,
  Network,
  NetworkInterface,
  PortAnswer,
  PortFinding,
  ProtocolFinding,
  ReportsFinding,
  RoundTripFinding,
  RouteFinding,
  SignInFinding,
} from './findings';
export {
  heldHere,
  judgeAddress,
  judgeComputer,
  judgeIdentity,
  judgePort,
  judgeProtocol,
  judgeReports,
  judgeRoundTrip,
  judgeRoute,
  judgeSignIn,
  stageNames,
  stageTitles,
  troubleOf,
  wordsOf,
  type Mend,
  type StageName,
  type Verdict,
} from './judge';
export { looksLike } from './looks-like';
export { reportText, resultOf, summaryOf, summaryText, type TestResult, type TestSummary } from './summary';
export { troubleNames, troubles, type Trouble } from './troubles';
export { probeOrderSchema, type Announced, type Hit, type Probe, type ProbeAnswers, type ProbeOrder } from './orders';
