export { bindingAs, readBindings, firstAxis, otherAxis, type Binding } from './bindings';
export { notchesOf, rockerWay } from './encoder';
export { readMidi, writeMidi, type GearEvent } from './midi';
export { notch, outOfDeadZone, PickUp } from './travel';
