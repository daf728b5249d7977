export { OutsidePart } from './outside-part';
export { useLearning } from './use-learning';
