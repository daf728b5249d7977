export {
  LiveProvider,
  useAsRun,
  useConnection,
  useHead,
  useLastMark,
  useLive,
  useMarks,
  useNow,
  usePage,
  useReadings,
  useReadingsNowAndThen,
  useReadingsOf,
  useStatus,
  useTally,
  useTopicsAhead,
  useWire,
} from './hooks';
export { LiveClient, trialMark, type Connection, type PressMark, type SocketLike, type Turning } from './live-client';
export { readLines } from './stream';
