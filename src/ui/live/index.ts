export {
  LiveProvider,
  useAsRun,
  useCheckTopic,
  useConnection,
  useBurnIn,
  useWalkRound,
  useDrills,
  useHead,
  useHealth,
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
  useClocks,
  useTally,
  useTopicsAhead,
  useWire,
  useWireNowAndThen,
} from './hooks';
export { LiveClient, trialMark, type Invited, type Turning } from './live-client';
export type { PressMark } from './press-marks';
export { readLines } from './stream';
export { earlySocketScript } from './early-socket';
