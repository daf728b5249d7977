export { formatLabel, parseLabel, readingsOfLabel, renderLabel, type FaceSegment, type LabelError } from './label';
export { clockSeconds, clockText, type RunningClock } from './clock';
export { checkLabel, completeLabel, hasReading, nearest, type Completion, type LabelDevice } from './complete';
export { icons, type IconEntry } from './icons';
export { faceOf, itemName, listOf, readingsOfFace, type FaceView, type ListItem } from './control-face';
