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
  useReadingsOf,
  useStatus,
  useWire,
} from './hooks';
export { LiveClient, type Connection, type PressMark, type SocketLike } from './live-client';
export { readLines } from './stream';
