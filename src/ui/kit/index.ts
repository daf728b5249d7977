export { CommitInput } from './commit-input';
export { PopoverPanel } from './popover-panel';
export { Picker } from './picker';
export { Theirs } from './theirs';
export { useTyped } from './use-typed';
