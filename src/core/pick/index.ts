export { commandEntries, commandId, type CommandEntry } from './command-entries';
export { readingEntries, readingId, type ReadingEntry } from './reading-entries';
export { WordSearch, type PickEntry, type PickMatch } from './word-search';
