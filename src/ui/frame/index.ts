export { CutOff } from './cut-off';
export { DeskFrame } from './desk-frame';
export { AimWord, LinkStrip } from './strip';
