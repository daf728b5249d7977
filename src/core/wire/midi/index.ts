export { decodeMidi, encodeMidi, midiOf, midiText } from './codec';
export { MidiFramer } from './framer';
export type { MidiMessage } from './messages';
