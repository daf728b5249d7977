export {
  LiveProvider,
  useAsRun,
  useConnection,
  useHead,
  useLastMark,
  useLinked,
  useLive,
  useMarks,
  useNow,
  usePage,
  useReadings,
  useReadingsNowAndThen,
  useReadingsOf,
  useMacroRuns,
  useRuns,
  useScreens,
  useStatus,
  useTally,
  useTopicsAhead,
  useWire,
} from './hooks';
export {
  LiveClient,
  trialMark,
  type Connection,
  type Invited,
  type Place,
  type PressMark,
  type SocketLike,
  type Turning,
} from './live-client';
export { readLines } from './stream';
export { earlySocketScript } from './early-socket';
