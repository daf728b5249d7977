export { DrawnKind } from './drawn-kind';
export { Face, faceWords, textOf } from './face';
export { Icon } from './icon';
export { Legend } from './legend';
export { LivePage } from './live-page';
export { placeStyle } from './page-grid';
export { QuestionForm } from './question-form';
export { useHand } from './use-hand';
export { useScreenKey } from './use-screen-key';
