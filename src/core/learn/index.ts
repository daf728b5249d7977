export { isAlike } from './alike';
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
export { piecesOf, type Piece } from './pasted';
export { learnReading, type ReadingProposal } from './reading';
export { samplesOf } from './samples';
