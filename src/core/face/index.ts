export { formatLabel, parseLabel, readingsOfLabel, renderLabel, type FaceSegment } from './label';
export { clockText } from './clock';
export type { RunningClock } from '../clock';
export { checkLabel, completeLabel, hasReading, nearest, type LabelDevice } from './complete';
export { icons } from './icons';
export { faceNow, faceOf, itemName, labelNow, readingsOfFace, type FaceView, type ListItem } from './control-face';
export { isPictureValue } from './picture-value';
export { partOf, shownNow, type Shown } from './shown';
export { isBlank } from './sentence-label';
