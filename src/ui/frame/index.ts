export { CutOff } from './cut-off';
export { DeskFrame } from './desk-frame';
export { markTested } from './guide-store';
export { askForShortcuts } from './shortcut-help';
export { isTyping, shortcutOf } from './shortcuts';
export { AimWord, LinkStrip } from './strip';
export { NewsLine } from './news-line';
export { RunsLine } from './runs-line';
export { AlertLine } from './alert-line';
