export { formatLabel, parseLabel, readingsOfLabel, renderLabel, type FaceSegment, type LabelError } from './label';
export { clockText } from './clock';
export { clockSeconds, type RunningClock } from '../clock';
export { checkLabel, completeLabel, hasReading, nearest, type Completion, type LabelDevice } from './complete';
export { icons, type IconEntry } from './icons';
export {
  faceNow,
  faceOf,
  itemName,
  listOf,
  readingsOfFace,
  type FaceSources,
  type FaceView,
  type ListItem,
} from './control-face';
export { readingsOfShown, shownNow, type LayoutBox, type Shown } from './shown';
