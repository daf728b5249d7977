export { commandEntries, commandId, type CommandEntry } from './command-entries';
export { driverEntries } from './driver-entries';
export { readingEntries, readingId, readingText, type ReadingEntry } from './reading-entries';
export { WordSearch, type PickEntry, type PickMatch } from './word-search';
