export { besideText } from './beside';
export { ExchangeRecorder, exchangeSchema, type ExchangeLine } from './exchange';
export type {
  ComputerFinding,
  Gateway,
  IdentityFinding,
  LookupError,
  Network,
  NetworkInterface,
  PortAnswer,
  LocalPortInfo,
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
  judgeSharedAddress,
  judgeSignIn,
  routerTo,
  stageNames,
  stageTitles,
  troubleOf,
  isTroubleName,
  wordsOf,
  type StageName,
} from './judge';
export { judgeLocalPort, judgeOpening } from './local-port';
export { mendEdit, mendSchema } from './mend';
export type { Trouble } from './troubles';
export type { Mend, Verdict } from './verdict';
export { judgeHttpAnswer } from './http-answer';
export { looksLike } from './looks-like';
export { reportText, resultOf, summaryOf, summaryText } from './summary';
export { probeOrderSchema, type Announced, type Hit, type Probe, type ProbeAnswers, type ProbeOrder } from './orders';
