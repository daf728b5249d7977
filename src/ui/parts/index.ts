export { newId } from './new-id';
export { LinkWord, linkToneClass } from './link-word';
export { VeiledText, VeilOver } from './veiled-text';
export { VirtualRows } from './virtual-rows';
export { ageText, bytesText, clockText, durationText, linkAdvice, linkText, linkTone } from './words';
export { Cross, OutcomeShape, Tick, WireWay } from './marks';
export { QrCode } from './qr-code';
export { saveAsFile, saveJson } from './save-as-file';
export { ChangeSummary } from './change-summary';
