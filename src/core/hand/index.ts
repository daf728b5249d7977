export { bindingAs, readBindings, firstAxis, otherAxis, withBinding, type Binding } from './bindings';
export { readMidi, writeMidi, type GearEvent } from './midi';
export { notch, outOfDeadZone, PickUp } from './travel';
