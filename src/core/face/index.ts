export { formatLabel, parseLabel, readingsOfLabel, renderLabel, type FaceSegment, type LabelError } from './label';
export { clockSeconds, clockText, type RunningClock } from './clock';
