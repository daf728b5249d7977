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
  useAccess,
  useScreens,
  useStatus,
  useTally,
  useTopicsAhead,
  useWire,
} from './hooks';
export { LiveClient, trialMark, type Invited, type PressMark, type Turning } from './live-client';
export { readLines } from './stream';
export { earlySocketScript } from './early-socket';
