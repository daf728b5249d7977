export { learnCommand, type CommandProposal } from './command';
export {
  newDocument,
  withCommand,
  withFraming,
  withoutSample,
  withReading,
  withSample,
  type WrittenDocument,
} from './document';
export { cutFrames, learnFraming, type FramingGuess } from './framing';
export { learnReading, type ReadingProposal } from './reading';
export { samplesOf } from './samples';
