export { Button } from './button';
export { LinkWord } from './link-word';
export { VirtualRows } from './virtual-rows';
export { ageText, bytesText, clockText, durationText, linkAdvice, linkText, linkTone, outcomeShapes } from './words';
