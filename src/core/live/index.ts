export {
  errorResponseSchema,
  healthResponseSchema,
  pressRequestSchema,
  pressResponseSchema,
  readingsResponseSchema,
  sendRequestSchema,
  type HealthResponse,
  type PressResponse,
  type ReadingsResponse,
} from './api';
export {
  classOfRow,
  isPressed,
  keptAsRun,
  keptInRecord,
  mostOnScreen,
  tallySender,
  type RowClass,
} from './as-run-class';
export { isQuiet, isQuietNote, mostOnWire, quietRows } from './wire-rows';
export {
  applyDiff,
  pageOfTopic,
  readTopic,
  topicKinds,
  type MapDiff,
  type PageDiff,
  type Publish,
  type StatusDiff,
  type TopicKindName,
  type TopicName,
  type WholeNamed,
  type WholeOf,
} from './topic-kinds';
export type { PresetAct, PresetChange } from './presets';
export type { SnapshotChange } from './snapshots';
export { liveChangeSchema, type BindingChange, type GearBindings, type LiveChange } from './bindings';
export { findRequestSchema, type FindLine, type FoundDevice, type Sureness } from './find';
export type { PressReport, Question, QuestionsView, ScreenAct, ServerMessage } from './messages';
export {
  clientMessageSchema,
  readPress,
  type ClientMessage,
  type Gesture,
  type PressMessage,
  type ChooseMessage,
  type PresetMessage,
  type TrialMessage,
  type TurnMessage,
  type TryMessage,
} from './requests';
export type {
  Aim,
  AccessView,
  AsRunRow,
  GearView,
  LinkedView,
  NewsItem,
  PanelView,
  MacroRunsView,
  PastRun,
  GlideView,
  RunView,
  RunsView,
  ScreensView,
  ScreenView,
  AsRunSend,
  PressedControl,
  ControlView,
  DeviceStatus,
  HelperStatus,
  FaceView,
  PageLayout,
  PageView,
  PulseView,
  TallyView,
  ReadingsView,
  RowsView,
  RecorderView,
  StatusView,
  WireRow,
  WrongKeys,
} from './topics';
export { clockPanel, isPurpose, tallyPanel, walkPanel } from './topics';
export { candidateSchema, testRequestSchema, type TestCandidate, type TestLine, type TestRequest } from './tests';
export { driverTrialSchema, type DriverTrialLine, type DriverTrialRequest } from './trials';
export { delaysOf, summaryOf, type Delay, type DelaySummary } from './as-run-delays';
export { asRunFilterSchema, everything, filterQuery, fitsFilter, type AsRunFilter } from './as-run-filter';
export { asRunKinds, flatColumns, flatRow, outcomeOf, reportText, sentOf, whatOf, whoOfRow } from './as-run-text';
export { type Alert } from './alert';
export { drillActSchema, drillOrderSchema, type DrillAct, type DrillRunView, type DrillsView } from './drills';
export { replayOrderSchema, type LeftStep, type ReplayLine, type ReplayOrder, type ReplayStepLine } from './replay';
export { burnInOrderSchema, type BurnInDevice, type BurnInOrder, type BurnInView } from './burn-in';
export {
  incidentSeenSchema,
  type ConcernView,
  type DeviceHealth,
  type DeviceHistory,
  type HealthView,
  type ScreenHealth,
} from './health';
export {
  checkAnswerSchema,
  checkControlSchema,
  checkDismissSchema,
  checkOrderSchema,
  checkSignSchema,
  type CheckAnswer,
  type CheckItemView,
  type CheckOrder,
  type CheckResultView,
  type CheckRunView,
  type LineCheckView,
  type WalkQuestion,
  type WalkRoundView,
  type SignedReport,
} from './line-check';
