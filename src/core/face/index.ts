export { formatLabel, parseLabel, readingsOfLabel, renderLabel, type FaceSegment, type LabelError } from './label';
